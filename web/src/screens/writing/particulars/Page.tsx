import { Button, Field, Heading, HStack, Stack, Text, Textarea } from "@chakra-ui/react"
import { memo, useState, useSyncExternalStore } from "react"
import type { PageOut } from "../../../api/client"
import { EXPORTS } from "../../../document/exports"
import type { Saver } from "../../../editor/saver"
import type { Sheet } from "../../../editor/sheet"
import { Act } from "../../../look/Act"
import type { Desk } from "../desk"
import { exportPage } from "../exporting"
import { useOfSheet } from "../useSheetState"
import { Acts } from "./parts"

interface Props {
  page: PageOut
  sheet: Sheet | null
  saver: Saver | null
  editable: boolean
  desk: Desk
}

const never = () => () => {}

/** What the Shelf shows while nothing is selected: the page itself. */
export const PageParticulars = memo(function PageParticulars(props: Props) {
  const { page, sheet, saver, editable, desk } = props
  const [problem, setProblem] = useState("")
  const live = useSyncExternalStore(saver?.watch ?? never, () => saver?.get().live ?? null)
  const take = async (ending: string) => setProblem(await exportPage(page.id, saver, ending))
  const kept = page.items.filter(({ kind, restricted }) => kind === "picture" && restricted).length
  const description = useOfSheet(sheet, ({ doc }) => doc.attrs.description as string)
  return (
    <Stack as="section" aria-label="This page" gap="4" pt="1">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        This page
      </Heading>
      <Text fontSize="sm" wordBreak="break-all">
        {page.address}
      </Text>
      <Field.Root disabled={!editable}>
        <Field.Label>Description</Field.Label>
        <Textarea
          value={description}
          rows={4}
          maxLength={500}
          bg="paper"
          borderColor="edge"
          onChange={(event) => sheet?.setFact("description", event.target.value.replace(/\n/g, " "))}
        />
        <Field.HelperText color="quiet">
          One or two sentences. Search results show them below the title.
        </Field.HelperText>
      </Field.Root>
      <HStack gap="1" flexWrap="wrap">
        <Button size="xs" variant="outline" onClick={desk.versions}>
          Versions
        </Button>
        {editable && (
          <Button size="xs" variant="outline" onClick={desk.find}>
            Find and replace
          </Button>
        )}
        {editable && (
          <Button size="xs" variant="outline" onClick={desk.source}>
            Source
          </Button>
        )}
        <Button size="xs" variant="outline" onClick={desk.keys}>
          Keys
        </Button>
        <Button size="xs" variant="outline" onClick={desk.help}>
          Help
        </Button>
      </HStack>
      <Acts label="Export as">
        {EXPORTS.map(([ending, name]) => (
          <Act key={ending} onPress={() => void take(ending)}>
            {name}
          </Act>
        ))}
      </Acts>
      {kept > 0 && (
        <Text fontSize="sm" color="quiet">
          {kept === 1 ? "A picture" : `${kept} pictures`} for signed-in readers will stay behind: a file goes
          to anybody.
        </Text>
      )}
      <Text role="alert" fontSize="sm" color="wrong">
        {problem}
      </Text>
      {live && page.site.may_publish && (
        <Button size="xs" variant="outline" alignSelf="flex-start" onClick={desk.unpublish}>
          Unpublish…
        </Button>
      )}
    </Stack>
  )
})

import { Button, Field, Heading, HStack, Stack, Text, Textarea } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { memo, useState, useSyncExternalStore } from "react"
import type { PageOut } from "../../../api/client"
import { EXPORTS } from "../../../document/exports"
import type { Saver } from "../../../editor/saver"
import type { Sheet } from "../../../editor/sheet"
import { Act } from "../../../look/Act"
import type { Desk } from "../desk"
import { exportPage } from "../exporting"
import { useAddress } from "../useAddress"
import { useOfSheet } from "../useSheetState"
import { Naming } from "./Naming"
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
  const address = useAddress(page)
  const kept = page.items.filter(({ kind, restricted }) => kind === "picture" && restricted).length
  const description = useOfSheet(sheet, ({ doc }) => doc.attrs.description as string)
  return (
    <Stack as="section" aria-label={t`This page`} gap="4" pt="1">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        <Trans>This page</Trans>
      </Heading>
      <Text fontSize="sm" wordBreak="break-all">
        {address}
      </Text>
      <Field.Root disabled={!editable}>
        <Field.Label>
          <Trans>Description</Trans>
        </Field.Label>
        <Textarea
          value={description}
          rows={4}
          maxLength={500}
          bg="paper"
          borderColor="edge"
          onChange={(event) => sheet?.setFact("description", event.target.value.replace(/\n/g, " "))}
        />
        <Field.HelperText color="quiet">
          <Trans>One or two sentences. Search results show them below the title.</Trans>
        </Field.HelperText>
      </Field.Root>
      <Naming page={page} sheet={sheet} editable={editable} />
      <HStack gap="1" flexWrap="wrap">
        <Button size="xs" variant="outline" onClick={desk.versions}>
          <Trans>Versions</Trans>
        </Button>
        {editable && (
          <Button size="xs" variant="outline" onClick={desk.find}>
            <Trans>Find and replace</Trans>
          </Button>
        )}
        {editable && (
          <Button size="xs" variant="outline" onClick={desk.source}>
            <Trans>Source</Trans>
          </Button>
        )}
        <Button size="xs" variant="outline" onClick={desk.keys}>
          <Trans>Keys</Trans>
        </Button>
        <Button size="xs" variant="outline" onClick={desk.help}>
          <Trans>Help</Trans>
        </Button>
      </HStack>
      <Acts label={t`Export as`}>
        {EXPORTS.map(([ending, name]) => (
          <Act key={ending} onPress={() => void take(ending)}>
            {name}
          </Act>
        ))}
      </Acts>
      {kept > 0 && (
        <Text fontSize="sm" color="quiet">
          {plural(kept, {
            one: "A picture for signed-in readers will stay behind: a file goes to anybody.",
            other: "# pictures for signed-in readers will stay behind: a file goes to anybody.",
          })}
        </Text>
      )}
      <Text role="alert" fontSize="sm" color="wrong">
        {problem}
      </Text>
      {live && page.site.may_publish && (
        <Button size="xs" variant="outline" alignSelf="flex-start" onClick={desk.unpublish}>
          <Trans>Unpublish…</Trans>
        </Button>
      )}
    </Stack>
  )
})

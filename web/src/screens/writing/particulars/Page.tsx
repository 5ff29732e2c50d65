import { Button, Field, Heading, HStack, Stack, Text, Textarea } from "@chakra-ui/react"
import { memo, useState } from "react"
import { type PageOut, takeFile } from "../../../api/client"
import type { Saver } from "../../../editor/saver"
import type { Sheet } from "../../../editor/sheet"
import { Act } from "../../../look/Act"
import { useOfSheet } from "../useSheetState"
import { Acts } from "./parts"

interface Props {
  page: PageOut
  sheet: Sheet | null
  saver: Saver | null
  editable: boolean
  onKeys(): void
  onVersions(): void
  onSource(): void
}

const FORMATS = [
  ["docx", "DOCX"],
  ["odt", "ODT"],
  ["md", "Markdown"],
  ["html", "HTML"],
  ["txt", "Text"],
] as const

/** What the Shelf shows while nothing is selected: the page itself. */
export const PageParticulars = memo(function PageParticulars(props: Props) {
  const { page, sheet, saver, editable, onKeys, onVersions, onSource } = props
  const [problem, setProblem] = useState("")
  /** What goes out is what is saved; whatever is on the sheet is saved first. */
  const take = async (ending: string) => {
    await saver?.flush()
    const saved = saver?.get().state.kind === "saved"
    setProblem(saved ? "" : "The text is not saved yet, so it cannot be taken along.")
    if (!saved) return
    await takeFile(`/api/pages/${page.id}/export/${ending}`).catch((error: Error) =>
      setProblem(error.message),
    )
  }
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
      <HStack gap="1">
        <Button size="xs" variant="outline" onClick={onVersions}>
          Versions
        </Button>
        <Button size="xs" variant="outline" onClick={onKeys}>
          All keys
        </Button>
        {editable && (
          <Button size="xs" variant="outline" onClick={onSource} title="Alt+Shift+E">
            Source
          </Button>
        )}
      </HStack>
      <Acts label="Take the text along as">
        {FORMATS.map(([ending, name]) => (
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
    </Stack>
  )
})

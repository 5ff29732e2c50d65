import { Button, Field, Heading, Stack, Text, Textarea } from "@chakra-ui/react"
import type { PageOut } from "../../api/client"
import type { Sheet } from "../../editor/sheet"
import { useSheetState } from "./useSheetState"

interface Props {
  page: PageOut
  sheet: Sheet | null
  editable: boolean
  onKeys(): void
}

/** What the Shelf shows while nothing is selected: the page itself. */
export function PageParticulars({ page, sheet, editable, onKeys }: Props) {
  const description = useSheetState(sheet).doc.attrs.description as string
  return (
    <Stack gap="4" pt="1">
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
      <Button size="xs" variant="outline" alignSelf="flex-start" onClick={onKeys}>
        All keys
      </Button>
    </Stack>
  )
}

import { Button, Field, Heading, HStack, Stack, Text, Textarea } from "@chakra-ui/react"
import type { PageOut } from "../../../api/client"
import type { Sheet } from "../../../editor/sheet"
import { useSheetState } from "../useSheetState"

interface Props {
  page: PageOut
  sheet: Sheet | null
  editable: boolean
  onKeys(): void
  onVersions(): void
}

/** What the Shelf shows while nothing is selected: the page itself. */
export function PageParticulars({ page, sheet, editable, onKeys, onVersions }: Props) {
  const description = useSheetState(sheet).doc.attrs.description as string
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
      </HStack>
    </Stack>
  )
}

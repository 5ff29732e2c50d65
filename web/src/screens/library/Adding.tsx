import { Button, Stack, Text } from "@chakra-ui/react"
import { useRef } from "react"
import { type Upload, UploadList } from "../../look/UploadList"

interface Props {
  uploads: { list: Upload[]; dismiss(id: number): void }
  onFiles(files: File[]): void
}

/** Adds files to the library, and tells how far they are. */
export function Adding({ uploads, onFiles }: Props) {
  const choose = useRef<HTMLInputElement>(null)
  return (
    <Stack gap="2" mt="5">
      <Button size="sm" variant="outline" onClick={() => choose.current?.click()}>
        Add files
      </Button>
      <Text fontSize="xs" color="quiet">
        or drop them anywhere here.
      </Text>
      <input
        ref={choose}
        type="file"
        hidden
        multiple
        accept="image/jpeg,image/png,image/webp,image/gif,.pdf,.docx,.odt,.xlsx,.ods"
        aria-label="Files to add to the library"
        onChange={(event) => {
          onFiles([...(event.target.files ?? [])])
          event.target.value = ""
        }}
      />
      <UploadList uploads={uploads} />
    </Stack>
  )
}

import { Button } from "@chakra-ui/react"
import { useRef } from "react"

/** Chooses files of this computer; they go into the library, and onto the page where the caret is. */
export function AddFiles({ onFiles }: { onFiles(files: File[]): void }) {
  const choose = useRef<HTMLInputElement>(null)
  return (
    <>
      <Button size="sm" variant="outline" w="full" mb="3" onClick={() => choose.current?.click()}>
        Add files from this computer
      </Button>
      <input
        ref={choose}
        type="file"
        hidden
        multiple
        accept="image/jpeg,image/png,image/webp,image/gif,.pdf,.docx,.odt,.xlsx,.ods"
        aria-label="Files from this computer"
        onChange={(event) => onFiles([...(event.target.files ?? [])])}
      />
    </>
  )
}

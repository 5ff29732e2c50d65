import { Button, Field, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { type FormEvent, useRef, useState } from "react"
import { FILES } from "../../document/rules"
import { type Upload, UploadList } from "../../look/UploadList"

interface Props {
  uploads: { list: Upload[]; dismiss(id: number): void }
  onFiles(files: File[]): void
  onAddress(address: string): void
  /** Opens the commons; undefined where there is none. */
  onCommons?(): void
}

/** Adds files to the library: from this computer, from an address, from the commons. Tells how far they are. */
export function Adding({ uploads, onFiles, onAddress, onCommons }: Props) {
  const choose = useRef<HTMLInputElement>(null)
  const [address, setAddress] = useState("")
  const take = (event: FormEvent) => {
    event.preventDefault()
    if (!address.trim()) return
    onAddress(address.trim())
    setAddress("")
  }
  return (
    <Stack
      as="section"
      aria-label="Add to the library"
      gap="2"
      mt="4"
      pt="4"
      borderTopWidth="1px"
      borderColor="line"
    >
      <Button size="sm" variant="outline" onClick={() => choose.current?.click()}>
        Add files
      </Button>
      <Text fontSize="xs" color="quiet">
        or drop them anywhere here, or paste them.
      </Text>
      <input
        ref={choose}
        type="file"
        hidden
        multiple
        accept={FILES.library}
        aria-label="Files to add to the library"
        onChange={(event) => {
          onFiles([...(event.target.files ?? [])])
          event.target.value = ""
        }}
      />
      <form aria-label="Add by address" onSubmit={take}>
        <Field.Root>
          <Field.Label>Add from an address</Field.Label>
          <HStack w="full">
            <Input
              size="sm"
              value={address}
              placeholder="https://…"
              _placeholder={{ color: "quiet" }}
              bg="paper"
              borderColor="edge"
              maxLength={2000}
              onChange={(event) => setAddress(event.target.value)}
            />
            <Button type="submit" size="sm" variant="outline">
              Add
            </Button>
          </HStack>
        </Field.Root>
      </form>
      {onCommons && (
        <Button size="sm" variant="outline" onClick={onCommons}>
          Look in the commons
        </Button>
      )}
      <UploadList uploads={uploads} />
    </Stack>
  )
}

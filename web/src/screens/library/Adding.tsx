import { Button, Stack, Text } from "@chakra-ui/react"
import { useRef, useState } from "react"
import { type ItemOut, upload } from "../../api/client"
import { type Upload, UploadList } from "../../look/UploadList"

interface Added {
  list: Upload[]
  add(files: File[]): void
  dismiss(id: number): void
}

let count = 0

/** Files on their way into the library, one after the other. */
export function useAdding(limit: number, onAdded: (item: ItemOut) => void): Added {
  const [list, setList] = useState<Upload[]>([])
  const change = (id: number, part: Partial<Upload>) =>
    setList((all) => all.map((each) => (each.id === id ? { ...each, ...part } : each)))
  const dismiss = (id: number) => setList((all) => all.filter((each) => each.id !== id))
  const add = async (files: File[]) => {
    const waiting = files.map((file) => {
      count += 1
      const stop = new AbortController()
      const cancel = () => stop.abort()
      const entry: Upload = { id: count, name: file.name, share: 0, problem: "", choices: [], cancel }
      return { file, stop, entry }
    })
    setList((all) => [...all, ...waiting.map(({ entry }) => entry)])
    for (const { file, stop, entry } of waiting) {
      try {
        if (stop.signal.aborted) throw new DOMException("Cancelled", "AbortError")
        if (file.size > limit)
          throw new Error(`It is larger than ${Math.round(limit / 1024 / 1024)} MB, the most that is taken.`)
        onAdded(await upload(file, (share) => change(entry.id, { share }), stop.signal))
        dismiss(entry.id)
      } catch (error) {
        if ((error as Error).name === "AbortError") dismiss(entry.id)
        else change(entry.id, { problem: (error as Error).message })
      }
    }
  }
  return { list, add, dismiss }
}

export function Adding({ adding }: { adding: Added }) {
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
          adding.add([...(event.target.files ?? [])])
          event.target.value = ""
        }}
      />
      <UploadList uploads={adding} />
    </Stack>
  )
}

import { useState } from "react"
import { type ItemOut, upload } from "../api/client"
import type { Upload } from "./UploadList"

let count = 0

/** Files on their way into the library: a list to be shown, and the sending itself. */
export function useSending(limit: number) {
  const [list, setList] = useState<Upload[]>([])
  const change = (id: number, part: Partial<Upload>) =>
    setList((all) => all.map((each) => (each.id === id ? { ...each, ...part } : each)))
  const dismiss = (id: number) => setList((all) => all.filter((each) => each.id !== id))
  /** Put a file on the list; gives its number there. */
  const enter = (name: string, rest: Pick<Upload, "choices" | "cancel">) => {
    count += 1
    const id = count
    setList((all) => [...all, { id, name, share: 0, problem: "", ...rest }])
    return id
  }
  /** Send a file. Gives its item, or null when it was cancelled or refused, which the list tells. */
  const send = async (file: File): Promise<ItemOut | null> => {
    const stop = new AbortController()
    const id = enter(file.name, { choices: [], cancel: () => stop.abort() })
    if (file.size > limit) {
      const megabytes = Math.round(limit / 1024 / 1024)
      change(id, { problem: `It is larger than ${megabytes} MB, the most that is taken. Save it smaller.` })
      return null
    }
    try {
      const item = await upload(file, (share) => change(id, { share }), stop.signal)
      dismiss(id)
      return item
    } catch (error) {
      if ((error as Error).name === "AbortError") dismiss(id)
      else change(id, { problem: (error as Error).message })
      return null
    }
  }
  return { list, dismiss, enter, send }
}

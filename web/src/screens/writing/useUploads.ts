import { useState } from "react"
import { upload } from "../../api/client"
import type { Sheet } from "../../editor/sheet"
import { nameOfDocument } from "./offers"

export interface Upload {
  id: number
  name: string
  share: number
  problem: string
  cancel(): void
}

export interface Uploads {
  list: Upload[]
  /** Send files; each is put where the caret was when it was dropped. */
  add(files: File[], sheet: Sheet): void
  dismiss(id: number): void
}

let count = 0

/** Files on their way into the library. */
export function useUploads(limit: number): Uploads {
  const [list, setList] = useState<Upload[]>([])
  const change = (id: number, part: Partial<Upload>) =>
    setList((all) => all.map((each) => (each.id === id ? { ...each, ...part } : each)))
  const dismiss = (id: number) => setList((all) => all.filter((each) => each.id !== id))

  const one = async (file: File, sheet: Sheet) => {
    count += 1
    const id = count
    const stop = new AbortController()
    const entry: Upload = { id, name: file.name, share: 0, problem: "", cancel: () => stop.abort() }
    setList((all) => [...all, entry])
    if (file.size > limit) {
      const megabytes = Math.round(limit / 1024 / 1024)
      change(id, {
        problem: `It is larger than ${megabytes} MB, the most that is taken. Save it smaller.`,
      })
      return
    }
    const place = sheet.mark()
    try {
      const item = await upload(file, (share) => change(id, { share }), stop.signal)
      sheet.addItem(item, place, nameOfDocument(item))
      dismiss(id)
    } catch (error) {
      if ((error as Error).name === "AbortError") dismiss(id)
      else change(id, { problem: (error as Error).message })
    }
  }

  const add = async (files: File[], sheet: Sheet) => {
    for (const file of files) await one(file, sheet)
  }
  return { list, add, dismiss }
}

import { useState } from "react"
import { upload } from "../../api/client"
import type { Place } from "../../editor/landing"
import type { Sheet } from "../../editor/sheet"
import type { Upload } from "../../look/UploadList"
import { nameOfDocument } from "./offers"
import type { Arrivals } from "./useArrivals"

export interface Uploads {
  list: Upload[]
  /** Send files; each is put where the caret was when it was dropped. */
  add(files: File[], sheet: Sheet): void
  dismiss(id: number): void
}

let count = 0

/** A text is put onto the page; what may be a text or a document to link to is asked about. */
const TEXT = /\.(md|markdown|html?|txt)$/i
const EITHER = /\.(docx|odt)$/i

/** Files on their way into the library, and texts on their way onto the page. */
export function useUploads(limit: number, arrivals: Arrivals): Uploads {
  const [list, setList] = useState<Upload[]>([])
  const change = (id: number, part: Partial<Upload>) =>
    setList((all) => all.map((each) => (each.id === id ? { ...each, ...part } : each)))
  const dismiss = (id: number) => setList((all) => all.filter((each) => each.id !== id))

  const one = async (file: File, sheet: Sheet, place: Place) => {
    count += 1
    const id = count
    const stop = new AbortController()
    const entry: Upload = {
      id,
      name: file.name,
      share: 0,
      problem: "",
      choices: [],
      cancel: () => stop.abort(),
    }
    setList((all) => [...all, entry])
    if (file.size > limit) {
      const megabytes = Math.round(limit / 1024 / 1024)
      change(id, {
        problem: `It is larger than ${megabytes} MB, the most that is taken. Save it smaller.`,
      })
      return
    }
    try {
      const item = await upload(file, (share) => change(id, { share }), stop.signal)
      sheet.addItem(item, place, nameOfDocument(item))
      dismiss(id)
    } catch (error) {
      sheet.release(place)
      if ((error as Error).name === "AbortError") dismiss(id)
      else change(id, { problem: (error as Error).message })
    }
  }

  /** Ask whether a file's text is wanted, or the file. */
  const choose = (file: File, sheet: Sheet) => {
    count += 1
    const id = count
    const place = sheet.hold(1)
    const then = (act: () => void) => () => {
      dismiss(id)
      act()
    }
    const choices = [
      { label: "Put its text onto the page", take: then(() => arrivals.file(file, sheet, place)) },
      { label: "Add it as a document to link to", take: then(() => void one(file, sheet, place)) },
    ]
    const cancel = then(() => sheet.release(place))
    setList((all) => [...all, { id, name: file.name, share: 0, problem: "", choices, cancel }])
  }

  const add = async (files: File[], sheet: Sheet) => {
    for (const file of files) {
      if (EITHER.test(file.name)) choose(file, sheet)
      else if (TEXT.test(file.name)) await arrivals.file(file, sheet, sheet.hold(1))
      else await one(file, sheet, sheet.hold(1))
    }
  }
  return { list, add, dismiss }
}

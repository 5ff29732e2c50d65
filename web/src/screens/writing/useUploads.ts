import { t } from "@lingui/core/macro"
import type { ItemOut } from "../../api/client"
import type { Place } from "../../editor/landing"
import type { Sheet } from "../../editor/sheet"
import type { Upload } from "../../look/UploadList"
import { type Limits, useSending } from "../../look/useSending"
import { nameOfDocument } from "./offers"
import type { Arrivals } from "./useArrivals"

export interface Uploads {
  list: Upload[]
  /** Send files; each is put where the caret was when it was dropped. */
  add(files: File[], sheet: Sheet): void
  /** Have the server fetch what is at an address, and put it at the caret. */
  fetch(address: string, sheet: Sheet): void
  /** Take a picture of the commons, and put it at the caret. */
  takeFromCommons(id: string, title: string, sheet: Sheet): void
  dismiss(id: number): void
}

/** A text is put onto the page; what may be a text or a document to link to is asked about. */
const TEXT = /\.(md|markdown|html?|txt)$/i
const EITHER = /\.(docx|odt)$/i

/** Files on their way into the library, and texts on their way onto the page. */
export function useUploads(limits: Limits, arrivals: Arrivals): Uploads {
  const { list, dismiss, enter, send, fetchFrom, take } = useSending(limits)

  const put = async (coming: Promise<ItemOut | null>, sheet: Sheet, place: Place) => {
    const item = await coming
    if (item) sheet.addItem(item, place, nameOfDocument(item))
    else sheet.release(place)
  }

  const one = (file: File, sheet: Sheet, place: Place) => put(send(file), sheet, place)

  /** Ask whether a file's text is wanted, or the file. */
  const choose = (file: File, sheet: Sheet) => {
    const place = sheet.hold(1)
    const then = (act: () => void) => () => {
      dismiss(id)
      act()
    }
    const choices = [
      { label: t`Put its text onto the page`, take: then(() => void arrivals.file(file, sheet, place)) },
      { label: t`Add it as a document to link to`, take: then(() => void one(file, sheet, place)) },
    ]
    const id = enter(file.name, { choices, cancel: then(() => sheet.release(place)) })
  }

  const add = async (files: File[], sheet: Sheet) => {
    for (const file of files) {
      if (EITHER.test(file.name)) choose(file, sheet)
      else if (TEXT.test(file.name)) await arrivals.file(file, sheet, sheet.hold(1))
      else await one(file, sheet, sheet.hold(1))
    }
  }
  return {
    list,
    add,
    dismiss,
    fetch: (address, sheet) => void put(fetchFrom(address), sheet, sheet.hold(1)),
    takeFromCommons: (id, title, sheet) => void put(take(id, title), sheet, sheet.hold(1)),
  }
}

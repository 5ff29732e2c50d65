import { t } from "@lingui/core/macro"
import { askItems, type ItemOut } from "../../api/client"
import { FILES } from "../../document/rules"
import type { Place } from "../../editor/places"
import type { Sheet } from "../../editor/sheet"
import { say } from "../../look/heard"
import { putDown } from "../../look/picked"
import type { Upload } from "../../look/UploadList"
import { isPlayed, type Limits, useSending } from "../../look/useSending"
import { kilobytes } from "../../look/words"
import { type Along, nameOfDocument } from "./offers"
import type { Arrivals } from "./useArrivals"

export interface Uploads {
  list: Upload[]
  /** Send files; each is put where the caret was when it was dropped. */
  add(files: File[], sheet: Sheet): void
  /** Send what was recorded, and put it where the caret is; whether it is in the library. */
  recorded(file: File, sheet: Sheet): Promise<boolean>
  /** Have the server fetch what is at an address, and put it at the caret. */
  fetch(address: string, sheet: Sheet): void
  /** Take a picture of the commons, and put it at the caret. */
  takeFromCommons(id: string, title: string, sheet: Sheet): void
  /** Put what was taken along from the library at the caret: its documents as a list, or its pictures. */
  takeAlong(items: readonly number[], as: Along, sheet: Sheet): void
  dismiss(id: number): void
}

/** A text is put onto the page; what may be a text or a document to link to is asked about. */
const TEXT = /\.(md|markdown|html?|txt)$/i
const EITHER = /\.(docx|odt)$/i
const isPaper = ({ name }: File) =>
  !EITHER.test(name) && FILES.documents.some((ending) => name.toLowerCase().endsWith(ending))

const isPicture = ({ type }: File) => type.startsWith("image/")
/** From so many pictures on, a drop is meant for a gallery. */
const MANY = 4

/**
 * Do what puts something onto the page, unless that has been left; whoever writes elsewhere on it meanwhile hears of it.
 */
async function landing(sheet: Sheet, place: Place, name: string, put: () => void, isHeard = true) {
  await sheet.whenFree()
  if (sheet.view.isDestroyed) return
  const wasLeft = sheet.wasLeft(place)
  put()
  if (wasLeft && isHeard) say(t`On the page now: ${name}`)
}

/** Files on their way into the library, and texts on their way onto the page. */
export function useUploads(limits: Limits, arrivals: Arrivals): Uploads {
  const { list, dismiss, enter, send, fetchFrom, take } = useSending(limits)

  const put = async (coming: Promise<ItemOut | null>, sheet: Sheet, place: Place) => {
    const item = await coming
    if (!item) sheet.release(place)
    else await landing(sheet, place, item.title, () => sheet.addItem(item, place, nameOfDocument(item)))
    return item !== null
  }

  const one = (file: File, sheet: Sheet, place: Place) => put(send(file), sheet, place)

  /** Ask whether a file's text is wanted, or the file. */
  const choose = (file: File, sheet: Sheet, place: Place) => {
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

  /** A film that is large for a page is told before anything is sent; it may be wanted all the same. */
  const confirm = (file: File, most: number, sheet: Sheet, place: Place) => {
    const then = (act: () => void) => () => {
      dismiss(id)
      act()
    }
    const take = then(() => void one(file, sheet, place))
    const id = enter(file.name, {
      told: t`This film has ${kilobytes(file.size)}; a film of a page is to have ${kilobytes(most)} at most. It will be made smaller; whether that is enough, the page check tells.`,
      choices: [{ label: t`Add it all the same`, take }],
      cancel: then(() => sheet.release(place)),
    })
  }

  /** Several documents at once become one list of downloads. */
  const listed = async (files: File[], sheet: Sheet, place: Place) => {
    const items = (await Promise.all(files.map((file) => send(file)))).filter((item) => item !== null)
    await landing(
      sheet,
      place,
      t`A list of downloads`,
      () => sheet.addDownloads(items, place),
      items.length > 0,
    )
  }

  /** Many pictures at once become one gallery, in the order of their names. */
  const hung = async (files: File[], sheet: Sheet, place: Place) => {
    const ordered = files.toSorted((one, other) =>
      one.name.localeCompare(other.name, undefined, { numeric: true }),
    )
    const items = (await Promise.all(ordered.map((file) => send(file)))).filter((item) => item !== null)
    await sheet.whenFree()
    if (sheet.view.isDestroyed) return
    sheet.addPictures(items, place, "gallery")
    if (items.length) say(t`A gallery of them stands on the page; Undo takes it back.`)
  }

  const takeAlong = async (items: readonly number[], as: Along, sheet: Sheet) => {
    const place = sheet.hold(1)
    const name = t`Taken along from the library`
    const told = (words: string, choices: Upload["choices"] = []) => {
      const id: number = enter(name, {
        told: words,
        choices,
        done: !choices.length,
        cancel: () => dismiss(id),
      })
      return id
    }
    let found: ItemOut[]
    try {
      found = await askItems(items)
    } catch (error) {
      sheet.release(place)
      const again = () => {
        dismiss(id)
        void takeAlong(items, as, sheet)
      }
      const id = told((error as Error).message, [{ label: t`Try again`, take: again }])
      return
    }
    const fitting = found.filter(({ kind }) => kind === (as === "downloads" ? "document" : "picture"))
    await sheet.whenFree()
    if (sheet.view.isDestroyed) return
    if (as === "downloads") sheet.addDownloads(fitting, place)
    else sheet.addPictures(fitting, place, as)
    // What found no place here is still taken along.
    if (fitting.length) putDown()
    const left = found.length - fitting.length
    const gone = items.length - found.length
    if (left && as === "downloads") told(t`Left out, since they are no documents: ${left}`)
    else if (left) told(t`Left out, since they are no pictures: ${left}`)
    if (gone) told(t`Left out, since they are no longer in the library: ${gone}`)
  }

  const add = async (given: File[], sheet: Sheet) => {
    const documents = given.filter(isPaper)
    const pictures = given.filter(isPicture)
    const listing = documents.length > 1
    const hanging = pictures.length >= MANY
    if (listing) void listed(documents, sheet, sheet.hold(1))
    if (hanging) void hung(pictures, sheet, sheet.hold(1))
    const texts: [File, Place][] = []
    for (const file of given) {
      if ((listing && documents.includes(file)) || (hanging && pictures.includes(file))) continue
      const place = sheet.hold(1)
      if (EITHER.test(file.name)) choose(file, sheet, place)
      else if (TEXT.test(file.name)) texts.push([file, place])
      else if (isPlayed(file) && limits.pageFilm && file.size > limits.pageFilm && file.size <= limits.film)
        confirm(file, limits.pageFilm, sheet, place)
      else void one(file, sheet, place)
    }
    // Of texts only the newest is told.
    for (const [file, place] of texts) await arrivals.file(file, sheet, place)
  }
  return {
    list,
    add,
    dismiss,
    takeAlong: (items, as, sheet) => void takeAlong(items, as, sheet),
    recorded: (file, sheet) => put(send(file), sheet, sheet.hold(1)),
    fetch: (address, sheet) => void put(fetchFrom(address), sheet, sheet.hold(1)),
    takeFromCommons: (id, title, sheet) => void put(take(id, title), sheet, sheet.hold(1)),
  }
}

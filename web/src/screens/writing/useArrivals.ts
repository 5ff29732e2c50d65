import { t } from "@lingui/core/macro"
import { useQueryClient } from "@tanstack/react-query"
import { undo } from "prosemirror-history"
import { Fragment, type Node } from "prosemirror-model"
import { NodeSelection, TextSelection, type Transaction } from "prosemirror-state"
import { useRef, useState } from "react"
import { after, forget } from "../../api/answers"
import { type Arrived, ask, client, readFile, type Told, upload } from "../../api/client"
import { isReference } from "../../document/described"
import type { Clip } from "../../editor/clipboard"
import { insertLink, kinds, markKinds, replaceAll } from "../../editor/commands"
import type { Known } from "../../editor/known"
import { landed, surroundings } from "../../editor/landing"
import type { Place } from "../../editor/places"
import { schema } from "../../editor/schema"
import type { Sheet } from "../../editor/sheet"
import { say } from "../../look/heard"
import { isCode } from "./offers"

/** A text that came onto the page, or is on its way, and what is told of it. */
export interface Arrival {
  /** “The paste”, or a file's name. */
  what: string
  state: "reading" | "here" | "read-here" | "failed"
  told: Told
  /** Why the browser read it, or why it could not be read. */
  problem: string
  /** How much of a file has gone to the server; null where that is not known. */
  share: number | null
  /** Break off while it is being read. */
  cancel?: () => void
  /** What was pasted, where it was nothing but an address. */
  address?: string
  /** The text just after, for as long as the plain words can be had instead. */
  doc?: Node
  plain?: () => void
}

export interface Arrivals {
  current: Arrival | null
  paste(clip: Clip, plain: boolean, sheet: Sheet): void
  /** Put the text of a file onto the page. */
  file(file: File, sheet: Sheet, place: Place): Promise<void>
  dismiss(): void
}

const NOTHING: Told = { kept: [], mended: [], dropped: [] }
const WORDS_ALONE: Told = { ...NOTHING, kept: [t`the words and their paragraphs`] }

/** In milliseconds: how long a paste may take to be read before the browser reads it. */
const PATIENCE = 30_000

/** The title of a page on which there was nothing when a file was chosen, all of which is to be that page. */
interface Whole {
  title: string
}

/** Texts from elsewhere: read by the server, put in as one step, and told. */
export function useArrivals(known: Known): Arrivals {
  const [current, setCurrent] = useState<Arrival | null>(null)
  const queries = useQueryClient()
  const count = useRef(0)

  /** Only the newest arrival is told. */
  const teller = (beginning: Arrival) => {
    count.current += 1
    const mine = count.current
    setCurrent(beginning)
    return (change: Partial<Arrival> | null) =>
      setCurrent((now) => (mine !== count.current ? now : change && { ...beginning, ...change }))
  }

  const put = (arrived: Arrived, place: Place, sheet: Sheet, whole: Whole | null, edges = "") => {
    known.add(arrived.items, arrived.pages)
    if (arrived.items.length) void forget(queries, after.library)
    const text = schema.nodeFromJSON(arrived.document)
    // What was written while it was read stays.
    const alone = whole && isEmpty(sheet.state.doc)
    sheet.land(place, () => {
      const { state } = sheet
      const tr =
        alone && text.childCount > 1
          ? replaceAll(state, state.doc.copy(text.content))
          : landed(state, place, withEdges(inOne(text), edges))
      const unnamed = alone && state.doc.attrs.title === whole.title
      return arrived.title && unnamed ? tr.setDocAttribute("title", arrived.title) : tr
    })
    return sheet.state.doc
  }

  const paste = async (clip: Clip, plain: boolean, sheet: Sheet) => {
    const address = addressAlone(clip)
    // Over words that are selected, an address is meant for them.
    if (address && !isCode(address) && !plain && isWords(sheet)) {
      sheet.step(insertLink(sheet.state, address, address))
      say(t`The selected words are a link`)
      return
    }
    const place = sheet.hold(-1)
    const stop = new AbortController()
    const tell = teller({
      what: t`The paste`,
      state: "reading",
      told: NOTHING,
      problem: "",
      share: null,
      cancel: () => stop.abort(),
    })
    const read = async (words: boolean, pictures: number[]) => {
      const { html, text, rtf } = clip
      const body = { html, text, rtf, plain: words, pictures, ...surroundings(sheet.state, place.from) }
      const signal = AbortSignal.any([stop.signal, AbortSignal.timeout(PATIENCE)])
      return ask(client.POST("/api/paste", { body, signal }))
    }
    try {
      const pictures = plain ? [] : await added(clip.pictures, stop.signal)
      const arrived = await read(plain, pictures)
      await sheet.whenFree()
      if (stop.signal.aborted || sheet.view.isDestroyed) throw new DOMException("Cancelled", "AbortError")
      const { told } = arrived
      const there = { ...place }
      const doc = put(arrived, place, sheet, null, clip.text)
      const instead = async () => {
        try {
          const words = await read(true, [])
          if (sheet.state.doc !== doc) return
          undo(sheet.state, (tr) => sheet.dispatch(tr))
          tell({
            state: "here",
            told: WORDS_ALONE,
            doc: put(words, sheet.hold(-1, there), sheet, null, clip.text),
          })
        } catch (error) {
          tell({ state: "here", told, doc, plain: instead, problem: (error as Error).message })
        }
      }
      if (address) tell({ state: "here", told, doc, address })
      else if (plain) tell({ state: "here", told: WORDS_ALONE, doc })
      else tell({ state: "here", told, doc, plain: instead })
    } catch (error) {
      await sheet.whenFree()
      sheet.release(place)
      if (stop.signal.aborted || sheet.view.isDestroyed) return tell(null)
      sheet.pasteHere(clip, place)
      tell({ state: "read-here", problem: (error as Error).message })
    }
  }

  const file = async (given: File, sheet: Sheet, place: Place) => {
    const stop = new AbortController()
    const cancel = () => stop.abort()
    const { doc: before } = sheet.state
    const whole = isEmpty(before) ? { title: before.attrs.title } : null
    // What is selected stays.
    place.from = place.to
    const tell = teller({ what: given.name, state: "reading", told: NOTHING, problem: "", share: 0, cancel })
    try {
      const arrived = await readFile(given, surroundings(sheet.state, place.from), whole !== null, {
        signal: stop.signal,
        progress: (share) => tell({ share: share < 1 ? share : null }),
      })
      await sheet.whenFree()
      if (sheet.view.isDestroyed) return
      const wasLeft = sheet.wasLeft(place)
      const doc = put(arrived, place, sheet, whole)
      tell({ state: "here", told: arrived.told, doc })
      if (!wasLeft) sheet.focus()
    } catch (error) {
      sheet.release(place)
      tell(
        (error as Error).name === "AbortError"
          ? null
          : { state: "failed", problem: (error as Error).message },
      )
    }
  }

  const dismiss = () => {
    count.current += 1
    setCurrent(null)
  }
  return { current, paste, file, dismiss }
}

/** The address that a clipboard holds, or the code of a film, and nothing else. */
function addressAlone({ text, pictures }: Clip): string | null {
  const words = text.trim()
  if (pictures.length) return null
  const address = /^https?:\/\/\S+$/.test(words) && isReference(words)
  return address || (isCode(words) && /<iframe\b/i.test(words)) ? words : null
}

/** A text of several regions that comes to a place among others. */
function inOne(text: Node): Node {
  const region = text.firstChild as Node
  if (text.childCount === 1) return text
  return text.copy(Fragment.from(region.copy(Fragment.from(text.children.flatMap((each) => each.children)))))
}

/** Whether some words of one paragraph are selected. */
function isWords({ state: { selection } }: Sheet): boolean {
  const { $from, $to, empty } = selection
  return !empty && selection instanceof TextSelection && $from.sameParent($to) && $from.parent.inlineContent
}

/** The link that an address just pasted may be made, where the caret still stands behind it. */
export function linkedAddress(sheet: Sheet, address: string): Transaction | null {
  const { selection, doc, tr } = sheet.state
  const from = selection.from - address.length
  if (from < 0 || isCode(address) || doc.textBetween(from, selection.from) !== address) return null
  return tr.addMark(from, selection.from, markKinds.link.create({ href: address }))
}

/** Some words of a line with the spaces that were copied at their edges, which mean nothing in a paragraph alone. */
function withEdges(text: Node, copied: string): Node {
  const region = text.firstChild as Node
  const only = region.childCount === 1 ? region.firstChild : null
  if (only?.type !== kinds.paragraph || !only.content.size || /\n/.test(copied.trim())) return text
  const space = (there: boolean) => (there ? Fragment.from(schema.text(" ")) : Fragment.empty)
  const content = space(/^[ \u00a0]/.test(copied))
    .append(only.content)
    .append(space(/[ \u00a0]$/.test(copied)))
  return text.copy(Fragment.from(region.copy(Fragment.from(only.copy(content)))))
}

/** Pictures of the clipboard, put into the library; one that cannot be is told as missing when the text is read. */
async function added(files: File[], signal: AbortSignal): Promise<number[]> {
  const all = await Promise.allSettled(files.map((file) => upload(file, { signal, progress: () => {} })))
  return all.flatMap((each) => (each.status === "fulfilled" ? [each.value.id] : []))
}

/** Whether more came than words in paragraphs. */
export function worthTelling({ kept, mended, dropped }: Told): boolean {
  return mended.length > 0 || dropped.length > 0 || kept.some((words) => !/ paragraphs?$/.test(words))
}

const isEmpty = (doc: Node) =>
  !doc.textContent &&
  doc.children.every(({ childCount, firstChild }) => childCount === 1 && firstChild?.type === kinds.paragraph)

/** The pictures on the page that say nothing to who cannot see them. */
export function mutePictures(sheet: Sheet, known: Known): number[] {
  const found: number[] = []
  sheet.state.doc.descendants((node, position) => {
    if (node.type !== kinds.picture || node.attrs.decorative || node.attrs.alt) return
    const item = known.item(node.attrs.item)
    if (!item?.alt && !item?.decorative) found.push(position)
  })
  return found
}

export function selectPicture(sheet: Sheet, position: number) {
  const { tr } = sheet.state
  sheet.dispatch(tr.setSelection(NodeSelection.create(tr.doc, position)).scrollIntoView())
}

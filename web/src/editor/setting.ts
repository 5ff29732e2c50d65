/** How words and paragraphs are set: text styles, alignment, tones, and what is said of words with more than a yes. */
import type { Attrs, MarkType } from "prosemirror-model"
import type { Command, EditorState, Transaction } from "prosemirror-state"
import { kinds, markKinds, runAt } from "./commands"

export type Align = "centre" | "end" | null

/** Where lines stand, as the trade calls it for text that runs from left to right; null is the start of the line. */
export const ALIGNS: readonly [Align, string][] = [
  [null, "left"],
  ["centre", "centre"],
  ["end", "right"],
]

/** Every paragraph and heading of the selection, with its position. */
function settable(state: EditorState) {
  const { from, to } = state.selection
  const found: { position: number; attrs: Attrs; heading: boolean }[] = []
  state.doc.nodesBetween(from, to, (node, position) => {
    const heading = node.type === kinds.heading
    if (heading || node.type === kinds.paragraph) found.push({ position, attrs: node.attrs, heading })
    return !node.isTextblock
  })
  return found
}

/** null stands for the start of the line. */
export const setAlign =
  (align: Align): Command =>
  (state, dispatch) => {
    const blocks = settable(state)
    if (!blocks.length) return false
    const tr = state.tr
    for (const { position, attrs } of blocks) tr.setNodeMarkup(position, null, { ...attrs, align })
    dispatch?.(tr)
    return true
  }

/** A text style of the theme, or null for none. Headings have none of their own. */
export const setStyle =
  (style: string | null): Command =>
  (state, dispatch) => {
    const blocks = settable(state).filter(({ heading }) => !heading)
    if (!blocks.length) return false
    const tr = state.tr
    for (const { position, attrs } of blocks) tr.setNodeMarkup(position, null, { ...attrs, style })
    dispatch?.(tr)
    return true
  }

/** What all selected blocks share; undefined where they differ or there are none. */
export function settingAt(state: EditorState): { align?: Align; style?: string | null; any: boolean } {
  const blocks = settable(state)
  const shared = (name: "align" | "style", from = blocks) => {
    const values = new Set(from.map(({ attrs }) => attrs[name] ?? null))
    return values.size === 1 ? [...values][0] : undefined
  }
  return {
    any: blocks.length > 0,
    align: shared("align"),
    style: shared(
      "style",
      blocks.filter(({ heading }) => !heading),
    ),
  }
}

/** The value of a mark at the selection: of the words at the caret, or of the first that are selected. */
export function markValue(state: EditorState, type: MarkType): Attrs | null {
  const { $from, empty } = state.selection
  const here = empty ? (state.storedMarks ?? $from.marks()) : ($from.nodeAfter?.marks ?? [])
  return type.isInSet(here)?.attrs ?? null
}

/** Say something of the selected words, or (nothing selected) of the words at the caret that bear it already. */
export function setMark(state: EditorState, type: MarkType, attrs: Attrs | null): Transaction | null {
  const { empty } = state.selection
  const run = empty ? runAt(state, type) : state.selection
  if (!run) return null
  const tr = state.tr.removeMark(run.from, run.to, type)
  return attrs ? tr.addMark(run.from, run.to, type.create(attrs)) : tr
}

/** Which ground of the theme the caret stands on. */
export function groundAt(state: EditorState): string {
  const { $from } = state.selection
  for (let depth = $from.depth; depth > 0; depth--) {
    const node = $from.node(depth)
    if (node.type === kinds.aside) return node.attrs.sort
    if (node.type === kinds.table_header) return "header"
  }
  return "page"
}

/** The marks that say something of words by a value. */
export const VALUED = {
  abbreviation: markKinds.abbreviation,
  language: markKinds.language,
  tone: markKinds.tone,
}

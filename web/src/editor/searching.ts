/**
 * Finding words on the page, wherever they stand: in the text, in alt texts and captions, in the addresses of links, in
 * the title and the description; and putting others in their place.
 */
import type { Node } from "prosemirror-model"
import {
  type EditorState,
  NodeSelection,
  Plugin,
  PluginKey,
  TextSelection,
  type Transaction,
} from "prosemirror-state"
import { Decoration, DecorationSet } from "prosemirror-view"
import { isReference } from "../document/described"
import { kinds, markKinds } from "./commands"
import { schema } from "./schema"

export interface Wanted {
  words: string
  matchCase: boolean
  wholeWords: boolean
}

/** A place where the words stand. `attribute` names what holds them where that is not the text itself. */
export interface Hit {
  /** Of the words; of the node or the linked words where an attribute holds them. */
  from: number
  to: number
  attribute: "alt" | "caption" | "href" | "title" | "description" | "latex" | null
  /** Where in the attribute. */
  span: [number, number]
}

/** Stands for what is no text within a line. */
const ATOM = "\ufffc"

function expression({ words, matchCase, wholeWords }: Wanted): RegExp | null {
  if (!words) return null
  const escaped = words.replace(/[.*+?^${}()|[\]\\/-]/g, "\\$&")
  const whole = wholeWords ? `(?<![\\p{L}\\p{N}])${escaped}(?![\\p{L}\\p{N}])` : escaped
  return new RegExp(whole, matchCase ? "gu" : "giu")
}

/** Every place, in the order in which it is read; those of the page as a whole come first. */
export function hitsIn(doc: Node, wanted: Wanted): Hit[] {
  const pattern = expression(wanted)
  if (!pattern) return []
  const hits: Hit[] = []
  const spans = (text: unknown): [number, number][] =>
    typeof text === "string"
      ? [...text.matchAll(pattern)].map((at) => [at.index, at.index + at[0].length])
      : []
  for (const attribute of ["title", "description"] as const)
    for (const span of spans(doc.attrs[attribute])) hits.push({ from: 0, to: 0, attribute, span })
  let link: Hit["from"] | null = null
  doc.descendants((node, position) => {
    for (const attribute of ["alt", "caption", "latex"] as const)
      for (const span of spans(node.attrs[attribute]))
        hits.push({ from: position, to: position + node.nodeSize, attribute, span })
    if (node.type === kinds.call_to_action)
      for (const span of spans(node.attrs.href))
        hits.push({ from: position, to: position + node.nodeSize, attribute: "href", span })
    if (node.isTextblock) {
      const text = node.textBetween(0, node.content.size, undefined, ATOM)
      for (const span of spans(text))
        hits.push({ from: position + 1 + span[0], to: position + 1 + span[1], attribute: null, span })
      link = null
    }
    const mark = markKinds.link.isInSet(node.marks)
    if (mark && link !== position)
      for (const span of spans(mark.attrs.href))
        hits.push({ from: position, to: position + node.nodeSize, attribute: "href", span })
    // The words of one link may stand in several pieces, with other marks.
    link = mark ? position + node.nodeSize : null
    return true
  })
  return hits
}

/** Select what was found, and bring it into view. */
export function shown(state: EditorState, { from, to, attribute }: Hit): Transaction {
  const { tr } = state
  if (attribute === null) tr.setSelection(TextSelection.create(tr.doc, from, to))
  else if (to > from) {
    const node = tr.doc.nodeAt(from)
    tr.setSelection(
      node && !node.isText && NodeSelection.isSelectable(node)
        ? NodeSelection.create(tr.doc, from)
        : TextSelection.near(tr.doc.resolve(from)),
    )
  }
  return tr.scrollIntoView()
}

const within = (text: string, [start, end]: [number, number], words: string) =>
  text.slice(0, start) + words + text.slice(end)

/** Put `words` in the place of one hit. False, with nothing done, where an address would be none any more. */
function put(tr: Transaction, hit: Hit, words: string): boolean {
  const { from, to, attribute, span } = hit
  const { doc } = tr
  if (attribute === null) {
    const marks = doc.resolve(from + 1).marks()
    if (words) tr.replaceWith(from, to, schema.text(words, marks))
    else tr.delete(from, to)
    return true
  }
  if (attribute === "title" || attribute === "description") {
    tr.setDocAttribute(attribute, within(String(doc.attrs[attribute]), span, words))
    return true
  }
  const node = doc.nodeAt(from)
  if (!node) return false
  if (attribute === "href" && node.type !== kinds.call_to_action) return relink(tr, from, span, words)
  const text = within(String(node.attrs[attribute] ?? ""), span, words)
  if (attribute === "href" && !isReference(text)) return false
  tr.setNodeMarkup(from, null, { ...node.attrs, [attribute]: text || null })
  return true
}

/** The address of the link that begins at a position, wherever its words go on. */
function relink(tr: Transaction, from: number, span: [number, number], words: string): boolean {
  const $from = tr.doc.resolve(from)
  const mark = $from.nodeAfter && markKinds.link.isInSet($from.nodeAfter.marks)
  if (!mark) return false
  const href = within(mark.attrs.href, span, words)
  if (!isReference(href)) return false
  let to = from
  for (let index = $from.index(); index < $from.parent.childCount; index++) {
    const child = $from.parent.child(index)
    if (!mark.isInSet(child.marks)) break
    to += child.nodeSize
  }
  tr.removeMark(from, to, mark)
  tr.addMark(from, to, markKinds.link.create({ ...mark.attrs, href }))
  return true
}

/** One step of undo that puts `words` in the place of these hits, and how many of them it could not. */
export function replaced(
  state: EditorState,
  hits: readonly Hit[],
  words: string,
): { tr: Transaction; left: number } {
  const { tr } = state
  let left = 0
  // From the end, so that the places before stay where they are.
  for (const hit of [...hits].reverse()) if (!put(tr, hit, words)) left += 1
  return { tr, left }
}

const key = new PluginKey<DecorationSet>("found")

/** Marks what was found on the sheet. */
export const foundPlugin = new Plugin<DecorationSet>({
  key,
  state: {
    init: () => DecorationSet.empty,
    apply: (tr, before) => (tr.getMeta(key) as DecorationSet | undefined) ?? before.map(tr.mapping, tr.doc),
  },
  props: { decorations: (state) => key.getState(state) },
})

/** A transaction that marks these, `now` more plainly than the others. */
export function withFound(state: EditorState, hits: readonly Hit[], now: number): Transaction {
  const marks = hits.flatMap(({ from, to, attribute }, index) => {
    if (to <= from) return []
    const named = { class: index === now ? "is-found is-found-now" : "is-found" }
    const node = state.doc.nodeAt(from)
    return attribute && node && !node.isText
      ? [Decoration.node(from, to, named)]
      : [Decoration.inline(from, to, named)]
  })
  return state.tr.setMeta(key, DecorationSet.create(state.doc, marks)).setMeta("addToHistory", false)
}

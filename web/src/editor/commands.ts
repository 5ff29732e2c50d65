/** What the author can do to the text, as commands: (state, dispatch) → done or not possible here. */
import { lift, setBlockType, toggleMark } from "prosemirror-commands"
import type { Attrs, Mark, MarkType, Node, NodeType, ResolvedPos } from "prosemirror-model"
import { liftListItem, wrapInList } from "prosemirror-schema-list"
import { AllSelection, type Command, type EditorState, NodeSelection, TextSelection } from "prosemirror-state"
import type { AnyMark, AnyNode } from "../document/types.generated"
import { BLOCK, givesRegions, regionsOf } from "./regions"
import { schema } from "./schema"

const { nodes, marks } = schema as unknown as {
  nodes: Record<string, NodeType>
  marks: Record<string, MarkType>
}
export const kinds = nodes as Record<AnyNode["type"], NodeType>
export const markKinds = marks as Record<AnyMark["type"], MarkType>

/** Level 0 is running text; 2 to 6 are headings. A list item becomes text first, since no heading stands in a list. */
export const setLevel =
  (level: number): Command =>
  (state, dispatch) => {
    const [type, attrs]: [NodeType, Attrs | undefined] =
      level === 0 ? [kinds.paragraph, undefined] : [kinds.heading, { level }]
    return setBlockType(type, attrs)(state, dispatch)
  }

/** The level of the block at the caret: 0 for text, 2 to 6, or null where there is none (a picture). */
export function levelAt(state: EditorState): number | null {
  const { $from } = state.selection
  const block = $from.parent
  if (block.type === kinds.heading) return block.attrs.level
  return block.type === kinds.paragraph ? 0 : null
}

/** The level of the heading before the block at a place; 1 is the page's title. */
export function levelAbove({ doc, selection: { $from } }: EditorState, $place: ResolvedPos = $from): number {
  let above = 1
  doc.nodesBetween(0, $place.depth >= BLOCK ? $place.before(BLOCK) : $place.pos, (node) => {
    if (node.type === kinds.heading) above = node.attrs.level
    return node.type.isBlock
  })
  return above
}

function listAround(state: EditorState): { node: Node; depth: number } | null {
  const { $from } = state.selection
  for (let depth = $from.depth; depth > 0; depth--) {
    const node = $from.node(depth)
    if (node.type === kinds.bulleted_list || node.type === kinds.numbered_list) return { node, depth }
  }
  return null
}

export function listAt(state: EditorState): NodeType | null {
  return listAround(state)?.node.type ?? null
}

/** The same state; where everything is selected, the selection begins and ends in text, as commands expect it. */
function withTextSelected(state: EditorState): EditorState {
  if (!(state.selection instanceof AllSelection)) return state
  const { $from, $to } = state.selection
  return state.apply(state.tr.setSelection(TextSelection.between($from, $to)))
}

/** Make the paragraphs a list of this type, change the type of the list they are in, or lift them out of it. */
export const toggleList =
  (type: NodeType): Command =>
  (given, dispatch) => {
    const state = withTextSelected(given)
    const around = listAround(state)
    if (!around) {
      const inHeading = state.selection.$from.parent.type === kinds.heading
      if (!inHeading) return wrapInList(type)(state, dispatch)
      const text = state.apply(
        state.tr.setBlockType(state.selection.from, state.selection.to, kinds.paragraph),
      )
      return wrapInList(type)(text, (tr) => {
        const both = state.tr.setBlockType(state.selection.from, state.selection.to, kinds.paragraph)
        for (const step of tr.steps) both.step(step)
        dispatch?.(both)
      })
    }
    if (around.node.type === type)
      return liftListItem(kinds.list_item)(state, dispatch) || lift(state, dispatch)
    dispatch?.(state.tr.setNodeMarkup(state.selection.$from.before(around.depth), type, {}))
    return true
  }

export const toggleStrong = toggleMark(markKinds.strong)
export const toggleEmphasis = toggleMark(markKinds.emphasis)

/** Raised and lowered words exclude each other. */
const OTHER: Record<string, MarkType> = { superscript: markKinds.subscript, subscript: markKinds.superscript }

export const toggle =
  (type: MarkType): Command =>
  (state, dispatch) => {
    const other = OTHER[type.name]
    if (!other || state.selection.empty) return toggleMark(type)(state, dispatch)
    const { from, to } = state.selection
    return toggleMark(type)(state, (tr) => dispatch?.(tr.removeMark(from, to, other)))
  }

/** What words mean rather than how they look; it is not taken off with the formatting. */
const MEANING = [markKinds.link, markKinds.abbreviation, markKinds.language]

/** Take every mark that formats off the selected words, and the text style and alignment off their paragraphs. */
export const clearFormatting: Command = (state, dispatch) => {
  const { from, to, empty } = state.selection
  const tr = state.tr
  state.doc.nodesBetween(from, to, (node, position) => {
    if (node.attrs.style || node.attrs.align)
      tr.setNodeMarkup(position, null, {
        ...node.attrs,
        align: null,
        ...("style" in node.attrs ? { style: null } : {}),
      })
    return !node.isTextblock
  })
  for (const type of Object.values(markKinds)) {
    if (MEANING.includes(type)) continue
    tr.removeStoredMark(type)
    if (!empty) tr.removeMark(from, to, type)
  }
  dispatch?.(tr)
  return true
}

/** Make the paragraphs preformatted text, or the other way round. Words in it bear no marks. */
export const togglePreformatted: Command = (state, dispatch) => {
  const on = state.selection.$from.parent.type === kinds.preformatted
  if (on) return setBlockType(kinds.paragraph)(state, dispatch)
  if (!setBlockType(kinds.preformatted)(state)) return false
  // An equation within a line becomes its LaTeX, which can stand there.
  const tr = state.tr
  const { from, to } = state.selection
  state.doc.nodesBetween(from, to, (node, position) => {
    if (node.type === kinds.formula) {
      const at = tr.mapping.map(position)
      tr.replaceWith(at, at + 1, schema.text(node.attrs.latex))
    }
    return true
  })
  tr.setBlockType(tr.mapping.map(from, -1), tr.mapping.map(to), kinds.preformatted)
  dispatch?.(tr)
  return true
}

/** In preformatted text, Enter is a new line; on an empty last line it leaves. */
export const enterInPreformatted: Command = (state, dispatch) => {
  const { $from, empty } = state.selection
  if ($from.parent.type !== kinds.preformatted) return false
  const atEnd = empty && $from.parentOffset === $from.parent.content.size
  if (!atEnd || $from.nodeBefore?.type !== kinds.line_break) return insertLineBreak(state, dispatch)
  const tr = state.tr.delete($from.pos - 1, $from.pos)
  const after = tr.mapping.map($from.after())
  tr.insert(after, kinds.paragraph.create())
  dispatch?.(tr.setSelection(TextSelection.create(tr.doc, after + 1)).scrollIntoView())
  return true
}

export function hasMark(state: EditorState, type: MarkType): boolean {
  const { from, to, empty, $from } = state.selection
  if (empty) return Boolean(type.isInSet(state.storedMarks ?? $from.marks()))
  return state.doc.rangeHasMark(from, to, type)
}

export const insertLineBreak: Command = (state, dispatch) => {
  if (!state.selection.$from.parent.isTextblock) return false
  dispatch?.(state.tr.replaceSelectionWith(kinds.line_break.create()).scrollIntoView())
  return true
}

export interface LinkRun {
  href: string
  title: string | null
  newWindow: boolean
  from: number
  to: number
  text: string
}

/** The run of words at the selection that share one and the same mark of this type. */
export function runAt(state: EditorState, type: MarkType): { mark: Mark; from: number; to: number } | null {
  const { $from, from, to, empty } = state.selection
  if (!$from.parent.isTextblock) return null
  const around = type.isInSet($from.marks())
  const after = type.isInSet($from.nodeAfter?.marks ?? [])
  const mark = empty ? (around ?? after) : (after ?? around)
  if (!mark) return null
  const start = $from.start()
  let first = -1
  let last = -1
  $from.parent.forEach((child, offset) => {
    const [begins, ends] = [start + offset, start + offset + child.nodeSize]
    if (!mark.isInSet(child.marks)) {
      if (ends <= from) first = -1
      return
    }
    if (last >= 0 && begins > last && begins >= to) return
    if (first < 0 && last < 0) first = begins
    if (first >= 0 && (last < 0 || begins === last)) last = ends
    if (ends < from) {
      first = -1
      last = -1
    }
  })
  if (first < 0 || last < 0 || last < from || first > to) return null
  return { mark, from: first, to: last }
}

/** The link at the caret, with the words that bear it. */
export function linkAt(state: EditorState): LinkRun | null {
  const run = runAt(state, markKinds.link)
  if (!run) return null
  const { href, title, new_window } = run.mark.attrs
  const text = state.doc.textBetween(run.from, run.to, " ", " ")
  return { href, title, newWindow: new_window, from: run.from, to: run.to, text }
}

/** Change something of the link at the caret: its title, its window. */
export function changeLink(state: EditorState, attrs: { title?: string | null; new_window?: boolean }) {
  const run = runAt(state, markKinds.link)
  if (!run) return null
  const mark = markKinds.link.create({ ...run.mark.attrs, ...attrs })
  return state.tr.removeMark(run.from, run.to, markKinds.link).addMark(run.from, run.to, mark)
}

/**
 * Link the selected words, or the link at the caret anew, or (nothing selected) put the destination's name in. With
 * `words` these stand in place of the words there were.
 */
export function insertLink(state: EditorState, href: string, name: string, words?: string) {
  if (words === undefined) return linked(state, href, name)
  const present = linkAt(state)
  const { from, to, empty } = state.selection
  const [first, last] = empty && present ? [present.from, present.to] : [from, to]
  const marks = state.doc.resolve(first).marksAcross(state.doc.resolve(last)) ?? []
  const mark = markKinds.link.create({ href })
  const others = marks.filter((each) => each.type !== markKinds.link)
  const tr = state.tr.replaceWith(first, last, schema.text(words, [mark, ...others]))
  return tr.setSelection(TextSelection.create(tr.doc, first + words.length)).scrollIntoView()
}

function linked(state: EditorState, href: string, name: string) {
  const { from, to, empty, $from } = state.selection
  const mark = markKinds.link.create({ href })
  const tr = state.tr
  if ($from.parent.type === kinds.call_to_action) {
    tr.setNodeMarkup($from.before(), null, { ...$from.parent.attrs, href })
    return $from.parent.content.size ? tr : tr.insertText(name, from)
  }
  const present = linkAt(state)
  if (empty && present)
    return tr
      .removeMark(present.from, present.to, markKinds.link)
      .addMark(present.from, present.to, markKinds.link.create({ href, title: present.title }))
  if (state.selection instanceof NodeSelection) {
    tr.insert(to, kinds.paragraph.create(null, schema.text(name, [mark])))
    return tr.setSelection(TextSelection.near(tr.doc.resolve(tr.mapping.map(to)), -1)).scrollIntoView()
  }
  if (!empty) {
    return tr.removeMark(from, to, markKinds.link).addMark(from, to, mark)
  }
  const inherited = state.selection.$from.marks().filter((each) => each.type !== markKinds.link)
  tr.replaceSelectionWith(schema.text(name, [mark, ...inherited]), false)
  tr.setSelection(TextSelection.near(tr.doc.resolve(tr.mapping.map(from)), -1))
  return tr.removeStoredMark(markKinds.link).scrollIntoView()
}

export function removeLink(state: EditorState) {
  const present = linkAt(state)
  return present ? state.tr.removeMark(present.from, present.to, markKinds.link) : null
}

/** Give a heading its address for good, so that a link to it holds whatever becomes of its words. */
export function keepAnchor(tr: EditorState["tr"], position: number, anchor: string) {
  const node = tr.doc.nodeAt(position)
  if (node?.type === kinds.heading && !node.attrs.anchor)
    tr.setNodeMarkup(position, null, { ...node.attrs, anchor })
  return tr
}

/** Put another text in place of everything, title and description too, as one step that can be undone. */
export function replaceAll(state: EditorState, doc: Node) {
  const tr = givesRegions(state.tr)
  const [old, now] = [regionsOf(state.doc), regionsOf(doc)]
  const same =
    old.length === now.length &&
    old.every(({ node }, index) => node.hasMarkup(node.type, now[index]?.node.attrs))
  const pairs = same
    ? old.map(({ node, position }, index) => [node, now[index]?.node as Node, position + 1] as const)
    : []
  for (const [one, other, start] of same ? pairs.reverse() : [[state.doc, doc, 0] as const]) {
    const { from, to, blocks } = differing(one, other)
    if (to > from || blocks.length) tr.replaceWith(start + from, start + to, blocks)
  }
  for (const name of Object.keys(state.doc.attrs))
    if (state.doc.attrs[name] !== doc.attrs[name]) tr.setDocAttribute(name, doc.attrs[name])
  return tr
}

/** What stands between the first and the last child that two nodes do not share, and where it does in the one. */
function differing(one: Node, other: Node) {
  const shorter = Math.min(one.childCount, other.childCount)
  let first = 0
  let from = 0
  while (first < shorter && one.child(first).eq(other.child(first))) from += one.child(first++).nodeSize
  let last = 0
  let to = one.content.size
  while (
    last < shorter - first &&
    one.child(one.childCount - 1 - last).eq(other.child(other.childCount - 1 - last))
  )
    to -= one.child(one.childCount - 1 - last++).nodeSize
  const blocks = Array.from({ length: other.childCount - last - first }, (_, index) =>
    other.child(first + index),
  )
  return { from, to, blocks }
}

/** What the author can do to the text, as commands: (state, dispatch) → done or not possible here. */
import { lift, setBlockType, toggleMark } from "prosemirror-commands"
import { type Attrs, Fragment, type MarkType, type Node, type NodeType, Slice } from "prosemirror-model"
import { liftListItem, wrapInList } from "prosemirror-schema-list"
import {
  AllSelection,
  type Command,
  type EditorState,
  NodeSelection,
  Selection,
  TextSelection,
} from "prosemirror-state"
import { schema } from "./schema"

const { nodes, marks } = schema as unknown as {
  nodes: Record<string, NodeType>
  marks: Record<string, MarkType>
}
export const kinds = nodes as Record<
  | "paragraph"
  | "heading"
  | "bulleted_list"
  | "numbered_list"
  | "list_item"
  | "preformatted"
  | "divider"
  | "picture"
  | "line_break",
  NodeType
>
export const markKinds = marks as Record<
  "link" | "strong" | "emphasis" | "underline" | "strike" | "superscript" | "subscript" | "code",
  MarkType
>

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

/** The level of the heading before the caret's block; 1 is the page's title. */
export function levelAbove(state: EditorState): number {
  let above = 1
  const start = state.selection.$from.depth ? state.selection.$from.before(1) : 0
  state.doc.nodesBetween(0, start, (node) => {
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

/** Take every mark but links off the selected words, and make headings and preformatted text running text. */
export const clearFormatting: Command = (state, dispatch) => {
  const { from, to, empty } = state.selection
  const tr = state.tr
  for (const type of Object.values(markKinds)) {
    if (type === markKinds.link) continue
    tr.removeStoredMark(type)
    if (!empty) tr.removeMark(from, to, type)
  }
  dispatch?.(tr)
  return true
}

/** Make the paragraphs preformatted text, or the other way round. Words in it bear no marks. */
export const togglePreformatted: Command = (state, dispatch) => {
  const on = state.selection.$from.parent.type === kinds.preformatted
  return setBlockType(on ? kinds.paragraph : kinds.preformatted)(state, dispatch)
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

/** Put a block behind the one the caret is in; an empty paragraph gives way, and one follows to write on in. */
export function insertBlock(state: EditorState, type: NodeType) {
  const { $from, empty } = state.selection
  const tr = state.tr
  const place = empty && $from.depth === 1 && $from.parent.content.size === 0
  const at = place ? $from.before() : $from.depth ? $from.after(1) : state.selection.to
  const blocks = type.isTextblock ? [type.create()] : [type.create(), kinds.paragraph.create()]
  if (place) tr.delete($from.before(), $from.after())
  tr.insert(at, blocks)
  const caret = at + (type.isTextblock ? 1 : (tr.doc.nodeAt(at)?.nodeSize ?? 0))
  return tr.setSelection(TextSelection.near(tr.doc.resolve(caret))).scrollIntoView()
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

/** Put a picture at a position (the caret's, unless one is given) and select it. An empty paragraph gives way. */
export function insertPicture(state: EditorState, item: number, position?: number) {
  const node = kinds.picture.create({ item })
  const tr = state.tr
  if (position !== undefined) tr.setSelection(Selection.near(tr.doc.resolve(position), -1))
  const { $from, empty } = tr.selection
  const inText = empty && $from.parent.isTextblock
  if (inText && $from.parent.content.size === 0 && $from.depth === 1) {
    tr.replaceRangeWith($from.before(), $from.after(), node)
    return selectNear(tr, $from.before())
  }
  const behind = placeBehind(tr.selection)
  if (behind !== null) {
    tr.insert(behind, node)
    return selectNear(tr, behind)
  }
  const before = tr.selection.from
  tr.replaceSelection(new Slice(Fragment.from(node), 0, 0))
  return selectNear(tr, before)
}

/** Where something new stands that must not replace what is selected: behind a picture, or behind a block's end. */
function placeBehind(selection: Selection): number | null {
  if (selection instanceof NodeSelection) return selection.to
  const { $from, empty } = selection
  const atEnd = empty && $from.parent.isTextblock && $from.parentOffset === $from.parent.content.size
  return atEnd ? $from.after() : null
}

function selectNear(tr: EditorState["tr"], position: number) {
  let found: number | null = null
  tr.doc.nodesBetween(Math.max(0, position - 1), Math.min(tr.doc.content.size, position + 3), (node, at) => {
    if (node.type === kinds.picture && at >= position - 1) found = at
    return true
  })
  if (found !== null) tr.setSelection(NodeSelection.create(tr.doc, found))
  return tr.scrollIntoView()
}

/** The link at the caret, with the words that bear it. */
export function linkAt(state: EditorState): { href: string; from: number; to: number; text: string } | null {
  const { $from, from, to, empty } = state.selection
  if (!$from.parent.isTextblock) return null
  const around = $from.marks().find((mark) => mark.type === markKinds.link)
  const after = $from.nodeAfter?.marks.find((mark) => mark.type === markKinds.link)
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
  return { href: mark.attrs.href, from: first, to: last, text: state.doc.textBetween(first, last, " ", " ") }
}

/** Link the selected words, or the link at the caret anew, or (nothing selected) put the destination's name in. */
export function insertLink(state: EditorState, href: string, name: string) {
  const { from, to, empty } = state.selection
  const mark = markKinds.link.create({ href })
  const tr = state.tr
  const present = linkAt(state)
  if (empty && present)
    return tr.removeMark(present.from, present.to, markKinds.link).addMark(present.from, present.to, mark)
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

/** Blocks that hold others or stand for themselves: quotations, asides, calls to action. Making, leaving, undoing them. */
import type { Attrs, Node, NodeType } from "prosemirror-model"
import {
  type Command,
  type EditorState,
  NodeSelection,
  TextSelection,
  type Transaction,
} from "prosemirror-state"
import { findWrapping } from "prosemirror-transform"
import { kinds } from "./commands"
import { BLOCK, behind, endsRegion } from "./regions"
import { schema } from "./schema"

export interface Around {
  node: Node
  /** The position before the node. */
  position: number
  depth: number
}

/** The innermost block of this kind that the selection stands in (or is). */
export function around(state: EditorState, type: NodeType): Around | null {
  const { selection } = state
  const { $from } = selection
  if (selection instanceof NodeSelection && selection.node.type === type)
    return { node: selection.node, position: selection.from, depth: $from.depth + 1 }
  for (let depth = $from.depth; depth > 0; depth--)
    if ($from.node(depth).type === type)
      return { node: $from.node(depth), position: $from.before(depth), depth }
  return null
}

/** Headings and preformatted text among the selected blocks become running text, so that they can be held. */
function asParagraphs(state: EditorState, tr: Transaction): void {
  const { from, to } = state.selection
  state.doc.nodesBetween(from, to, (node, position) => {
    if (node.type === kinds.heading) tr.setNodeMarkup(position, kinds.paragraph, { align: node.attrs.align })
    return node.type.isBlock && !node.isTextblock
  })
}

const wrap =
  (type: NodeType, attrs: Attrs): Command =>
  (state, dispatch) => {
    const tr = state.tr
    asParagraphs(state, tr)
    const { $from, $to } = tr.selection
    const range = $from.blockRange($to)
    const wrapping = range && range.depth === 1 && findWrapping(range, type, attrs)
    if (!range || !wrapping) return false
    dispatch?.(tr.wrap(range, wrapping).scrollIntoView())
    return true
  }

/** Take a holding block away and leave what it holds; the words of a source, too. */
export function unwrap(state: EditorState, found: Around): Transaction {
  const parts: Node[] = []
  found.node.forEach((child) => {
    if (child.type === kinds.quotation_words) parts.push(...child.children)
    else if (child.type === kinds.quotation_source) parts.push(kinds.paragraph.create(null, child.content))
    else parts.push(child)
  })
  const tr = state.tr.replaceWith(found.position, found.position + found.node.nodeSize, parts)
  return tr.setSelection(TextSelection.near(tr.doc.resolve(found.position + 1))).scrollIntoView()
}

/** Make the paragraphs a quotation, or the other way round. */
export const toggleQuotation: Command = (state, dispatch) => {
  const found = around(state, kinds.quotation)
  if (!found) return wrap(kinds.quotation, {})(state, dispatch)
  dispatch?.(unwrap(state, found))
  return true
}

/** Make the paragraphs an aside of this sort, or the other way round. */
export const toggleAside =
  (sort: string): Command =>
  (state, dispatch) => {
    const found = around(state, kinds.aside)
    if (!found) return wrap(kinds.aside, { sort })(state, dispatch)
    if (found.node.attrs.sort === sort) dispatch?.(unwrap(state, found))
    else dispatch?.(state.tr.setNodeMarkup(found.position, null, { sort }))
    return true
  }

/** Put an empty source into a quotation, or go to the one it has. */
export function toSource(state: EditorState, found: Around): Transaction {
  const tr = state.tr
  const end = found.position + found.node.nodeSize - 1
  if (found.node.childCount === 1) tr.insert(end, kinds.quotation_source.create())
  const start = found.position + 1 + (found.node.firstChild?.nodeSize ?? 0)
  return tr.setSelection(TextSelection.create(tr.doc, start + 1)).scrollIntoView()
}

/** The block put in by a name of the Shelf. */
export function newBlock(type: NodeType, attrs: Attrs): Node {
  if (type === kinds.quotation)
    return type.create(null, kinds.quotation_words.create(null, kinds.paragraph.create()))
  if (type === kinds.aside) return type.create(attrs, kinds.paragraph.create())
  if (type === kinds.table) return newTable(Number(attrs?.rows ?? 3), Number(attrs?.columns ?? 3))
  return type.create(attrs)
}

/** A table with a row of headers. */
export function newTable(rows: number, columns: number): Node {
  const cell = (type: NodeType) => type.create(null, kinds.paragraph.create())
  const row = (type: NodeType) =>
    kinds.table_row.create(
      null,
      Array.from({ length: columns }, () => cell(type)),
    )
  const body = Array.from({ length: rows - 1 }, () => row(kinds.table_cell))
  return kinds.table.create(null, kinds.table_grid.create(null, [row(kinds.table_header), ...body]))
}

/** Put lines below the block at the caret, a paragraph each. The caret goes into the first. */
export function linesAfter(state: EditorState, lines: readonly string[]): Transaction {
  const at = behind(state.selection)
  const made = lines.map((line) => kinds.paragraph.create(null, line ? state.schema.text(line) : null))
  const tr = state.tr.insert(at, made)
  return tr.setSelection(TextSelection.near(tr.doc.resolve(at + 1))).scrollIntoView()
}

/**
 * Put a block behind the one the caret is in; an empty paragraph gives way, and one follows to write on in where
 * nothing else does. The caret goes into the block, or stands on it.
 */
export function insertBlock(state: EditorState, type: NodeType, attrs: Attrs = {}): Transaction {
  const { $from, empty } = state.selection
  const tr = state.tr
  const block = newBlock(type, attrs)
  const gives =
    empty && $from.depth === BLOCK && $from.parent.type === kinds.paragraph && $from.parent.content.size === 0
  const at = gives ? $from.before() : behind(state.selection)
  const to = gives ? $from.after() : at
  const follows = endsRegion(state.doc, to) && !block.isTextblock ? [kinds.paragraph.create()] : []
  tr.replaceWith(at, to, [block, ...follows])
  if (block.type === kinds.divider) {
    const after = at + block.nodeSize
    return tr.setSelection(TextSelection.near(tr.doc.resolve(after))).scrollIntoView()
  }
  const selection = block.isAtom
    ? NodeSelection.create(tr.doc, at)
    : TextSelection.near(tr.doc.resolve(at + 1))
  return tr.setSelection(selection).scrollIntoView()
}

/** Put words or an equation at the caret, in place of what is selected. */
export function insertInline(state: EditorState, content: Node | string): Transaction {
  const tr = state.tr
  const { $from } = state.selection
  if (!$from.parent.isTextblock) {
    const node = typeof content === "string" ? schema.text(content) : content
    return insertParagraphWith(state, node)
  }
  if (typeof content === "string") return tr.insertText(content).scrollIntoView()
  if (!$from.parent.type.contentMatch.matchType(content.type)) return insertParagraphWith(state, content)
  tr.replaceSelectionWith(content, true)
  const position = tr.mapping.map(state.selection.from, -1)
  return tr.setSelection(NodeSelection.create(tr.doc, position)).scrollIntoView()
}

function insertParagraphWith(state: EditorState, node: Node): Transaction {
  const at = behind(state.selection)
  const tr = state.tr.insert(at, kinds.paragraph.create(null, node))
  return tr.setSelection(TextSelection.near(tr.doc.resolve(at + 1), 1)).scrollIntoView()
}

function paragraphAfter(tr: Transaction, position: number): Transaction {
  const at = tr.mapping.map(position)
  tr.insert(at, kinds.paragraph.create())
  return tr.setSelection(TextSelection.create(tr.doc, at + 1)).scrollIntoView()
}

/** Enter in a line that stands for itself leaves it: a source, a caption, a call to action. */
export const enterInLine: Command = (state, dispatch) => {
  const { $from, empty } = state.selection
  const { type } = $from.parent
  if (type === kinds.table_caption) {
    dispatch?.(
      state.tr.setSelection(TextSelection.near(state.doc.resolve($from.after() + 1))).scrollIntoView(),
    )
    return true
  }
  if (type !== kinds.call_to_action && type !== kinds.quotation_source) return false
  if (type === kinds.call_to_action && empty && $from.parentOffset === 0 && $from.parent.content.size) {
    dispatch?.(state.tr.insert($from.before(), kinds.paragraph.create()).scrollIntoView())
    return true
  }
  dispatch?.(paragraphAfter(state.tr, $from.after(BLOCK)))
  return true
}

/** Enter on an empty last paragraph leaves a quotation or an aside, as it leaves a list. */
export const enterLeaves: Command = (state, dispatch) => {
  const { $from, empty } = state.selection
  if (!empty || $from.parent.type !== kinds.paragraph || $from.parent.content.size || $from.depth < 2)
    return false
  const holder = $from.node(-1)
  if (holder.type !== kinds.quotation_words && holder.type !== kinds.aside) return false
  if ($from.index(-1) < holder.childCount - 1 || holder.childCount === 1) return false
  const tr = state.tr.delete($from.before(), $from.after())
  dispatch?.(paragraphAfter(tr, $from.after(BLOCK)))
  return true
}

/** Backspace in an empty source or caption takes it away; at the start of a full one it does nothing. */
export const backspaceInLine: Command = (state, dispatch) => {
  const { $from, empty } = state.selection
  const { type } = $from.parent
  if (!empty || $from.parentOffset > 0) return false
  if (type === kinds.call_to_action && $from.parent.content.size === 0) {
    dispatch?.(state.tr.setNodeMarkup($from.before(), kinds.paragraph, {}))
    return true
  }
  if (type !== kinds.quotation_source && type !== kinds.table_caption) return false
  if ($from.parent.content.size) return true
  const tr = state.tr.delete($from.before(), $from.after())
  const bias = type === kinds.quotation_source ? -1 : 1
  dispatch?.(tr.setSelection(TextSelection.near(tr.doc.resolve(tr.mapping.map($from.before())), bias)))
  return true
}

/** Backspace at the very start of a quotation or an aside takes the holding away and leaves the words. */
export const backspaceUnwraps: Command = (state, dispatch) => {
  const { $from, empty } = state.selection
  if (!empty || $from.parentOffset > 0 || $from.depth < 2 || $from.index(-1) > 0) return false
  const holder = $from.node(-1).type
  if (holder !== kinds.aside && holder !== kinds.quotation_words) return false
  const found = around(state, holder === kinds.aside ? kinds.aside : kinds.quotation)
  if (found) dispatch?.(unwrap(state, found))
  return true
}

/** Set attributes of the block at a position, as a step of its own; the selection stays. */
export function setAttrs(state: EditorState, position: number, attrs: Attrs): Transaction {
  const node = state.doc.nodeAt(position)
  const tr = state.tr
  if (!node) return tr
  tr.setNodeMarkup(position, null, { ...node.attrs, ...attrs })
  if (state.selection instanceof NodeSelection && state.selection.from === position)
    tr.setSelection(NodeSelection.create(tr.doc, position))
  return tr
}

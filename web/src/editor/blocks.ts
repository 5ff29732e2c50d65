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
import { BLOCK } from "./regions"

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

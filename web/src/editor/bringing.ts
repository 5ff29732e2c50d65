/**
 * Bringing something in: where it stands. Nothing that is there gives way but an empty paragraph: what is selected stays,
 * and no paragraph is cut in two.
 */
import type { Attrs, Node, NodeType } from "prosemirror-model"
import {
  type EditorState,
  NodeSelection,
  Selection,
  TextSelection,
  type Transaction,
} from "prosemirror-state"
import { toggleAside, toggleQuotation } from "./blocks"
import { kinds } from "./commands"
import { BLOCK, behind, endsRegion } from "./regions"
import { schema } from "./schema"

/** Whether the caret is at the start of words: what is brought in stands before them. */
function atStart({ $from, empty }: Selection): boolean {
  const { parent } = $from
  return empty && parent.isTextblock && parent.content.size > 0 && $from.parentOffset === 0
}

/** The empty paragraph at the caret, if a node of this type may stand in its place. */
function givesWay({ $from, empty }: Selection, type: NodeType): { from: number; to: number } | null {
  const { parent, depth } = $from
  if (!empty || parent.type !== kinds.paragraph || parent.content.size) return null
  const index = $from.index(depth - 1)
  return $from.node(depth - 1).canReplaceWith(index, index + 1, type)
    ? { from: $from.before(), to: $from.after() }
    : null
}

/** The nearest place behind what is selected, or before the words that begin at the caret, where a type may stand. */
function nearest(selection: Selection, type: NodeType): number {
  if (selection instanceof NodeSelection) {
    const { $to } = selection
    if ($to.parent.canReplaceWith($to.index(), $to.index(), type)) return $to.pos
  }
  const first = atStart(selection)
  const { $to } = selection
  for (let depth = $to.depth; depth > 0; depth--) {
    const [holder, index] = [$to.node(depth - 1), $to.index(depth - 1)]
    if (first && depth === $to.depth && holder.canReplaceWith(index, index, type)) return $to.before(depth)
    if (holder.canReplaceWith(index + 1, index + 1, type)) return $to.after(depth)
  }
  return behind(selection)
}

/** Put a picture, film or sound near a position (the caret's, unless one is given) and select it. */
export function insertItem(state: EditorState, type: NodeType, item: number, position?: number): Transaction {
  return insertWhole(state, type.create({ item }), position)
}

/**
 * Put a node that is shown as a whole near a position (the caret's, unless one is given) and select it. The paragraph
 * where somebody is who does not await it does not give way, though nothing is written in it yet.
 */
export function insertWhole(
  state: EditorState,
  node: Node,
  position?: number,
  isAwaited = true,
): Transaction {
  const tr = state.tr
  const $at = position === undefined ? null : tr.doc.resolve(position)
  if ($at) tr.setSelection(Selection.near($at, -1))
  const mayGive = isAwaited || tr.selection.$from.start() !== state.selection.$from.start()
  const gives = mayGive ? givesWay(tr.selection, node.type) : null
  const between =
    $at && !$at.parent.isTextblock && $at.parent.canReplaceWith($at.index(), $at.index(), node.type)
  const at = between ? $at.pos : (gives?.from ?? nearest(tr.selection, node.type))
  tr.replaceWith(at, between ? at : (gives?.to ?? at), node)
  return tr.setSelection(NodeSelection.create(tr.doc, at)).scrollIntoView()
}

/**
 * The caret for words that are typed while a node is selected as a whole: behind it, in a paragraph of their own where it
 * is a block. A letter is no wish to be rid of a gallery. Null where words are selected.
 */
export function besideWhole(state: EditorState): Transaction | null {
  const { selection, tr } = state
  if (!(selection instanceof NodeSelection)) return null
  const { node, $to } = selection
  if (node.isInline) return tr.setSelection(TextSelection.create(tr.doc, $to.pos))
  const next = $to.nodeAfter
  const isFree = next?.type === kinds.paragraph && !next.content.size
  const at = isFree ? $to.pos : nearest(selection, kinds.paragraph)
  if (!isFree) tr.insert(at, kinds.paragraph.create())
  return tr.setSelection(TextSelection.create(tr.doc, at + 1)).scrollIntoView()
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

/** What is made of the words that are selected: they are held by it, or are its label; null where neither is meant. */
function madeOfSelected(state: EditorState, type: NodeType, attrs: Attrs): Transaction | null {
  const { $from, $to, empty } = state.selection
  if (empty || state.selection instanceof NodeSelection) return null
  let made: Transaction | null = null
  const take = (tr: Transaction) => {
    made = tr
  }
  if (type === kinds.aside) toggleAside(attrs.sort)(state, take)
  if (type === kinds.quotation) toggleQuotation(state, take)
  const whole =
    $from.sameParent($to) && $from.parentOffset === 0 && $to.parentOffset === $to.parent.content.size
  if (
    type === kinds.call_to_action &&
    whole &&
    $from.parent.textContent &&
    $from.parent.type === kinds.paragraph &&
    $from.depth === BLOCK
  ) {
    const label = schema.text($from.parent.textContent)
    made = state.tr.replaceWith($from.before(), $from.after(), type.create(attrs, label))
    made.setSelection(TextSelection.create(made.doc, $from.start() + label.nodeSize))
  }
  return made
}

/**
 * Put a block behind the one the caret is in, or before it where the caret is at its start, and a line to write on in
 * where nothing follows. The caret goes into the block, or stands on it.
 */
export function insertBlock(state: EditorState, type: NodeType, attrs: Attrs = {}): Transaction {
  const made = madeOfSelected(state, type, attrs)
  if (made) return made.scrollIntoView()
  const { selection, tr } = state
  const { $from } = selection
  const block = newBlock(type, attrs)
  const gives = $from.depth === BLOCK ? givesWay(selection, type) : null
  const at = gives?.from ?? ($from.depth === BLOCK && atStart(selection) ? $from.before() : behind(selection))
  const to = gives?.to ?? at
  const follows = endsRegion(state.doc, to) && !block.isTextblock ? [kinds.paragraph.create()] : []
  tr.replaceWith(at, to, [block, ...follows])
  if (block.type === kinds.divider) {
    const after = at + block.nodeSize
    return tr.setSelection(TextSelection.near(tr.doc.resolve(after))).scrollIntoView()
  }
  const there = block.isAtom ? NodeSelection.create(tr.doc, at) : TextSelection.near(tr.doc.resolve(at + 1))
  return tr.setSelection(there).scrollIntoView()
}

/** Put words or an equation at the caret, or behind the words that are selected. */
export function insertInline(state: EditorState, content: Node | string): Transaction {
  const { $to, to } = state.selection
  const node = typeof content === "string" ? schema.text(content, state.storedMarks ?? $to.marks()) : content
  if (!$to.parent.isTextblock || !$to.parent.type.contentMatch.matchType(node.type))
    return inParagraph(state, node)
  const tr = state.tr.insert(to, node)
  const there = node.isText
    ? TextSelection.create(tr.doc, to + node.nodeSize)
    : NodeSelection.create(tr.doc, to)
  return tr.setSelection(there).scrollIntoView()
}

function inParagraph(state: EditorState, node: Node): Transaction {
  const at = behind(state.selection)
  const tr = state.tr.insert(at, kinds.paragraph.create(null, node))
  return tr.setSelection(TextSelection.near(tr.doc.resolve(at + 1), 1)).scrollIntoView()
}

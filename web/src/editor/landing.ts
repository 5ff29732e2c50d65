/** Where a text from elsewhere lands: what stands around the place, and the text put there as one change. */
import { Fragment, type Node, type NodeType, type ResolvedPos, Slice } from "prosemirror-model"
import { type EditorState, Selection, TextSelection, type Transaction } from "prosemirror-state"
import { handlePaste as pasteCells } from "prosemirror-tables"
import type { EditorView } from "prosemirror-view"
import type { Landing } from "../api/client"
import { takenAnchors } from "./anchors"
import { kinds, levelAbove } from "./commands"
import type { Place } from "./places"
import { endsRegion } from "./regions"

/** Blocks that hold other blocks, in which a text may land. */
const HOLDERS = ["list_item", "quotation_words", "aside", "table_cell", "table_header"] as const
const LINES = [kinds.quotation_source, kinds.table_caption, kinds.call_to_action]

/** What the server must know to read a text so that it fits at a place. */
export function surroundings(state: EditorState, position: number): Landing {
  const $place = state.doc.resolve(position)
  return {
    container: LINES.includes($place.parent.type) ? "line" : (holderOf($place) ?? "region"),
    under: levelAbove(state, $place),
    taken: takenAnchors(state.doc),
  }
}

function holderOf($place: ResolvedPos): (typeof HOLDERS)[number] | undefined {
  for (let depth = $place.depth; depth > 0; depth--) {
    const found = HOLDERS.find((name) => kinds[name] === $place.node(depth).type)
    if (found) return found
  }
  return undefined
}

/**
 * The change that puts a text in at a place, in place of what is selected there. A lone paragraph goes into the line;
 * anything else stands as blocks of its own: the paragraph at the caret is parted, and gives way if it is empty. A
 * text that comes to a place has no region but main.
 */
export function landed(state: EditorState, place: Place, given: Node): Transaction {
  const text = given.firstChild as Node
  const only = text.childCount === 1 ? text.firstChild : null
  const holder = holderOf(state.doc.resolve(place.from))
  const grid =
    only?.type === kinds.table && (holder === "table_cell" || holder === "table_header") ? only : null
  const cells = grid && cellsLanded(state, place, holder === "table_cell" ? withoutHeaders(grid) : grid)
  return cells ?? blocksLanded(state, place, text)
}

/** Cells that go among other cells name nothing there. */
function withoutHeaders(node: Node): Node {
  if (node.type === kinds.table_header) return kinds.table_cell.create(node.attrs, node.content)
  return node.type === kinds.table_cell ? node : node.copy(Fragment.from(node.children.map(withoutHeaders)))
}

function cellsLanded(state: EditorState, place: Place, table: Node): Transaction | null {
  const grid = table.lastChild
  const there = Selection.near(state.doc.resolve(place.from))
  let made: Transaction | null = null
  const view = {
    state: state.apply(state.tr.setSelection(there)),
    dispatch: (tr: Transaction) => {
      made = tr
    },
  }
  if (!grid || !pasteCells(view as EditorView, null as never, new Slice(Fragment.from(grid), 0, 0)))
    return null
  const { steps } = made ?? state.tr
  const tr = state.tr
  for (const step of steps) tr.step(step)
  return tr.setSelection(TextSelection.near(tr.doc.resolve(place.from))).scrollIntoView()
}

function blocksLanded(state: EditorState, { from, to }: Place, text: Node): Transaction {
  const tr = state.tr
  if (to > from) tr.delete(from, to)
  const $place = placeIn(tr.doc, tr.mapping.map(from))
  const { parent } = $place
  if (!text.childCount) return tr
  if (!parent.isTextblock) return putBlocks(tr, $place.pos, $place.pos, text.children)
  const only = text.childCount === 1 ? text.firstChild : null
  const inLine = only?.type === kinds.paragraph && !only.attrs.style
  if (only && (inLine || LINES.includes(parent.type))) {
    const content = inlineFor(parent.type, only.content)
    tr.replace($place.pos, $place.pos, new Slice(content, 0, 0))
    return caretAfter(tr, $place.pos + content.size)
  }
  const blocks = withoutFiller(text.children)
  const item = $place.depth > 1 && $place.node(-1).type === kinds.list_item ? $place.node(-1) : null
  if (item?.childCount === 1 && blocks.every(({ type }) => isList(type)))
    return putIn(
      tr,
      $place,
      $place.depth - 1,
      blocks.flatMap((list) => list.children),
    )
  const begins = item && $place.index(-1) === 0 && $place.parentOffset === 0
  return putIn(tr, $place, $place.depth, begins ? text.children : blocks)
}

/** Where whole blocks were deleted an empty paragraph may be left, which is the place then. */
function placeIn(doc: Node, position: number): ResolvedPos {
  const $given = doc.resolve(position)
  const $place = $given.depth ? $given : doc.resolve(1)
  const after = $place.parent.isTextblock ? null : $place.nodeAfter
  return after?.type === kinds.paragraph && !after.content.size ? doc.resolve($place.pos + 1) : $place
}

const isList = (type: NodeType) => type === kinds.bulleted_list || type === kinds.numbered_list

/** The empty paragraph with which the reader begins an item is of use only where an item begins. */
function withoutFiller(blocks: readonly Node[]): readonly Node[] {
  const [first] = blocks
  const filler = first?.type === kinds.paragraph && first.content.size === 0 && blocks.length > 1
  return filler ? blocks.slice(1) : blocks
}

/** Put nodes beside the one around a place at this depth: before it, behind it, in its place, or between its parts. */
function putIn(tr: Transaction, $place: ResolvedPos, depth: number, nodes: readonly Node[]): Transaction {
  const around = $place.node(depth)
  const [before, after] = [$place.before(depth), $place.after(depth)]
  if (around.textContent === "" && $place.parent.content.size === 0 && gives(around))
    return putBlocks(tr, before, after, nodes)
  const atStart = $place.pos === $place.start(depth) + ($place.depth - depth)
  const atEnd = $place.pos === $place.end(depth) - ($place.depth - depth)
  if (atEnd || !canPart($place.parent)) return putBlocks(tr, after, after, nodes)
  if (atStart) return putBlocks(tr, before, before, nodes)
  const { type, attrs } = $place.parent
  const levels = $place.depth - depth + 1
  const parts = [
    ...Array.from({ length: levels - 1 }, () => ({ type: kinds.list_item })),
    { type, attrs: "anchor" in attrs ? { ...attrs, anchor: null } : attrs },
  ]
  tr.split($place.pos, levels, parts)
  const between = $place.pos + levels
  return putBlocks(tr, between, between, nodes)
}

const gives = ({ type }: Node) => type === kinds.paragraph || type === kinds.list_item
const canPart = ({ type }: Node) => type === kinds.paragraph || type === kinds.heading

/** One can write on behind what was put in last: a paragraph follows where nothing else would. */
function putBlocks(tr: Transaction, from: number, to: number, nodes: readonly Node[]): Transaction {
  const last = nodes.at(-1)
  const closing = endsRegion(tr.doc, to) && last && !last.isTextblock && !isList(last.type)
  const size = nodes.reduce((sum, node) => sum + node.nodeSize, 0)
  tr.replaceWith(from, to, closing ? [...nodes, kinds.paragraph.create()] : [...nodes])
  return caretAfter(tr, from + size)
}

function caretAfter(tr: Transaction, position: number): Transaction {
  return tr.setSelection(Selection.near(tr.doc.resolve(position), -1)).scrollIntoView()
}

/** What of a line may stand in a block: an equation that may not becomes its LaTeX, a new line a space. */
function inlineFor(type: NodeType, content: Fragment): Fragment {
  const nodes: Node[] = []
  content.forEach((node) => {
    const marks = type.allowedMarks(node.marks)
    const { text } = type.schema
    if (node.isText || type.contentMatch.matchType(node.type)) nodes.push(node.mark(marks))
    else nodes.push(text.call(type.schema, node.type === kinds.formula ? node.attrs.latex : " ", marks))
  })
  return Fragment.from(nodes)
}

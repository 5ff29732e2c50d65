/** Tables: what can be done to the one at the caret. The geometry is prosemirror-tables'; here it gets our names. */
import { t } from "@lingui/core/macro"
import type { Node } from "prosemirror-model"
import { type Command, type EditorState, Plugin, TextSelection, type Transaction } from "prosemirror-state"
import {
  addColumnAfter,
  addColumnBefore,
  addRowAfter,
  addRowBefore,
  CellSelection,
  deleteColumn,
  deleteRow,
  goToNextCell,
  isInTable,
  mergeCells,
  moveTableColumn,
  moveTableRow,
  selectedRect,
  splitCell,
  TableMap,
  tableEditing,
  toggleHeader,
} from "prosemirror-tables"
import { type Around, around } from "./blocks"
import { kinds } from "./commands"
import { eachBlock } from "./regions"

/** A table that has lost its last cell goes; nobody could put the caret into it any more. */
const withoutEmptyTables = new Plugin({
  appendTransaction(transactions, _before, state) {
    if (!transactions.some(({ docChanged }) => docChanged)) return null
    const tr = state.tr
    eachBlock(state.doc, (node, position) => {
      if (node.type !== kinds.table || node.lastChild?.firstChild?.childCount) return
      if (node.lastChild && TableMap.get(node.lastChild).width > 0) return
      const from = tr.mapping.map(position)
      if (tr.doc.resolve(from).parent.childCount === 1)
        tr.replaceWith(from, from + node.nodeSize, kinds.paragraph.create())
      else tr.delete(from, from + node.nodeSize)
    })
    return tr.docChanged ? tr : null
  },
})

/** Selecting cells, keeping every place of a grid filled, and no table without a cell. */
export const tablePlugins = () => [tableEditing(), withoutEmptyTables]

/** The table at the caret; in its caption too. */
export const tableAt = (state: EditorState): Around | null => around(state, kinds.table)

/** Where the selection stands: rows and columns counted from 0, the ends not included; null in the caption. */
export function placeInTable(state: EditorState) {
  return isInTable(state) ? selectedRect(state) : null
}

/** The caret goes along with what was moved. */
function caretIn(tr: Transaction, start: number, { row, column }: { row: number; column: number }) {
  const grid = tr.doc.nodeAt(start - 1)
  if (!grid) return tr
  const cell = start + TableMap.get(grid).positionAt(row, column, grid)
  return tr.setSelection(TextSelection.near(tr.doc.resolve(cell + 1))).scrollIntoView()
}

/** Headers stay where they are: nothing is moved before them, nor they behind anything. */
const move =
  (axis: "row" | "column", by: -1 | 1): Command =>
  (state, dispatch) => {
    const place = placeInTable(state)
    if (!place) return false
    const from = axis === "row" ? place.top : place.left
    const size = axis === "row" ? place.map.height : place.map.width
    const to = from + by
    if (to < 0 || to >= size) return false
    const cell = axis === "row" ? { row: to, column: place.left } : { row: place.top, column: to }
    const table = tableAt(state)?.node
    if (table && Math.min(from, to) === 0 && hasHeader(table, axis)) return false
    try {
      const options = { from, to, select: false }
      const command = axis === "row" ? moveTableRow(options) : moveTableColumn(options)
      return command(state, dispatch && ((tr) => dispatch(caretIn(tr, place.tableStart, cell))))
    } catch {
      return false
    }
  }

/** Take the whole table away, its caption too. */
export const deleteTable: Command = (state, dispatch) => {
  const found = tableAt(state)
  if (!found) return false
  const tr = state.tr.delete(found.position, found.position + found.node.nodeSize)
  dispatch?.(tr.setSelection(TextSelection.near(tr.doc.resolve(found.position), -1)).scrollIntoView())
  return true
}

/** The last row or column takes the table with it. */
const orTable =
  (command: Command, axis: "height" | "width"): Command =>
  (state, dispatch) => {
    const place = placeInTable(state)
    if (!place) return false
    const all =
      axis === "height"
        ? place.top === 0 && place.bottom === place.map.height
        : place.left === 0 && place.right === place.map.width
    return (all ? deleteTable : command)(state, dispatch)
  }

export interface TableAct {
  id: string
  name: string
  command: Command
}

/** In the order in which they are shown; one line a group. */
export const TABLE_ACTS: { group: string; acts: TableAct[] }[] = [
  {
    group: t`Row`,
    acts: [
      { id: "table-add-a-row-above", name: t`Add a row above`, command: addRowBefore },
      { id: "table-add-a-row-below", name: t`Add a row below`, command: addRowAfter },
      { id: "table-move-the-row-up", name: t`Move the row up`, command: move("row", -1) },
      { id: "table-move-the-row-down", name: t`Move the row down`, command: move("row", 1) },
      { id: "table-remove-the-row", name: t`Remove the row`, command: orTable(deleteRow, "height") },
    ],
  },
  {
    group: t`Column`,
    acts: [
      { id: "table-add-a-column-before", name: t`Add a column before`, command: addColumnBefore },
      { id: "table-add-a-column-after", name: t`Add a column after`, command: addColumnAfter },
      { id: "table-move-the-column-left", name: t`Move the column left`, command: move("column", -1) },
      { id: "table-move-the-column-right", name: t`Move the column right`, command: move("column", 1) },
      { id: "table-remove-the-column", name: t`Remove the column`, command: orTable(deleteColumn, "width") },
    ],
  },
  {
    group: t`Cells`,
    acts: [
      { id: "table-merge-cells", name: t`Merge cells`, command: mergeCells },
      { id: "table-split-cells", name: t`Split cells`, command: splitCell },
    ],
  },
]

export const headerRow = toggleHeader("row")
export const headerColumn = toggleHeader("column")

/** Whether every cell of the first row, or of the first column, is a header. */
export function hasHeader(table: Node, axis: "row" | "column"): boolean {
  const grid = table.lastChild
  if (!grid) return false
  const map = TableMap.get(grid)
  const cells = new Set(
    axis === "row"
      ? map.map.slice(0, map.width)
      : Array.from({ length: map.height }, (_, row) => map.map[row * map.width] ?? 0),
  )
  return [...cells].every((position) => grid.nodeAt(position)?.type === kinds.table_header)
}

/** Put an empty caption above the table, or go to the one it has. */
export function toCaption(state: EditorState, found: Around): Transaction {
  const tr = state.tr
  if (found.node.childCount === 1) tr.insert(found.position + 1, kinds.table_caption.create())
  return tr.setSelection(TextSelection.create(tr.doc, found.position + 2)).scrollIntoView()
}

/** Tab goes to the next cell; in the last one it adds a row. */
export const nextCell: Command = (state, dispatch, view) => {
  if (!isInTable(state)) return false
  if (goToNextCell(1)(state, dispatch)) return true
  let done = state
  const added = addRowAfter(state, (tr) => {
    done = state.apply(tr)
    dispatch?.(tr)
  })
  if (added && view) goToNextCell(1)(view.state, dispatch)
  else if (added) goToNextCell(1)(done)
  return added
}

export const previousCell: Command = (state, dispatch) =>
  isInTable(state) && goToNextCell(-1)(state, dispatch)

/** How much is selected, in words, where it is more than one cell. */
export function selectedCells(state: EditorState): string {
  const place = placeInTable(state)
  if (!place) return ""
  const at = t`row ${place.top + 1}, column ${place.left + 1}`
  if (!(state.selection instanceof CellSelection)) return t`The caret is in ${at}.`
  return t`${place.bottom - place.top} × ${place.right - place.left} cells are selected, from ${at}.`
}

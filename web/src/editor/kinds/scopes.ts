/** What each header cell of a table names, as the live page says it: its row, or its column. */
import type { Node } from "prosemirror-model"
import { Plugin } from "prosemirror-state"
import { TableMap } from "prosemirror-tables"
import { Decoration, DecorationSet } from "prosemirror-view"
import { kinds } from "../commands"

/** The positions of the header cells of a grid, with their scopes; a grid that is the same node has the same. */
const known = new WeakMap<Node, [number, string][]>()

/** The row where a cell begins one that goes on with other cells, its column otherwise (HTML Living Standard, 4.9.12). */
export function scopesOf(grid: Node): [number, string][] {
  const before = known.get(grid)
  if (before) return before
  const map = TableMap.get(grid)
  const heads = grid.firstChild?.children.every(({ type }) => type === kinds.table_header)
  const found = [...new Set(map.map)].flatMap((position): [number, string][] => {
    if (grid.nodeAt(position)?.type !== kinds.table_header) return []
    const { left, top } = map.findCell(position)
    return [[position, left === 0 && !(top === 0 && heads) ? "row" : "col"]]
  })
  known.set(grid, found)
  return found
}

function decorated(doc: Node): DecorationSet {
  const marks: Decoration[] = []
  doc.descendants((node, position) => {
    if (node.type !== kinds.table_grid) return !node.isTextblock
    for (const [at, scope] of scopesOf(node)) {
      const from = position + 1 + at
      marks.push(Decoration.node(from, from + (node.nodeAt(at)?.nodeSize ?? 1), { scope }))
    }
    return false
  })
  return DecorationSet.create(doc, marks)
}

export const scopesPlugin = new Plugin<DecorationSet>({
  state: {
    init: (_, { doc }) => decorated(doc),
    apply: (tr, before, _, { doc }) => (tr.docChanged ? decorated(doc) : before),
  },
  props: {
    decorations(state) {
      return this.getState(state)
    },
  },
})

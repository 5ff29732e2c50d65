/** From the core's places (paths of indexes, offsets in a block) to positions in the editor, and its changes applied. */
import type { Node, ResolvedPos } from "prosemirror-model"
import type { Transaction } from "prosemirror-state"
import type { Repair } from "../api/client"

/** The position before the node at `path`, or null when there is none. */
export function positionOf(doc: Node, path: readonly number[]): number | null {
  let node = doc
  let position = 0
  for (const [depth, index] of path.entries()) {
    if (index >= node.childCount) return null
    if (depth > 0) position += 1
    for (let before = 0; before < index; before++) position += node.child(before).nodeSize
    node = node.child(index)
  }
  return position
}

/** The path of the block of words at a place, and the position in it: the inverse of `positionOf`. */
export function pathOf($place: ResolvedPos): { path: number[]; position: number } {
  const path = Array.from({ length: $place.depth }, (_, depth) => $place.index(depth))
  return { path, position: $place.parentOffset }
}

/** Apply a repair's changes. Paths are those of the document the repair was made for; `moved` maps them to now. */
export function applyRepair(
  tr: Transaction,
  repair: Repair,
  checked: Node,
  moved: (position: number) => number,
): boolean {
  for (const change of repair.changes) {
    const then = positionOf(checked, change.path)
    if (then === null) return false
    const position = tr.mapping.map(moved(then))
    const node = tr.doc.nodeAt(position)
    if (!node) return false
    if (change.change === "set_attributes") {
      tr.setNodeMarkup(position, null, { ...node.attrs, ...change.attrs })
    } else {
      const from = tr.mapping.map(moved(then + 1 + (change.start ?? 0)), 1)
      const to = tr.mapping.map(moved(then + 1 + (change.end ?? 0)), -1)
      if (to < from) return false
      const marks = tr.doc.nodeAt(from)?.marks ?? []
      tr.replaceWith(from, to, tr.doc.type.schema.text(change.text ?? "", marks))
    }
  }
  return true
}

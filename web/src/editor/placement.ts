/** From the core's places (paths of indexes, offsets in a block) to positions in the editor, and its changes applied. */
import type { Node, ResolvedPos } from "prosemirror-model"
import type { Transaction } from "prosemirror-state"
import type { Mappable } from "prosemirror-transform"
import type { Change } from "../api/client"

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

/** Where the nodes stand that a change puts others in the place of; of none, where those come in. */
function nodesAt(doc: Node, path: readonly number[], count: number): { from: number; to: number } | null {
  const from = positionOf(doc, path) ?? (count ? null : endOf(doc, path))
  if (from === null) return null
  if (!count) return { from, to: from }
  const $from = doc.resolve(from)
  const first = $from.index()
  if (first + count > $from.parent.childCount) return null
  let to = from
  for (let index = first; index < first + count; index++) to += $from.parent.child(index).nodeSize
  return { from, to }
}

/** The position behind the last node of the parent that a path leads into, where it is the next index there. */
function endOf(doc: Node, path: readonly number[]): number | null {
  const above = path.slice(0, -1)
  const start = above.length ? positionOf(doc, above) : -1
  const parent = start === null ? null : start < 0 ? doc : doc.nodeAt(start)
  return parent && parent.childCount === path.at(-1) ? (start ?? 0) + 1 + parent.content.size : null
}

/** The words between two positions; whatever is no word counts as a sign of its own. */
const wordsOf = (doc: Node, from: number, to: number) => doc.textBetween(from, to, "\n", "\ufffc")

/**
 * Apply changes that the core made. Paths are those of the document they were made for; `since` maps its positions to
 * now. Gives false, with nothing to be relied on in `tr`, where what would be put aside is no longer what it was.
 */
export function applyChanges(
  tr: Transaction,
  changes: readonly Change[],
  checked: Node,
  since: Mappable,
): boolean {
  const moved = (position: number, assoc = 1) => since.map(position, assoc)
  const { schema } = checked.type
  for (const change of changes) {
    if (change.change === "set_fact") {
      const name = change.name ?? ""
      if (tr.doc.attrs[name] !== checked.attrs[name]) return false
      tr.setDocAttribute(name, change.value ?? "")
      continue
    }
    if (change.change === "set_attributes" && change.path.length === 0) {
      const given = Object.entries(change.attrs ?? {})
      if (given.some(([name]) => tr.doc.attrs[name] !== checked.attrs[name])) return false
      for (const [name, value] of given) tr.setDocAttribute(name, value)
      continue
    }
    if (change.change === "replace_nodes") {
      const then = nodesAt(checked, change.path, change.count ?? 1)
      if (!then || (then.from === then.to && since.mapResult(then.from).deletedAcross)) return false
      // What comes in between stands behind what was written there since.
      const from = tr.mapping.map(moved(then.from, 1), 1)
      const to = then.to === then.from ? from : tr.mapping.map(moved(then.to, -1), -1)
      if (to < from || !tr.doc.slice(from, to).eq(checked.slice(then.from, then.to))) return false
      const nodes = (change.nodes ?? []).map((node) => schema.nodeFromJSON(node))
      if (nodes.length) tr.replaceWith(from, to, nodes)
      else tr.delete(from, to)
      continue
    }
    const then = positionOf(checked, change.path)
    if (then === null) return false
    if (since.mapResult(then).deletedAfter) return false
    const position = tr.mapping.map(moved(then))
    const node = tr.doc.nodeAt(position)
    if (!node || node.type !== checked.nodeAt(then)?.type) return false
    if (change.change === "set_attributes") {
      const before = checked.nodeAt(then)?.attrs ?? {}
      if (Object.keys(change.attrs ?? {}).some((name) => before[name] !== node.attrs[name])) return false
      tr.setNodeMarkup(position, null, { ...node.attrs, ...change.attrs })
      continue
    }
    const from = tr.mapping.map(moved(then + 1 + (change.start ?? 0), 1), 1)
    const adds = change.start === change.end
    if (adds && since.mapResult(then + 1 + (change.start ?? 0)).deletedAcross) return false
    const to = adds ? from : tr.mapping.map(moved(then + 1 + (change.end ?? 0), -1), -1)
    if (to < from) return false
    if (change.change === "mark_words") {
      const mark = schema.marks[change.kind ?? ""]
      if (!mark) return false
      if (change.attrs) tr.addMark(from, to, mark.create(change.attrs))
      else tr.removeMark(from, to, mark)
    } else if (
      wordsOf(tr.doc, from, to) !==
      wordsOf(checked, then + 1 + (change.start ?? 0), then + 1 + (change.end ?? 0))
    ) {
      return false
    } else if (change.change === "replace_inline") {
      const nodes = (change.nodes ?? []).map((each) => schema.nodeFromJSON(each))
      if (nodes.length) tr.replaceWith(from, to, nodes)
      else tr.delete(from, to)
    } else if (change.text) {
      tr.replaceWith(from, to, schema.text(change.text, tr.doc.nodeAt(from)?.marks ?? []))
    } else {
      tr.delete(from, to)
    }
  }
  return true
}

/**
 * Regions: the parts of a page that hold its blocks, each a child of the document. Every document has `main`, first of
 * all; which others there are is said by a template or a text from elsewhere, never by a key pressed while writing.
 */
import type { Node, ResolvedPos } from "prosemirror-model"
import { Fragment, Slice } from "prosemirror-model"
import { Plugin, PluginKey, type Selection, TextSelection, type Transaction } from "prosemirror-state"

/** How deep a block stands that is not within another. */
export const BLOCK = 2

export interface Placed {
  node: Node
  /** The position before the node. */
  position: number
}

/** The regions of a document in reading order. */
export function regionsOf(doc: Node): Placed[] {
  const found: Placed[] = []
  doc.forEach((node, position) => {
    found.push({ node, position })
  })
  return found
}

/** Visit the blocks of all regions in reading order, those within blocks left out, with the position before each. */
export function eachBlock(doc: Node, visit: (node: Node, position: number) => void): void {
  doc.forEach((region, start) => {
    region.forEach((node, offset) => {
      visit(node, start + 1 + offset)
    })
  })
}

/** The blocks of all regions in reading order. */
export function blocksOf(doc: Node): Placed[] {
  const found: Placed[] = []
  eachBlock(doc, (node, position) => found.push({ node, position }))
  return found
}

/** The place of the block that a position is in, counted through all regions. */
export function blockAt($place: ResolvedPos): number {
  let before = 0
  for (let index = 0; index < $place.index(0); index++) before += $place.doc.child(index).childCount
  return before + ($place.depth ? $place.index(1) : 0)
}

/** The name of the region that a position is in. */
export const regionAt = (doc: Node, position: number): string =>
  (doc.resolve(position).node(1) ?? doc.firstChild)?.attrs.name

/** Where something new stands that comes behind all that is selected: behind a block, never outside a region. */
export function behind(selection: Selection): number {
  const { $from, to } = selection
  if ($from.depth >= BLOCK) return $from.after(BLOCK)
  return $from.depth ? to : $from.doc.content.size - 1
}

/** Whether nothing stands behind a position between blocks in its region. */
export function endsRegion(doc: Node, position: number): boolean {
  const $place = doc.resolve(position)
  return $place.depth === 1 && $place.parentOffset === $place.parent.content.size
}

const names = (doc: Node) => doc.children.map((region) => region.attrs.name as string)

/** Blocks that were copied, without the regions they stood in. */
export function withoutRegions(slice: Slice): Slice {
  const { content, openStart, openEnd } = slice
  if (content.firstChild?.type.name !== "region") return slice
  const blocks = content.content.flatMap((region) => region.children)
  return new Slice(Fragment.from(blocks), Math.max(0, openStart - 1), Math.max(0, openEnd - 1))
}

const key = new PluginKey("regions")

/** Marks a transaction that is meant to give the document other regions than it had. */
export const givesRegions = (tr: Transaction) => tr.setMeta(key, true)

/** Marks it as another is marked that has the same steps. */
export const givesRegionsAs = (made: Transaction, tr: Transaction) => tr.setMeta(key, made.getMeta(key))

/**
 * Keeps the regions as they are, whatever is selected and deleted: one that went comes back empty, and blocks that a
 * second of the same name holds go into the first.
 */
export const regionsPlugin = new Plugin({
  key,
  props: {
    /** A selection ends at the edge of its region; what is cut out of two would leave them as one. */
    createSelectionBetween(_view, $anchor, $head) {
      if ($anchor.depth < 1 || $head.depth < 1 || $anchor.index(0) === $head.index(0)) return null
      const { doc } = $anchor
      const edge = $head.pos > $anchor.pos ? $anchor.end(1) : $anchor.start(1)
      return TextSelection.between($anchor, doc.resolve(edge), $head.pos > $anchor.pos ? -1 : 1)
    },
    transformPasted: withoutRegions,
  },
  appendTransaction(transactions, before, state) {
    if (!transactions.some(({ docChanged }) => docChanged)) return null
    if (transactions.some((tr) => tr.getMeta(key) || tr.getMeta("history$"))) return null
    const [had, has] = [names(before.doc), names(state.doc)]
    if (had.length === has.length && had.every((name, index) => name === has[index])) return null
    const { region, paragraph } = state.schema.nodes
    const held = new Map<string, Node[]>(had.map((name) => [name, []]))
    for (const { attrs, children } of state.doc.children)
      held.set(attrs.name, [...(held.get(attrs.name) ?? []), ...children])
    const whole = [...held].flatMap(
      ([name, blocks]) => region?.create({ name }, blocks.length ? blocks : paragraph?.create()) ?? [],
    )
    const tr = state.tr.replaceWith(0, state.doc.content.size, whole)
    return tr.setSelection(
      TextSelection.near(tr.doc.resolve(Math.min(state.selection.from, tr.doc.content.size)), -1),
    )
  },
})

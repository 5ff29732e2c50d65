/** Places that two people changed, each in their way: where their wordings stand on the sheet, and choosing. */
import type { Node } from "prosemirror-model"
import { type EditorState, Plugin, PluginKey, type Transaction } from "prosemirror-state"
import type { Mappable } from "prosemirror-transform"
import { Decoration, DecorationSet } from "prosemirror-view"
import type { Clash } from "../api/client"
import { positionOf } from "./placement"
import { schema } from "./schema"

/** A block of a wording, where it stands now. */
export interface Standing {
  node: Node
  from: number
  to: number
}

export interface Wordings {
  theirs: Standing | null
  mine: Standing | null
}

const SIDES = ["theirs", "mine"] as const
type Side = (typeof SIDES)[number]

/** What a decoration tells: it marks this side of this clash. */
interface Spec {
  clash: number
  side: Side
}

const blockOf = (side: Clash["mine"]) =>
  typeof side === "string" || !side[0] ? null : schema.nodeFromJSON(side[0])

/** Where the two wordings of a clash stand; null where one does not, or never did. */
export function wordingsOf(state: EditorState, clash: Clash): Wordings {
  const found = (side: Side): Standing | null => {
    const [mark] =
      key.getState(state)?.find(undefined, undefined, (spec) => of(spec as Spec, clash.id, side)) ?? []
    const node = mark && state.doc.nodeAt(mark.from)
    return node ? { node, from: mark.from, to: mark.to } : null
  }
  return { theirs: found("theirs"), mine: found("mine") }
}

const of = (spec: Spec, clash: number, side: Side) => spec.clash === clash && spec.side === side

/** The attributes in which the two sides differ, as each would have them. */
export function attributesOf(clash: Clash): { name: string; theirs: unknown; mine: unknown }[] {
  const [theirs, mine] = [blockOf(clash.theirs), blockOf(clash.mine)]
  if (!theirs || !mine) return []
  return Object.keys(theirs.attrs)
    .filter((name) => theirs.attrs[name] !== mine.attrs[name])
    .map((name) => ({ name, theirs: theirs.attrs[name], mine: mine.attrs[name] }))
}

export type Choice = "theirs" | "mine" | "both"

/**
 * What a choice makes of the text; null where nothing is to be done. What is put aside is just what was `shown`; where
 * it reads otherwise by now, false: it has to be looked at once more.
 */
export function chosen(
  state: EditorState,
  clash: Clash,
  choice: Choice,
  shown: Wordings,
): Transaction | null | false {
  const { sort } = clash
  if (sort === "title" || sort === "description")
    return choice === "mine" ? state.tr.setDocAttribute(sort, clash.mine) : null
  const now = wordingsOf(state, clash)
  if (sort === "attributes") {
    if (choice !== "mine" || !now.theirs) return null
    const wanted = Object.fromEntries(attributesOf(clash).map(({ name, mine }) => [name, mine]))
    return state.tr.setNodeMarkup(now.theirs.from, null, { ...now.theirs.node.attrs, ...wanted })
  }
  if (choice === "both") return null
  const side = choice === "mine" ? "theirs" : "mine"
  const aside = now[side]
  if (!aside) return null
  if (!shown[side] || !aside.node.eq(shown[side].node)) return false
  return state.tr.deleteRange(aside.from, aside.to)
}

/** What is told of the clashes: those that are still open, and where their wordings stand. */
interface Told {
  open: ReadonlySet<number>
  places: readonly (Spec & { from: number; to: number })[]
}

const key = new PluginKey<DecorationSet>("clashes")

/** Holds the marks of the wordings. Once set, a mark goes with its block, whatever is written in it. */
export const clashesPlugin = new Plugin({
  key,
  state: {
    init: () => DecorationSet.empty,
    apply(tr, before) {
      const marks = before.map(tr.mapping, tr.doc)
      const told = tr.getMeta(key) as Told | undefined
      return told ? changed(marks, tr.doc, told) : marks
    },
  },
  props: {
    decorations: (state) => key.getState(state),
  },
})

function changed(marks: DecorationSet, doc: Node, { open, places }: Told): DecorationSet {
  const settled = marks.find(undefined, undefined, (spec) => !open.has((spec as Spec).clash))
  const known = new Set(marks.find().map(({ spec }) => `${spec.clash} ${spec.side}`))
  const added = places
    .filter(({ clash, side }) => !known.has(`${clash} ${side}`))
    .map(({ from, to, ...spec }) => Decoration.node(from, to, { class: "has-two-wordings" }, spec))
  return marks.remove(settled).add(doc, added)
}

/**
 * A transaction that marks the wordings of these, and no others; null where there is nothing to do. Their paths are
 * those of `then`, a text whose places `since` maps to now; without it, no new ones are marked.
 */
export function withClashes(
  state: EditorState,
  clashes: readonly Clash[],
  then: Node | null,
  since: Mappable,
): Transaction | null {
  if (!clashes.length && !key.getState(state)?.find().length) return null
  const places = clashes.flatMap((clash) =>
    SIDES.flatMap((side) => {
      const path = clash[`${side}_at`]
      const position = then && path ? positionOf(then, path) : null
      if (position === null) return []
      const { pos: from, deletedAfter } = since.mapResult(position)
      const node = state.doc.nodeAt(from)
      return node && !deletedAfter ? [{ clash: clash.id, side, from, to: from + node.nodeSize }] : []
    }),
  )
  const told: Told = { open: new Set(clashes.map(({ id }) => id)), places }
  return state.tr.setMeta(key, told).setMeta("addToHistory", false)
}

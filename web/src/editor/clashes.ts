/** Places that two people changed, each in their way: where their wordings stand on the sheet, and choosing. */
import type { Node } from "prosemirror-model"
import { type EditorState, Plugin, PluginKey, type Transaction } from "prosemirror-state"
import { Decoration, DecorationSet } from "prosemirror-view"
import type { Clash } from "../api/client"
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

/** The share of words that a block must have in common with the one that was kept, to be held for it. */
const ALIKE = 0.5

const wordsOf = (node: Node) => node.textContent.match(/[\p{L}\p{N}]+/gu) ?? []

function likeness(one: Node, other: Node): number {
  if (one.type !== other.type) return 0
  if (one.eq(other)) return 2
  if ("item" in one.attrs && one.attrs.item === other.attrs.item) return 1
  const [words, others] = [wordsOf(one), wordsOf(other)]
  const left = new Map<string, number>()
  for (const word of words) left.set(word, (left.get(word) ?? 0) + 1)
  let both = 0
  for (const word of others) {
    const count = left.get(word) ?? 0
    if (count) both += 1
    left.set(word, count - 1)
  }
  return words.length + others.length ? (2 * both) / (words.length + others.length) : 0
}

/** Where a block stands, or what has become of it by writing on in it; `taken` is not it. */
function find(doc: Node, kept: Node, taken: Standing | null): Standing | null {
  let best: Standing | null = null
  let most = ALIKE
  doc.descendants((node, from) => {
    if (from === taken?.from) return false
    const like = likeness(kept, node)
    if (like > most || (like === most && most === ALIKE && !best)) {
      most = like
      best = { node, from, to: from + node.nodeSize }
    }
    return !node.isTextblock
  })
  return best
}

const blockOf = (side: Clash["mine"]) =>
  typeof side === "string" || !side[0] ? null : schema.nodeFromJSON(side[0])

/** Where the two wordings of a clash stand; null where one does not, or never did. */
export function wordingsOf(doc: Node, clash: Clash): Wordings {
  const [theirs, mine] = [blockOf(clash.theirs), blockOf(clash.mine)]
  const first = theirs && find(doc, theirs, null)
  return { theirs: first, mine: clash.sort !== "attributes" && mine ? find(doc, mine, first) : null }
}

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
  const now = wordingsOf(state.doc, clash)
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

const key = new PluginKey<{ open: readonly Clash[]; marks: DecorationSet }>("clashes")

export const clashesPlugin = new Plugin({
  key,
  state: {
    init: () => ({ open: [] as readonly Clash[], marks: DecorationSet.empty }),
    apply(tr, before) {
      const told = tr.getMeta(key) as readonly Clash[] | undefined
      if (told) return { open: told, marks: marked(tr.doc, told) }
      return tr.docChanged ? { ...before, marks: before.marks.map(tr.mapping, tr.doc) } : before
    },
  },
  props: {
    decorations: (state) => key.getState(state)?.marks,
  },
})

function marked(doc: Node, clashes: readonly Clash[]): DecorationSet {
  const places = clashes.flatMap((clash) => {
    const { theirs, mine } = wordingsOf(doc, clash)
    return [theirs, mine].flatMap((each) => (each ? [each] : []))
  })
  return DecorationSet.create(
    doc,
    places.map(({ from, to }) => Decoration.node(from, to, { class: "has-two-wordings" })),
  )
}

/** A transaction that marks the wordings of these. */
export const withClashes = (state: EditorState, clashes: readonly Clash[]) =>
  state.tr.setMeta(key, clashes).setMeta("addToHistory", false)

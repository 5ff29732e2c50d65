/** What the page check found, kept at its places while the text changes, and marked on the sheet. */
import { t } from "@lingui/core/macro"
import type { Node } from "prosemirror-model"
import { type EditorState, Plugin, PluginKey, type Transaction } from "prosemirror-state"
import { Mapping } from "prosemirror-transform"
import { Decoration, DecorationSet } from "prosemirror-view"
import type { Finding } from "../api/client"
import { positionOf } from "./placement"

/** A finding at its place. One of the page as a whole stands nowhere: `from` and `to` are -1. */
export interface Placed {
  finding: Finding
  from: number
  to: number
}

interface Checked {
  /** The document that was checked, and how positions in it have moved since. */
  doc: Node | null
  since: Mapping
  placed: Placed[]
  shown: number | null
}

const key = new PluginKey<Checked>("findings")
export const SEVERITY_WORDS: Record<Finding["severity"], string> = {
  blocks: t`Blocks publishing`,
  mend: t`To mend`,
  look: t`To look at`,
}

const GONE = t`findings that a repair has mended`

function place(doc: Node, found: readonly Finding[]): Placed[] {
  return found.flatMap((finding) => {
    if (!finding.path.length) return [{ finding, from: -1, to: -1 }]
    const position = positionOf(doc, finding.path)
    const node = position === null ? null : doc.nodeAt(position)
    if (position === null || !node) return []
    // What is wrong within a block that is shown as a whole is told of the block.
    const $at = doc.resolve(position)
    for (let depth = 1; depth <= $at.depth; depth++)
      if ($at.node(depth).type.spec.atom) return [{ finding, from: $at.before(depth), to: $at.after(depth) }]
    const from = finding.span ? position + 1 + (finding.span[0] ?? 0) : position
    const to = finding.span ? position + 1 + (finding.span[1] ?? 0) : position + node.nodeSize
    return [{ finding, from, to }]
  })
}

export const findingsPlugin = new Plugin<Checked>({
  key,
  state: {
    init: () => ({ doc: null, since: new Mapping(), placed: [], shown: null }),
    apply(tr, before) {
      const told = tr.getMeta(key) as Partial<Checked> | undefined
      if (told?.doc) return { ...before, ...told }
      const now = told ? { ...before, ...told } : before
      if (!tr.docChanged || !now.doc) return now
      const since = now.since
      since.appendMapping(tr.mapping)
      const gone: readonly Finding[] = tr.getMeta(GONE) ?? []
      const placed = now.placed.flatMap((each) => {
        if (gone.includes(each.finding)) return []
        if (each.from < 0) return [each]
        const from = tr.mapping.map(each.from, 1)
        const to = tr.mapping.map(each.to, -1)
        return to > from ? [{ ...each, from, to }] : []
      })
      return { ...now, since, placed }
    },
  },
  props: {
    decorations(state) {
      const checked = key.getState(state)
      if (!checked) return null
      const marks = checked.placed.flatMap(({ finding, from, to }, index) => {
        if (from < 0 || finding.allowed) return []
        // Whoever hears the page hears what is found there, at its place.
        const said = { "aria-description": `${SEVERITY_WORDS[finding.severity]}: ${finding.sentence}` }
        const kind = finding.severity === "look" ? " is-to-look-at" : ""
        const shown = index === checked.shown ? " is-shown-finding" : ""
        return finding.span
          ? [Decoration.inline(from, to, { class: `has-finding${kind}${shown}`, ...said })]
          : [Decoration.node(from, to, { class: `has-finding-block${kind}${shown}`, ...said })]
      })
      return DecorationSet.create(state.doc, marks)
    },
  },
})

const NONE: Placed[] = []

/** Everything the page check found, what is right as it is among it. */
export function findingsOf(state: EditorState): Placed[] {
  return key.getState(state)?.placed ?? NONE
}

/** What is still to be mended or looked at. */
export function openFindings(state: EditorState): Placed[] {
  return findingsOf(state).filter(({ finding }) => !finding.allowed)
}

/** Has the findings that a transaction mends go with it; the next check may bring some back. */
export function without(tr: Transaction, mended: readonly Finding[]): Transaction {
  return tr.setMeta(GONE, mended)
}

/** A transaction that puts new findings in place; `checked` is the document they were made for. */
export function withFindings(state: EditorState, checked: Node, found: readonly Finding[]) {
  return state.tr.setMeta(key, {
    doc: checked,
    since: new Mapping(),
    placed: place(checked, found),
    shown: null,
  })
}

/** A transaction that shows one finding more plainly, or (null) none. */
export function withShown(state: EditorState, shown: number | null) {
  return state.tr.setMeta(key, { shown })
}

/** The document last checked, and how to find its positions in the present one. */
export function sinceCheck(state: EditorState): { doc: Node; since: Mapping } | null {
  const checked = key.getState(state)
  return checked?.doc ? { doc: checked.doc, since: checked.since } : null
}

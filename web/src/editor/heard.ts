/** The block that the listening view speaks just now, marked on the sheet. */
import { type EditorState, Plugin, PluginKey } from "prosemirror-state"
import { Decoration, DecorationSet } from "prosemirror-view"
import { positionOf } from "./placement"

const key = new PluginKey<number | null>("heard")

export const heardPlugin = new Plugin<number | null>({
  key,
  state: {
    init: () => null,
    apply(tr, before) {
      const told: number | null | undefined = tr.getMeta(key)
      if (told !== undefined) return told
      return before === null
        ? null
        : tr.mapping.mapResult(before, 1).deleted
          ? null
          : tr.mapping.map(before, 1)
    },
  },
  props: {
    decorations(state) {
      const from = key.getState(state)
      const node = typeof from === "number" ? state.doc.nodeAt(from) : null
      if (typeof from !== "number" || !node) return null
      return DecorationSet.create(state.doc, [
        Decoration.node(from, from + node.nodeSize, { class: "is-heard" }),
      ])
    },
  },
})

/** A transaction that marks the block at a path; none where there is none. */
export function withHeard(state: EditorState, path: readonly number[] | null) {
  const position = path?.length ? positionOf(state.doc, path) : null
  return state.tr.setMeta(key, position).setMeta("addToHistory", false)
}

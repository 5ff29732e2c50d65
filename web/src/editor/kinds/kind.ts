/** What a kind of node is to the editor, beside what the core says of it. */
import type { Attrs, Node, NodeSpec } from "prosemirror-model"
import type { EditorView, NodeView } from "prosemirror-view"
import type { Known } from "../known"

export interface EditorKind {
  /** How it is drawn and read, where it is more than one element. For kinds with a view this serves copying and pasting. */
  node?: Partial<NodeSpec>
  /** How it stands on the sheet, where that is more than its elements. */
  view?(node: Node, view: EditorView, known: Known, position: () => number | undefined): NodeView
  /** What the Shelf offers of it: the attributes it begins with, its name, and what it is for. */
  offers?: readonly { attrs?: Attrs; name: string; says: string }[]
}

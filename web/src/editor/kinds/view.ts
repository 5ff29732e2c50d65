/** What the views of items share: drawn anew when the node or what is known of its item is another, chosen as a whole,
 * and made larger by a corner where they have one. */
import type { Node } from "prosemirror-model"
import type { EditorView, NodeView } from "prosemirror-view"
import type { Known } from "../known"
import { regionAt } from "../regions"

export abstract class ItemView implements NodeView {
  dom: HTMLElement
  /** The corner by which it is made larger; null for what has no size. */
  protected handle: HTMLElement | null = null
  private forget: () => void = () => {}

  constructor(
    tag: string,
    protected node: Node,
    protected view: EditorView,
    protected known: Known,
    protected position: () => number | undefined,
  ) {
    this.dom = view.dom.ownerDocument.createElement(tag)
  }

  /** Draws it, now and whenever something else is known of the items; the last that a constructor does. */
  protected start() {
    this.draw()
    this.forget = this.known.watch(() => this.draw())
  }

  protected abstract draw(): void

  /** Puts the handle where it is to be seen. */
  protected hold(_handle: HTMLElement) {}

  protected get page() {
    return this.dom.ownerDocument
  }

  /** The room that there is where it stands. */
  protected get room() {
    return this.known.room(regionAt(this.view.state.doc, this.position() ?? 0))
  }

  selectNode() {
    this.dom.classList.add("ProseMirror-selectednode")
    if (this.handle && this.view.editable) this.hold(this.handle)
  }

  deselectNode() {
    this.dom.classList.remove("ProseMirror-selectednode")
    this.handle?.remove()
  }

  update(node: Node): boolean {
    if (node.type !== this.node.type) return false
    this.node = node
    this.draw()
    return true
  }

  stopEvent(event: Event): boolean {
    return event.target === this.handle
  }

  ignoreMutation(): boolean {
    return true
  }

  destroy() {
    this.forget()
  }
}

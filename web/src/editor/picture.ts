/** A picture on the sheet: the same elements with the same attributes as on the live page. */
import type { Node } from "prosemirror-model"
import type { EditorView, NodeView } from "prosemirror-view"
import type { Known } from "./known"

export class PictureView implements NodeView {
  dom: HTMLElement
  private image: HTMLImageElement
  private caption: HTMLElement
  private forget: () => void

  constructor(
    private node: Node,
    view: EditorView,
    private known: Known,
  ) {
    const page = view.dom.ownerDocument
    this.dom = page.createElement("figure")
    this.image = page.createElement("img")
    this.caption = page.createElement("figcaption")
    this.dom.append(this.image)
    this.draw()
    this.forget = known.watch(() => this.draw())
  }

  private draw() {
    const { caption } = this.node.attrs
    this.caption.textContent = caption
    if (caption && !this.caption.parentNode) this.dom.append(this.caption)
    if (!caption) this.caption.remove()
    const item = this.known.item(this.node.attrs.item)
    this.dom.className = item?.image ? "picture" : "picture is-unknown"
    if (!item?.image) return
    for (const [name, value] of Object.entries(item.image)) {
      // Setting the same source again would load the picture again.
      if (this.image.getAttribute(name) !== String(value)) this.image.setAttribute(name, String(value))
    }
    this.image.alt = this.node.attrs.decorative ? "" : (this.node.attrs.alt ?? item.alt)
  }

  update(node: Node): boolean {
    if (node.type !== this.node.type) return false
    this.node = node
    this.draw()
    return true
  }

  ignoreMutation(): boolean {
    return true
  }

  destroy() {
    this.forget()
  }
}

/** A picture on the sheet: the same elements with the same attributes as on the live page. */
import { t } from "@lingui/core/macro"
import type { Node } from "prosemirror-model"
import type { EditorView, NodeView } from "prosemirror-view"
import { described } from "../../document/described"
import { type PictureAttrs, type Shown, shown, widths } from "../../document/pictures"
import type { Known } from "../known"
import { regionAt } from "../regions"
import type { EditorKind } from "./kind"

const STANDING = ["place", "space", "border"] as const
const SMALLEST = 16

/** The address of a cut whose files are not made yet. */
export const previewOf = (item: number, cut: string, width: number) =>
  `/api/items/${item}/cut/${cut || "whole"}?width=${Math.min(2000, Math.max(SMALLEST, width))}`

export class PictureView implements NodeView {
  dom: HTMLElement
  private holder: HTMLElement
  private image: HTMLImageElement
  private caption: HTMLElement
  private handle: HTMLElement
  private forget: () => void

  constructor(
    private node: Node,
    private view: EditorView,
    private known: Known,
    private position: () => number | undefined,
  ) {
    const page = view.dom.ownerDocument
    this.dom = page.createElement("figure")
    this.holder = page.createElement("picture")
    this.image = page.createElement("img")
    this.caption = page.createElement("figcaption")
    this.handle = page.createElement("span")
    this.handle.className = "size-handle"
    this.handle.setAttribute("aria-hidden", "true")
    this.handle.title = t`Drag to change the size`
    this.handle.addEventListener("pointerdown", (event) => this.drag(event))
    this.holder.append(this.image)
    this.dom.append(this.holder)
    this.draw()
    this.forget = known.watch(() => this.draw())
  }

  private get attrs(): PictureAttrs {
    return this.node.attrs as PictureAttrs
  }

  private get room() {
    return this.known.room(regionAt(this.view.state.doc, this.position() ?? 0))
  }

  private draw() {
    const { caption } = this.node.attrs
    this.caption.textContent = caption
    if (caption && !this.caption.parentNode) this.holder.after(this.caption)
    if (!caption) this.caption.remove()
    for (const name of STANDING) {
      const value = this.node.attrs[name]
      if (value) this.dom.setAttribute(`data-${name}`, value)
      else this.dom.removeAttribute(`data-${name}`)
    }
    const item = this.known.item(this.node.attrs.item)
    const there = item && item.files.length > 0
    this.dom.classList.add("picture")
    this.dom.classList.toggle("is-unknown", !there)
    if (!there) return
    this.show(shown(item, this.attrs, this.room))
    const words = this.node.attrs.alt ?? (item.decorative ? "" : item.alt)
    this.image.alt = this.node.attrs.decorative ? "" : words
  }

  private show(at: Shown) {
    const waits = at.cut !== ""
    const src = waits ? previewOf(this.node.attrs.item, at.cut, at.width * 2) : at.src
    const wanted = waits ? [] : at.sources
    const page = this.dom.ownerDocument
    const sources = [...this.holder.querySelectorAll("source")]
    for (const [index, { type, srcset }] of wanted.entries()) {
      const source = sources[index] ?? page.createElement("source")
      if (!source.parentNode) this.image.before(source)
      setTo(source, { type, srcset, sizes: at.sizes })
    }
    for (const source of sources.slice(wanted.length)) source.remove()
    const files = !waits && at.srcset ? { srcset: at.srcset, sizes: at.sizes } : {}
    setTo(this.image, { src, srcset: null, sizes: null, ...files, width: at.width, height: at.height })
  }

  selectNode() {
    this.dom.classList.add("ProseMirror-selectednode")
    if (this.view.editable) this.holder.append(this.handle)
  }

  deselectNode() {
    this.dom.classList.remove("ProseMirror-selectednode")
    this.handle.remove()
  }

  /** Follow the pointer with the size; the text hears of it once, when it is let go. */
  private drag(event: PointerEvent) {
    const item = this.known.item(this.node.attrs.item)
    if (!item) return
    event.preventDefault()
    event.stopPropagation()
    const { most } = widths(item, this.attrs, this.room)
    const begun = this.image.getBoundingClientRect().width
    const { place } = this.attrs
    const towards = place === "end" ? -1 : place === "centre" || place === "wide" ? 2 : 1
    const widthAt = (moved: PointerEvent) =>
      Math.round(Math.max(SMALLEST, Math.min(most, begun + (moved.clientX - event.clientX) * towards)))
    const follow = (moved: PointerEvent) => {
      const { width, height } = shown(item, { ...this.attrs, width: widthAt(moved) }, this.room)
      setTo(this.image, { width, height })
      this.handle.dataset.told = width === most ? t`${width} px, the most` : t`${width} px`
    }
    const ended = new AbortController()
    const { signal } = ended
    const stop = () => {
      ended.abort()
      delete this.handle.dataset.told
    }
    this.handle.setPointerCapture(event.pointerId)
    this.handle.addEventListener("pointermove", follow, { signal })
    this.handle.addEventListener(
      "pointerup",
      (last) => {
        stop()
        const position = this.position()
        if (position === undefined) return
        this.dom.dispatchEvent(
          new CustomEvent("picture-sized", { bubbles: true, detail: { position, width: widthAt(last) } }),
        )
      },
      { signal },
    )
    this.handle.addEventListener(
      "pointercancel",
      () => {
        stop()
        this.draw()
      },
      { signal },
    )
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

/** Set attributes that are not so already: setting the same source again would load the picture again. */
function setTo(element: Element, attributes: Record<string, string | number | null>) {
  for (const [name, value] of Object.entries(attributes)) {
    if (value === null) element.removeAttribute(name)
    else if (element.getAttribute(name) !== String(value)) element.setAttribute(name, String(value))
  }
}

const pictureOf = (image: Element) => ({
  item: Number.parseInt(image.getAttribute("src")?.slice(5) ?? "", 10),
  alt: image.getAttribute("alt") || null,
  decorative: image.hasAttribute("data-decorative"),
})

/** The attributes of a picture that the storable form writes as `data-NAME` of its figure; all but the first four. */
const pictureAttrs = Object.entries(described.nodes.find(({ name }) => name === "picture")?.attrs ?? {})
const PICTURE_SETTING = pictureAttrs.slice(4)

/** How a picture stands and what is made of it, as far as it is well said. */
function settingOf(figure: Element) {
  const setting: Record<string, unknown> = {}
  for (const [name, { range, pattern }] of PICTURE_SETTING) {
    const value = figure.getAttribute(`data-${name}`)
    if (value === null) continue
    if (range) {
      if (/^-?\d{1,5}$/.test(value) && Number(value) >= range[0] && Number(value) <= range[1])
        setting[name] = Number(value)
    } else if (new RegExp(`^(?:${pattern})$`).test(value)) setting[name] = value
  }
  return setting
}

const settingAttributes = (attrs: Record<string, unknown>) =>
  Object.fromEntries(
    PICTURE_SETTING.filter(([name]) => attrs[name] !== null).map(([name]) => [
      `data-${name}`,
      String(attrs[name]),
    ]),
  )

export const picture: EditorKind = {
  node: {
    draggable: true,
    toDOM: (node) => [
      "figure",
      { class: "picture", ...settingAttributes(node.attrs) },
      [
        "img",
        {
          src: `item:${node.attrs.item}`,
          ...(node.attrs.alt === null ? {} : { alt: node.attrs.alt }),
          ...(node.attrs.decorative ? { "data-decorative": "" } : {}),
        },
      ],
      ...(node.attrs.caption ? [["figcaption", node.attrs.caption]] : []),
    ],
    parseDOM: [
      {
        tag: "figure.picture",
        getAttrs: (dom) => {
          const image = dom.querySelector('img[src^="item:"]')
          const caption = dom.querySelector("figcaption")?.textContent || null
          return image ? { ...pictureOf(image), ...settingOf(dom), caption } : false
        },
      },
      {
        tag: 'img[src^="item:"]',
        getAttrs: pictureOf,
      },
    ],
  },
  view: (node, view, known, position) => new PictureView(node, view, known, position),
}

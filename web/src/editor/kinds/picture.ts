/** A picture on the sheet: the same elements with the same attributes as on the live page. */
import type { Node } from "prosemirror-model"
import type { EditorView } from "prosemirror-view"
import { described } from "../../document/described"
import { type PictureAttrs, type Shown, shown } from "../../document/pictures"
import type { Known } from "../known"
import { sizeHandle, tellSized } from "./handle"
import type { EditorKind } from "./kind"
import { number, setTo, settingAttributes, settingOf } from "./shown"
import { ItemView } from "./view"

const STANDING = ["place", "space", "border"] as const
const SMALLEST = 16

/** The address of a cut whose files are not made yet. */
export const previewOf = (item: number, cut: string, width: number) =>
  `/api/items/${item}/cut/${cut || "whole"}?width=${Math.min(2000, Math.max(SMALLEST, width))}`

export class PictureView extends ItemView {
  private holder: HTMLElement
  private image: HTMLImageElement
  private caption: HTMLElement

  constructor(node: Node, view: EditorView, known: Known, position: () => number | undefined) {
    super("figure", node, view, known, position)
    const { page } = this
    this.holder = page.createElement("picture")
    this.image = page.createElement("img")
    this.caption = page.createElement("figcaption")
    this.handle = sizeHandle(page, {
      of: () => {
        const item = this.known.item(this.node.attrs.item)
        return item ? { item, attrs: this.attrs, room: this.room } : null
      },
      begun: () => this.image.getBoundingClientRect().width,
      show: (width, height) => setTo(this.image, { width, height }),
      done: (width) => tellSized(this.dom, this.position(), width),
      undone: () => this.draw(),
    })
    this.holder.append(this.image)
    this.dom.append(this.holder)
    this.start()
  }

  private get attrs(): PictureAttrs {
    return this.node.attrs as PictureAttrs
  }

  protected draw() {
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

  protected override hold(handle: HTMLElement) {
    this.holder.append(handle)
  }
}

const pictureOf = (image: Element) => ({
  item: number(image.getAttribute("src")),
  alt: image.getAttribute("alt") || null,
  decorative: image.hasAttribute("data-decorative"),
})

/** The attributes of a picture that the storable form writes as `data-NAME` of its figure; all but the first four. */
const pictureAttrs = described.nodes.find(({ name }) => name === "picture")?.attrs ?? {}
const SETTING = Object.keys(pictureAttrs).slice(4)

export const picture: EditorKind = {
  node: {
    draggable: true,
    toDOM: (node) => [
      "figure",
      { class: "picture", ...settingAttributes(SETTING, node.attrs) },
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
          return image ? { ...pictureOf(image), ...settingOf("picture", SETTING, dom), caption } : false
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

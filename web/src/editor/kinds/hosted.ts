/** Films at other hosts on the sheet: cover, title and length as on the live page. Nothing is asked of the host here. */
import { t } from "@lingui/core/macro"
import type { Node } from "prosemirror-model"
import type { EditorView } from "prosemirror-view"
import { coverItem, sizeAttrs } from "../../document/films"
import { asFilm, type HostedAttrs, hostedShown } from "../../document/hosted"
import { HOSTED } from "../../document/rules"
import type { Known } from "../known"
import { putAtCorner, sizeHandle, tellSized } from "./handle"
import type { EditorKind } from "./kind"
import { number, setTo, settingAttributes, settingOf } from "./shown"
import { ItemView } from "./view"

const STANDING = ["place", "space", "border"] as const
const TOLD = ["captions", "muted", "loop"] as const
const SAID = HOSTED.setting.filter((name) => !TOLD.some((each) => each === name))
const SVG = "http://www.w3.org/2000/svg"

class HostedView extends ItemView {
  private figure: HTMLElement
  private press: HTMLElement
  private image: HTMLImageElement
  /** Has the proportions of the film, whatever those of its cover are. */
  private space: SVGElement
  private title: HTMLElement
  private host: HTMLElement
  private caption: HTMLElement
  private waiting: HTMLElement

  constructor(node: Node, view: EditorView, known: Known, position: () => number | undefined) {
    super("div", node, view, known, position)
    const { page } = this
    const made = (tag: string, css = "") => Object.assign(page.createElement(tag), { className: css })
    this.dom.className = "film hosted"
    this.figure = made("figure")
    // As on the live page, once its module has made a press of the link; here nobody presses it.
    this.press = Object.assign(made("button", "press"), { type: "button", tabIndex: -1 })
    this.image = page.createElement("img")
    this.image.alt = ""
    this.image.draggable = false
    this.space = page.createElementNS(SVG, "svg") as SVGElement
    this.title = made("span", "press-title")
    this.host = made("span", "press-host")
    this.caption = made("figcaption")
    this.waiting = made("p", "film-waits")
    const words = made("span", "press-words")
    words.append(this.title, " ", this.host)
    const cover = made("span", "press-cover")
    cover.append(this.space)
    this.press.append(cover, words)
    this.handle = sizeHandle(page, {
      of: () => {
        const item = this.known.item(this.attrs.item)
        return item ? { item: asFilm(item), attrs: sizeAttrs(this.attrs), room: this.room } : null
      },
      begun: () => this.space.getBoundingClientRect().width,
      show: (width, height) => {
        setTo(this.space, { viewBox: `0 0 ${width} ${height}`, width, height })
        this.putHandle()
      },
      done: (width) => tellSized(this.dom, this.position(), width),
      undone: () => this.draw(),
    })
    this.dom.append(this.figure)
    this.start()
  }

  private get attrs() {
    return this.node.attrs as HostedAttrs
  }

  private putHandle() {
    if (this.handle?.parentNode) putAtCorner(this.handle, this.press, this.attrs.place === "end")
  }

  protected draw() {
    const { attrs, room } = this
    for (const name of STANDING) setTo(this.dom, { [`data-${name}`]: (attrs[name] as string) ?? null })
    const item = this.known.item(attrs.item)
    const there = item?.hosted
    this.dom.classList.toggle("is-unknown", !there)
    if (!item || !there) {
      this.waiting.textContent = item ? t`“${item.title}” is no film at another host.` : ""
      this.figure.replaceChildren(this.waiting)
      return
    }
    this.waiting.remove()
    if (!this.press.parentNode) this.figure.prepend(this.press)
    const number = coverItem(attrs.cover)
    const at = hostedShown(item, attrs, room, number === null ? undefined : this.known.item(number))
    const { width, height, cover } = at
    setTo(this.space, { viewBox: `0 0 ${width} ${height}`, width, height })
    this.press.classList.toggle("is-small", width < HOSTED.narrow)
    if (cover) {
      setTo(this.image, { src: cover, width, height })
      if (!this.image.parentNode) this.space.after(this.image)
    } else this.image.remove()
    this.title.textContent = item.title
    this.host.textContent = there.told
    this.caption.textContent = attrs.caption
    if (attrs.caption && !this.caption.parentNode) this.figure.append(this.caption)
    if (!attrs.caption) this.caption.remove()
    this.putHandle()
  }

  protected override hold(handle: HTMLElement) {
    if (!this.press.parentNode) return
    this.figure.append(handle)
    this.putHandle()
  }
}

export const hosted: EditorKind = {
  node: {
    draggable: true,
    toDOM: ({ attrs }) => [
      "figure",
      {
        class: "hosted",
        ...settingAttributes(SAID, attrs),
        ...Object.fromEntries(TOLD.filter((name) => attrs[name]).map((name) => [`data-${name}`, ""])),
      },
      ["iframe", { src: `item:${attrs.item}` }],
      ...(attrs.caption ? [["figcaption", attrs.caption] as const] : []),
    ],
    parseDOM: [
      {
        tag: "figure.hosted",
        getAttrs: (dom) => {
          const frame = dom.querySelector('iframe[src^="item:"]')
          const caption = dom.querySelector("figcaption")?.textContent || null
          if (!frame) return false
          const told = Object.fromEntries(TOLD.map((name) => [name, dom.hasAttribute(`data-${name}`)]))
          const item = number(frame.getAttribute("src"))
          return { item, ...settingOf("hosted", SAID, dom), ...told, caption }
        },
      },
    ],
  },
  view: (node, view, known, position) => new HostedView(node, view, known, position),
}

/** Lists of downloads on the sheet, as readers get them. What each entry says is written in the Shelf. */
import { t } from "@lingui/core/macro"
import type { Node } from "prosemirror-model"
import type { EditorView } from "prosemirror-view"
import { labelOf } from "../../document/downloads"
import type { Known } from "../known"
import type { EditorKind } from "./kind"
import { number, setTo } from "./shown"
import { ItemView } from "./view"

class DownloadsView extends ItemView {
  private title: HTMLElement
  private list: HTMLElement
  private empty: HTMLElement

  constructor(node: Node, view: EditorView, known: Known, position: () => number | undefined) {
    super("div", node, view, known, position)
    const { page } = this
    this.dom.className = "downloads"
    this.title = page.createElement("p")
    this.title.className = "downloads-title"
    this.list = page.createElement("ul")
    this.empty = page.createElement("p")
    this.empty.className = "downloads-empty"
    this.empty.textContent = t`No document stands in this list yet.`
    this.start()
  }

  protected draw() {
    const { title } = this.node.attrs
    this.title.textContent = title
    setTo(this.list, { "aria-label": title || null })
    const entries: HTMLElement[] = []
    this.node.forEach((each) => {
      const made = this.entry(each)
      if (made) entries.push(made)
    })
    this.list.replaceChildren(...entries)
    this.dom.replaceChildren(...(title ? [this.title] : []), entries.length ? this.list : this.empty)
  }

  /** One document; none where the library does not have it (any more). */
  private entry(node: Node): HTMLElement | null {
    const item = this.known.item(node.attrs.item)
    if (!item) return null
    const { page } = this
    const entry = page.createElement("li")
    const link = page.createElement("a")
    setTo(link, { href: item.address, tabindex: -1 })
    link.append(node.attrs.words || item.title)
    const facts = labelOf(item, page.documentElement.lang)
    if (facts) {
      const told = page.createElement("span")
      told.className = "download-facts"
      told.textContent = facts
      link.append(" ", told)
    }
    if (this.node.attrs.new_window) setTo(link, { target: "_blank", rel: "noopener" })
    entry.append(link)
    if (node.attrs.description) {
      const below = page.createElement("p")
      below.className = "download-description"
      below.textContent = node.attrs.description
      entry.append(below)
    }
    return entry
  }
}

export const downloads: EditorKind = {
  node: {
    draggable: true,
    atom: true,
    toDOM: ({ attrs }) => [
      "div",
      {
        class: "downloads",
        ...(attrs.title ? { "data-title": attrs.title } : {}),
        ...(attrs.new_window ? { "data-new-window": "" } : {}),
      },
      ["ul", 0],
    ],
    parseDOM: [
      {
        tag: "div.downloads",
        contentElement: "ul",
        getAttrs: (dom) => ({
          title: dom.getAttribute("data-title") || null,
          new_window: dom.hasAttribute("data-new-window"),
        }),
      },
    ],
  },
  view: (node, view, known, position) => new DownloadsView(node, view, known, position),
  offers: [{ name: t`Downloads`, says: t`documents as a list, with what each is` }],
}

export const download: EditorKind = {
  node: {
    selectable: false,
    toDOM: ({ attrs }) => [
      "li",
      ["a", { href: `item:${attrs.item}` }, attrs.words ?? ""],
      ...(attrs.description ? [["p", attrs.description] as const] : []),
    ],
    parseDOM: [
      {
        tag: "li",
        context: "downloads/",
        priority: 60,
        getAttrs: (dom) => {
          const link = dom.querySelector('a[href^="item:"]')
          if (!link) return false
          const item = number(link.getAttribute("href"))
          const description = dom.querySelector("p")?.textContent || null
          return { item, words: link.textContent || null, description }
        },
      },
    ],
  },
}

/** Posts of networks. */
import { drawn } from "./drawn"
import type { EditorKind } from "./kind"
import { number } from "./shown"

const PICTURES = /^[1-9]\d{0,14}( [1-9]\d{0,14}){0,3}$/

export const post: EditorKind = {
  node: {
    draggable: true,
    toDOM: ({ attrs }) => [
      "div",
      { class: "post", ...(attrs.pictures ? { "data-pictures": attrs.pictures } : {}) },
      ["p", ["a", { href: `item:${attrs.item}` }]],
      ...(attrs.caption ? [["p", { class: "post-caption" }, attrs.caption] as const] : []),
    ],
    parseDOM: [
      {
        tag: "div.post",
        getAttrs: (dom) => {
          const link = dom.querySelector('p > a[href^="item:"]')
          const pictures = dom.getAttribute("data-pictures") ?? ""
          if (!link) return false
          return {
            item: number(link.getAttribute("href")),
            pictures: PICTURES.test(pictures) ? pictures : null,
            caption: dom.querySelector(".post-caption")?.textContent || null,
          }
        },
      },
    ],
  },
  view: drawn("div"),
}

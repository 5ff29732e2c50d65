/** Pages to read next, as readers get them. What each entry says is written in the Shelf. */
import { t } from "@lingui/core/macro"
import { drawn } from "./drawn"
import type { EditorKind } from "./kind"

export const readNext: EditorKind = {
  node: {
    draggable: true,
    atom: true,
    toDOM: ({ attrs }) => [
      "div",
      { class: "read-next", ...(attrs.title ? { "data-title": attrs.title } : {}) },
      ["ul", 0],
    ],
    parseDOM: [
      {
        tag: "div.read-next",
        contentElement: "ul",
        getAttrs: (dom) => ({ title: dom.getAttribute("data-title") || null }),
      },
    ],
  },
  view: drawn("nav", t`No page stands here yet that readers can read next.`),
  offers: [{ name: t`Read next`, says: t`chosen pages at the foot, with a line on why` }],
}

export const further: EditorKind = {
  node: {
    selectable: false,
    toDOM: ({ attrs }) => [
      "li",
      ["a", attrs.href ? { href: attrs.href } : {}, attrs.words ?? ""],
      ...(attrs.why ? [["p", { class: "read-next-why" }, attrs.why] as const] : []),
    ],
    parseDOM: [
      {
        tag: "li",
        context: "read_next/",
        priority: 60,
        getAttrs: (dom) => {
          const link = dom.querySelector("a")
          if (!link) return false
          return {
            href: link.getAttribute("href") || null,
            words: link.textContent || null,
            why: dom.querySelector(".read-next-why")?.textContent || null,
          }
        },
      },
    ],
  },
}

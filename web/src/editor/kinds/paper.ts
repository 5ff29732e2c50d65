/** Documents shown in the page. */
import { drawn } from "./drawn"
import type { EditorKind } from "./kind"
import { number, settingAttributes, settingOf } from "./shown"

const SETTING = ["first", "last"] as const

export const paper: EditorKind = {
  node: {
    draggable: true,
    toDOM: ({ attrs }) => [
      "div",
      {
        class: "paper",
        ...settingAttributes(SETTING, attrs),
        ...(attrs.turned ? { "data-turned": "" } : {}),
      },
      ["p", ["a", { href: `item:${attrs.item}` }]],
      ...(attrs.caption ? [["p", { class: "paper-caption" }, attrs.caption] as const] : []),
    ],
    parseDOM: [
      {
        tag: "div.paper",
        getAttrs: (dom) => {
          const link = dom.querySelector('a[href^="item:"]')
          if (!link) return false
          return {
            item: number(link.getAttribute("href")),
            ...settingOf("paper", SETTING, dom),
            turned: dom.hasAttribute("data-turned"),
            caption: dom.querySelector(".paper-caption")?.textContent || null,
          }
        },
      },
    ],
  },
  view: drawn("div"),
}

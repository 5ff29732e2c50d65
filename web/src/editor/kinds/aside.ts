/** An aside: its label, and the text beside. */
import { t } from "@lingui/core/macro"
import { ASIDES } from "../../document/rules"
import type { EditorKind } from "./kind"

export const aside: EditorKind = {
  node: {
    toDOM: (node) => [
      "div",
      { class: "aside", "data-sort": node.attrs.sort, role: "note" },
      ["p", { class: "aside-label", contenteditable: "false" }, ASIDES[node.attrs.sort] ?? ""],
      ["div", { class: "aside-text" }, 0],
    ],
    parseDOM: [
      {
        tag: "div.aside",
        contentElement: "div.aside-text",
        getAttrs: (dom) => {
          const sort = dom.getAttribute("data-sort") ?? ""
          return dom.querySelector("div.aside-text") ? { sort: sort in ASIDES ? sort : "note" } : false
        },
      },
    ],
  },
  offers: [
    { attrs: { sort: "note" }, name: t`Note`, says: t`an aside: something besides` },
    { attrs: { sort: "tip" }, name: t`Tip`, says: t`an aside: something that helps` },
    { attrs: { sort: "warning" }, name: t`Warning`, says: t`an aside: something dangerous` },
  ],
}

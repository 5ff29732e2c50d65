/** A call to action: a paragraph that is one link. */
import { t } from "@lingui/core/macro"
import { isReference } from "../../document/described"
import type { EditorKind } from "./kind"

export const callToAction: EditorKind = {
  node: {
    // With an address of its own, browsers put what is typed at the end of a link behind it, and out of the block.
    toDOM: (node) => [
      "p",
      { class: "call", "data-emphasis": node.attrs.emphasis },
      ["a", { role: "link", ...(node.attrs.href ? { "data-href": node.attrs.href } : {}) }, 0],
    ],
    parseDOM: [
      {
        tag: "p.call",
        priority: 60,
        contentElement: "a",
        getAttrs: (dom) => {
          const link = dom.querySelector("a")
          const href = link?.getAttribute("href") ?? link?.getAttribute("data-href") ?? null
          const emphasis = dom.getAttribute("data-emphasis") === "quiet" ? "quiet" : "main"
          return { href: href && isReference(href) ? href : null, emphasis }
        },
      },
    ],
  },
  offers: [{ name: t`Call to action`, says: t`a link that stands out: what to do next` }],
}

/** A table: its rows in one part, in a place of its own that scrolls. */
import { t } from "@lingui/core/macro"
import type { EditorKind } from "./kind"

export const table: EditorKind = {
  node: {
    toDOM: () => ["div", { class: "table" }, ["table", 0]],
    parseDOM: [{ tag: "table", contentElement: (dom) => withOneBody(dom as HTMLElement) }],
  },
  offers: [{ name: t`Table`, says: t`rows and columns, with a row of headers` }],
}

/** Tables come with their rows in several parts or in none; here they stand in one. */
function withOneBody(table: HTMLElement): HTMLElement {
  const rows = [...table.querySelectorAll("tr")].filter((row) => row.closest("table") === table)
  const body = table.ownerDocument.createElement("tbody")
  const caption = table.querySelector("caption")
  body.append(...rows)
  table.replaceChildren(...(caption ? [caption] : []), body)
  return table
}

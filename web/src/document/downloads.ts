/** What a list of downloads says of a document: what the core's `media/labels.py` says, for the sheet. */
import type { ItemOut } from "../api/client"

const first = (language: string) => language.split("-")[0]?.toLowerCase() ?? ""

/** Its kind, size and pages, and its language where that is not the page's; empty while its file is not there. */
export function labelOf(item: ItemOut, language: string): string {
  const foreign = item.language && first(item.language) !== first(language) ? [item.language_name] : []
  return item.link_facts.length ? `(${[...item.link_facts, ...foreign].join(", ")})` : ""
}

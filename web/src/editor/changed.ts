/** What a change did, in a few words, for who does not see it. */
import { t } from "@lingui/core/macro"
import type { Node } from "prosemirror-model"

const LONGEST = 60

const shortened = (words: string) => (words.length > LONGEST ? `${words.slice(0, LONGEST - 1)}…` : words)

/** What stands between two places: its words, or what kind of thing it is. */
function between(doc: Node, from: number, to: number): string {
  const words = doc.textBetween(from, to, " ", " ").trim()
  if (words) return `“${shortened(words)}”`
  let kind = ""
  doc.nodesBetween(from, to, (node, position) => {
    if (!kind && position >= from && !node.isText && position + node.nodeSize <= to) kind = node.type.name
    return !kind
  })
  return kind && t`the ${kind.replaceAll("_", " ")}`
}

/** What a page is called here and there, and what is said of it: attributes of its document. */
const FACTS = {
  title: t`title`,
  description: t`description`,
  label: t`name in the navigation`,
  search_title: t`title in search results`,
  share: t`picture for sharing`,
  share_focus: t`middle of the picture for sharing`,
}

/** “… is back”, “… is gone”, “… stands for …”, or that something is set as it was. */
export function whatChanged(before: Node, after: Node): string {
  const start = before.content.findDiffStart(after.content)
  const end = before.content.findDiffEnd(after.content)
  for (const [fact, name] of Object.entries(FACTS))
    if (before.attrs[fact] !== after.attrs[fact])
      return t`the ${name} is “${shortened(String(after.attrs[fact] ?? ""))}”`
  if (start === null || !end) return t`nothing changed`
  // What is alike at both ends may overlap where words repeat.
  const overlap = Math.max(0, start - Math.min(end.a, end.b))
  const was = between(before, start, end.a + overlap)
  const now = between(after, start, end.b + overlap)
  if (was === now) return was ? t`${was} is set as it was` : t`it is set as it was`
  if (!was) return t`${now} is back`
  if (!now) return t`${was} is gone`
  return t`${now} stands for ${was}`
}

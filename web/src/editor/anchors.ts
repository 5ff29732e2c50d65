/** The addresses that headings have, and would have: what `writing/anchors.py` makes of their words. */
import type { Node } from "prosemirror-model"
import { ANCHORS } from "../document/rules"
import { blocksOf } from "./regions"

/** Words as they may stand in an address: in small letters, hyphens for all but letters and figures, accents gone. */
export function slug(words: string): string {
  const small = Array.from(words, (letter) => ANCHORS.folded[letter] ?? letter.toLowerCase()).join("")
  const plain = small
    .normalize("NFKD")
    .replace(/[\u0300-\u036f]/g, "")
    .normalize("NFC")
  const joined = plain.replace(/[^\p{L}\p{N}\p{M}]+/gu, "-")
  const bare = joined.replace(/^-|-$/g, "")
  return Array.from(bare).slice(0, ANCHORS.longest).join("").replace(/-$/, "") || ANCHORS.otherwise
}

/** The words of a heading as its anchor is made of them: a line end parts words, an equation is its LaTeX. */
export function wordsOf(heading: Node): string {
  return heading.textBetween(0, heading.content.size, "\n", (leaf) => leaf.attrs.latex ?? "\n")
}

/** The addresses that headings and notes have for good. */
export function takenAnchors(doc: Node): string[] {
  const taken: string[] = []
  doc.descendants((node) => {
    if (node.attrs.anchor) taken.push(node.attrs.anchor)
    return !node.isTextblock
  })
  return taken
}

export interface AnchoredHeading {
  level: number
  text: string
  anchor: string
  position: number
}

/**
 * The headings with the address each would get if something linked to it now: its own, or one made of its words as the
 * core makes them, kept by whoever links to it.
 */
export function anchorsOf(doc: Node): AnchoredHeading[] {
  const taken = new Set<string>([...ANCHORS.reserved, ...takenAnchors(doc)])
  const kept = new Set<string>(ANCHORS.reserved)
  const last = new Map<string, number>()
  const found: AnchoredHeading[] = []
  for (const { node, position } of blocksOf(doc)) {
    if (node.type.name !== "heading") continue
    const own: string | null = node.attrs.anchor ?? null
    // Of two with one address the first keeps it.
    const keeps = own !== null && !kept.has(own)
    const base = own ?? slug(wordsOf(node))
    let anchor = base
    // The numbers given are kept: a thousand headings alike are not counted through a thousand times.
    let number = last.get(base) ?? 1
    while (!keeps && taken.has(anchor)) anchor = `${base}-${++number}`
    last.set(base, number)
    kept.add(anchor)
    taken.add(anchor)
    const text = node.textContent.trim()
    if (text) found.push({ level: node.attrs.level, text, anchor, position })
  }
  return found
}

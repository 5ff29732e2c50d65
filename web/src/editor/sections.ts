/** Sections: a heading with all that stands under it. They move, rise and sink as one. */
import type { Node } from "prosemirror-model"
import { type EditorState, TextSelection, type Transaction } from "prosemirror-state"
import { kinds } from "./commands"
import { regionsOf } from "./regions"

export interface Section {
  level: number
  words: string
  /** The name of the region that it stands in; it ends there at the latest. */
  region: string
  /** Where it begins and ends in the document; its subsections are within. */
  from: number
  to: number
}

/** The sections of a document in reading order. Headings stand only at the top of a region. */
export function sectionsOf(doc: Node): Section[] {
  const sections: Section[] = []
  for (const { node: region, position } of regionsOf(doc)) {
    const open: Section[] = []
    region.forEach((node, offset) => {
      if (node.type !== kinds.heading) return
      const from = position + 1 + offset
      const { level } = node.attrs
      while (open.length && (open.at(-1) as Section).level >= level) (open.pop() as Section).to = from
      const to = position + 1 + region.content.size
      const section = { level, words: node.textContent.trim(), region: region.attrs.name, from, to }
      sections.push(section)
      open.push(section)
    })
  }
  return sections
}

/** Raise (-1) or lower (+1) a section with its subsections; null when one of them would leave levels 2 to 6. */
export function shiftSection(state: EditorState, section: Section, by: -1 | 1): Transaction | null {
  const tr = state.tr
  let possible = true
  state.doc.nodesBetween(section.from, section.to, (node, position) => {
    if (node.type === kinds.heading) {
      const level = node.attrs.level + by
      if (level < 2 || level > 6) possible = false
      else tr.setNodeMarkup(position, null, { ...node.attrs, level })
    }
    return node.type === kinds.region
  })
  return possible ? tr : null
}

/** Move a section before the one above it or behind the one below it; null when there is none at its level. */
export function moveSection(state: EditorState, section: Section, by: -1 | 1): Transaction | null {
  const sections = sectionsOf(state.doc)
  const index = sections.findIndex((each) => each.from === section.from)
  const beside = by < 0 ? before(sections, index) : sections.find((each) => each.from === section.to)
  if (!beside || beside.level < section.level) return null
  return moveTo(state, section, by < 0 ? beside.from : beside.to)
}

/** The section right before this one at its level or, failing that, the one that ends where it begins. */
function before(sections: Section[], index: number): Section | undefined {
  const section = sections[index]
  if (!section) return undefined
  return sections.slice(0, index).find((each) => each.to === section.from && each.level >= section.level)
}

/**
 * A copy of a section right behind it, with the words of its heading selected: what would be the same and should not be is
 * written over. Addresses of places stay with the original.
 */
export function copySection(state: EditorState, section: Section): Transaction {
  const bare = (node: Node): Node => {
    const attrs = "anchor" in node.attrs ? { ...node.attrs, anchor: null } : node.attrs
    if (node.isText) return node
    const held: Node[] = []
    node.forEach((each) => {
      held.push(bare(each))
    })
    return node.type.create(attrs, held, node.marks)
  }
  const blocks: Node[] = []
  state.doc.slice(section.from, section.to).content.forEach((each) => {
    blocks.push(bare(each))
  })
  const tr = state.tr.insert(section.to, blocks)
  const heading = tr.doc.nodeAt(section.to)
  const from = section.to + 1
  return tr.setSelection(TextSelection.create(tr.doc, from, from + (heading?.content.size ?? 0)))
}

/** Move a section to a position between the blocks of a region; null when that is within itself. */
export function moveTo(state: EditorState, section: Section, position: number): Transaction | null {
  if (position >= section.from && position <= section.to) return null
  const content = state.doc.slice(section.from, section.to).content
  const tr = state.tr.delete(section.from, section.to)
  return tr.insert(tr.mapping.map(position), content)
}

/**
 * What the core and the interface both know, as the core wrote it out (`python -m stillpage_core rules`, and the limits
 * of attributes from the schema). Nothing of it is written here.
 */
import { t } from "@lingui/core/macro"
import rules from "./rules.generated.json"
import schema from "./schema.generated.json"

export const ASIDES: Record<string, string> = rules.asides
export const LONGEST_REFERENCE = rules.reference.longest
export const ANCHORS = rules.anchors as typeof rules.anchors & { folded: Record<string, string> }
export const PICTURES = rules.pictures
export const FILMS = rules.films
export const HOSTED = rules.hosted
export const SLIDES = rules.slides
export const CARD_RATIO = rules.found.card_ratio
export const RESULT_WIDTH = rules.found.result_width
export const CAPTIONS = rules.captions

/** What the chooser of files offers. */
export const FILES = {
  library: [
    ...rules.files.pictures,
    ...rules.files.documents,
    ...rules.files.films,
    ...rules.files.animations,
  ].join(),
  texts: rules.files.texts.join(),
  films: rules.files.films,
  documents: rules.files.documents,
}

interface Limits {
  longest?: number
  range?: [least: number, most: number]
}

function limits(kind: string, attribute: string): Limits {
  const found = [...schema.nodes, ...schema.marks].find(({ name }) => name === kind)?.attrs as
    | Record<string, Limits>
    | undefined
  return found?.[attribute] ?? {}
}

/** The most characters that an attribute of a kind of node or mark may have. */
export function longestOf(kind: string, attribute: string): number {
  const { longest } = limits(kind, attribute)
  if (longest === undefined) throw new Error(t`${kind}.${attribute} has no limit of length`)
  return longest
}

/** The least and the most that a number may be. */
export function rangeOf(kind: string, attribute: string): [least: number, most: number] {
  const { range } = limits(kind, attribute)
  if (range === undefined) throw new Error(t`${kind}.${attribute} has no range`)
  return range
}

/** Whether a value may stand as an attribute, by its range or its pattern. */
export function mayBe(kind: string, attribute: string, value: unknown): boolean {
  const found = [...schema.nodes, ...schema.marks].find(({ name }) => name === kind)?.attrs as
    | Record<string, { range?: [number, number]; pattern?: string; default?: unknown }>
    | undefined
  const spec = found?.[attribute]
  if (!spec) return false
  if (value === null) return spec.default === null
  if (spec.range)
    return Number.isInteger(value) && Number(value) >= spec.range[0] && Number(value) <= spec.range[1]
  return typeof value === "string" && (!spec.pattern || new RegExp(`^(?:${spec.pattern})$`).test(value))
}

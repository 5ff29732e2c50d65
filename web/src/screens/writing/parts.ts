/**
 * The parts of the writing view, in the order in which F6 goes round them. On a narrow screen one of the text, the
 * Shelf and what stands at the left is shown, and the others are gone to by showing them.
 */
import type { Sheet } from "../../editor/sheet"
import { firstStop, shows } from "../../look/focus"

export type Part = "text" | "shelf" | "foot" | "top" | "rule" | "left"

const ROUND: readonly Part[] = ["text", "shelf", "foot", "top", "rule", "left"]
/** Those of which a narrow screen shows one. */
const SHARED: readonly Part[] = ["text", "shelf", "left"]

const elementOf = (part: Part) => document.querySelector<HTMLElement>(`[data-part="${part}"]`)

const present = (): Part => ROUND.find((part) => elementOf(part)?.contains(document.activeElement)) ?? "text"

/** Where the focus was in each part when it was left. */
const left = new Map<Part, HTMLElement>()

function enter(part: Part, sheet: Sheet | null): boolean {
  const element = elementOf(part)
  if (!element || !shows(element)) return false
  if (part === "text") {
    const source = element.querySelector<HTMLElement>(".cm-content")
    if (source) source.focus()
    else if (sheet) sheet.focus()
    else return false
    return true
  }
  const last = left.get(part)
  const stop = last && element.contains(last) && shows(last) ? last : firstStop(element)
  stop?.focus()
  return Boolean(stop)
}

/**
 * Go to a part, or to the next or the one before. Where the one that comes next is not shown, nothing is done, and its
 * name is given so that it be shown first; otherwise null.
 */
export function toPart(to: Part | 1 | -1, sheet: Sheet | null): Part | null {
  const from = present()
  if (document.activeElement instanceof HTMLElement) left.set(from, document.activeElement)
  if (typeof to === "string") {
    enter(to, sheet)
    return null
  }
  for (let step = 1; step < ROUND.length; step++) {
    const part = ROUND[(ROUND.indexOf(from) + to * step + ROUND.length * step) % ROUND.length] as Part
    const element = elementOf(part)
    if (!element) continue
    if (!shows(element) && SHARED.includes(part)) return part
    if (enter(part, sheet)) return null
  }
  return null
}

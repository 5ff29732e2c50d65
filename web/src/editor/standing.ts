/** How the last picture or film was made to stand, offered for the next one. */
import type { Attrs } from "prosemirror-model"
import { mayBe } from "../document/rules"

const keptOf = (kind: string) => `${kind}s:standing`
const NAMES = ["width", "place", "space", "border"] as const

export type Standing = Record<(typeof NAMES)[number], string | number | null>

export function rememberStanding(kind: string, attrs: Attrs) {
  const standing = Object.fromEntries(NAMES.map((name) => [name, attrs[name] ?? null]))
  if (Object.values(standing).every((value) => value === null)) return
  localStorage.setItem(keptOf(kind), JSON.stringify(standing))
}

/** The last one, or null while none was set. What was kept by other hands is not trusted. */
export function lastStanding(kind: string): Standing | null {
  try {
    const kept = JSON.parse(localStorage.getItem(keptOf(kind)) ?? "null") as Standing | null
    if (!kept) return null
    const { width, place, space, border } = kept
    const fits = NAMES.every((name) => mayBe(kind, name, kept[name]))
    return fits ? { width, place, space, border } : null
  } catch {
    return null
  }
}

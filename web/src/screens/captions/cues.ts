/** What can be done to a list of cues. Each act gives a new list and the cue that is meant after it; none loses a word. */
import type { Cue } from "../../api/client"

/** The least a cue is made to last, in milliseconds; what it should last is the server's to say. */
const LEAST = 100
/** How long a new cue is, where there is room. */
const USUAL = 2000

export interface Made {
  cues: Cue[]
  /** The index of the cue that is meant now. */
  at: number
}

export const bare = (begin: number, end: number, text = ""): Cue => ({
  begin,
  end,
  text,
  speaker: "",
  name: "",
  settings: "",
})

export const changed = (cues: readonly Cue[], at: number, part: Partial<Cue>): Cue[] =>
  cues.map((cue, index) => (index === at ? { ...cue, ...part } : cue))

/** Where a cue that begins at a moment belongs. */
export function placeOf(cues: readonly Cue[], moment: number): number {
  const found = cues.findIndex(({ begin }) => begin > moment)
  return found < 0 ? cues.length : found
}

/** The cue that is shown at a moment, or the last before it; -1 before the first. */
export function cueAt(cues: readonly Cue[], moment: number): number {
  const shown = cues.findIndex(({ begin, end }) => begin <= moment && moment < end)
  return shown >= 0 ? shown : placeOf(cues, moment) - 1
}

/** An empty cue that begins at a moment, as long as usual or until the next. */
export function added(cues: readonly Cue[], moment: number, lasts: number): Made {
  const at = placeOf(cues, moment)
  const next = cues[at]?.begin ?? Math.max(lasts, moment + LEAST)
  const end = Math.max(moment + LEAST, Math.min(moment + USUAL, next))
  return { cues: [...cues.slice(0, at), bare(moment, end), ...cues.slice(at)], at }
}

/**
 * A cue in two: its words parted at `position`. It is parted at `moment` where the film is within it, otherwise as its
 * words are.
 */
export function split(cues: readonly Cue[], at: number, position: number, moment: number): Made {
  const cue = cues[at]
  if (!cue) return { cues: [...cues], at }
  const [before, after] = [cue.text.slice(0, position).trim(), cue.text.slice(position).trim()]
  const share = cue.text.length ? before.length / cue.text.length : 0.5
  const inside = moment > cue.begin + LEAST && moment < cue.end - LEAST
  const parted = inside ? moment : Math.round(cue.begin + (cue.end - cue.begin) * share)
  const between = Math.min(Math.max(parted, cue.begin), cue.end)
  const first = { ...cue, text: before, end: between }
  const second = { ...cue, name: "", text: after, begin: between }
  return { cues: [...cues.slice(0, at), first, second, ...cues.slice(at + 1)], at: at + 1 }
}

/** A cue and the next as one, on lines of their own; another speaker's name stands before their words. */
export function joined(cues: readonly Cue[], at: number): Made {
  const [one, two] = [cues[at], cues[at + 1]]
  if (!one || !two) return { cues: [...cues], at }
  const said = two.speaker && two.speaker !== one.speaker ? `${two.speaker}: ${two.text}` : two.text
  const text = [one.text, said].filter(Boolean).join("\n")
  const whole = { ...one, text, speaker: one.speaker || (one.text ? "" : two.speaker) }
  if (!one.text && two.speaker) whole.text = two.text
  const joint = { ...whole, end: Math.max(one.end, two.end), begin: Math.min(one.begin, two.begin) }
  return { cues: [...cues.slice(0, at), joint, ...cues.slice(at + 2)], at }
}

export function removed(cues: readonly Cue[], at: number): Made {
  return { cues: cues.filter((_, index) => index !== at), at: Math.max(0, Math.min(at, cues.length - 2)) }
}

/** The begin or the end of a cue at a moment; the other end gives way, so that it never ends before it begins. */
export function timed(cues: readonly Cue[], at: number, end: "begin" | "end", moment: number): Cue[] {
  const cue = cues[at]
  if (!cue) return [...cues]
  const wanted = Math.max(0, Math.round(moment))
  if (end === "begin") return changed(cues, at, { begin: wanted, end: Math.max(cue.end, wanted + LEAST) })
  return changed(cues, at, {
    end: Math.max(wanted, LEAST),
    begin: Math.min(cue.begin, Math.max(0, wanted - LEAST)),
  })
}

/** Whether the cues from one to another are still those that they were. */
export const sameAs = (cues: readonly Cue[], before: readonly Cue[], first: number, last: number): boolean =>
  last < cues.length && cues.slice(first, last + 1).every((cue, index) => cue === before[first + index])

/** What a repair makes of them. */
export const repaired = (
  cues: readonly Cue[],
  repair: { first: number; last: number; cues: Cue[] },
): Cue[] => [...cues.slice(0, repair.first), ...repair.cues, ...cues.slice(repair.last + 1)]

/** A time as it is written here: 1:02.5, 1:00:02.25. */
export function written(milliseconds: number): string {
  const hours = Math.floor(milliseconds / 3_600_000)
  const minutes = Math.floor(milliseconds / 60_000) % 60
  const seconds = Math.floor(milliseconds / 1000) % 60
  const part = String(milliseconds % 1000)
    .padStart(3, "0")
    .replace(/0{1,2}$/, "")
  const two = (each: number) => String(each).padStart(2, "0")
  const before = hours ? `${hours}:${two(minutes)}` : String(minutes)
  return `${before}:${two(seconds)}.${part}`
}

/** A time as somebody writes it: seconds alone, with minutes, with hours; a comma is a point. Null where it is none. */
export function read(text: string): number | null {
  const match = /^\s*(?:(?:(\d{1,3}):)?(\d{1,3}):)?(\d{1,5})(?:[.,](\d{1,3}))?\s*$/.exec(text)
  if (!match) return null
  const [, hours = "0", minutes = "0", seconds = "0", part = ""] = match
  const moment = (Number(hours) * 60 + Number(minutes)) * 60_000 + Number(seconds) * 1000
  return moment + Number(part.padEnd(3, "0"))
}

/**
 * Which keys were pressed together, in one spelling: “Mod+B”, “Shift+F6”. Mod is the command key on a Mac and Ctrl
 * elsewhere.
 *
 * A press that types a sign is never a chord, whatever the layout: AltGr and Option write letters in most of Europe,
 * dead keys and input methods put several presses together.
 */

/** What is looked at of a keyboard event. */
import { t } from "@lingui/core/macro"

export interface Press {
  key: string
  code: string
  ctrlKey: boolean
  metaKey: boolean
  altKey: boolean
  shiftKey: boolean
  isComposing?: boolean
  getModifierState?(name: string): boolean
}

export const ON_MAC = /^(Mac|iP)/.test(navigator.platform)

const UNFINISHED = [
  "Dead",
  "Process",
  "Compose",
  "Unidentified",
  "AltGraph",
  "Shift",
  "Control",
  "Alt",
  "Meta",
]

/** The key without what is held beside it: a letter or digit as its name, on layouts of other scripts by its place. */
function keyOf({ key, code }: Press): string {
  if (key.length > 1) return key === " " ? t`Space` : key
  const digit = /^Digit(\d)$/.exec(code)?.[1]
  if (digit) return digit
  if (/^[a-z]$/i.test(key)) return key.toUpperCase()
  const letter = /^Key([A-Z])$/.exec(code)?.[1]
  return key > "~" && letter ? letter : key
}

/** The chord that is pressed; null where the press types a sign, or nothing is pressed yet but Ctrl and the like. */
export function chordOf(event: Press, mac = ON_MAC): string | null {
  if (event.isComposing || UNFINISHED.includes(event.key)) return null
  if (event.getModifierState?.("AltGraph")) return null
  const mod = mac ? event.metaKey : event.ctrlKey
  const other = mac ? event.ctrlKey : event.metaKey
  const sign = event.key.length === 1
  // Ctrl and Alt together are AltGr on Windows; Alt alone is Option, and opens menus elsewhere.
  if (sign && (event.altKey || !mod) && !(mac && other && !event.altKey)) return null
  const held = [
    mod && "Mod",
    other && (mac ? "Ctrl" : "Meta"),
    event.altKey && "Alt",
    event.shiftKey && "Shift",
  ]
  return [...held.filter(Boolean), keyOf(event)].join("+")
}

const SHOWN: Record<string, string> = {
  Mod: ON_MAC ? "Cmd" : "Ctrl",
  Alt: ON_MAC ? "Option" : "Alt",
  Meta: t`Windows`,
  ArrowUp: t`Up`,
  ArrowDown: t`Down`,
  ArrowLeft: t`Left`,
  ArrowRight: t`Right`,
}

/** A chord as it stands on the keys of this machine. */
export const shownChord = (chord: string) =>
  chord
    .split(/\+(?=.)/)
    .map((part) => SHOWN[part] ?? part)
    .join("+")

/** What browsers, or every text field, do with a chord; it cannot be given to anything else. */
const TAKEN = ["A", "C", "L", "N", "P", "Q", "R", "T", "V", "W", "X", "M", "H", "0", "1", "2", "3", "4", "5"]
const RESERVED = new Set([
  ...TAKEN.map((key) => `Mod+${key}`),
  ...["6", "7", "8", "9", "Tab", "+", "-", "="].map((key) => `Mod+${key}`),
  ...["N", "T", "W", "P", "V", "I", "J", "Q", "R", "Tab", "3", "4", "5"].map((key) => `Mod+Shift+${key}`),
  ...["F5", "F10", "F11", "F12", "Escape", "Enter", "Tab", "Shift+Tab", "Alt+F4", "Shift+F10"],
])

/** Whether a chord may be chosen: with Ctrl (or Cmd), or one of the keys F1 to F12, and not what a browser keeps. */
export function mayBeChosen(chord: string): boolean {
  if (RESERVED.has(chord)) return false
  return /^(Mod|Ctrl)\+/.test(chord) || /^(Shift\+)?F\d{1,2}$/.test(chord)
}

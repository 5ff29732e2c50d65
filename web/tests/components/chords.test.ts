/** No key of ours swallows a sign, on whatever layout: checked against every layout of the table beside this file. */
import { expect, test } from "vitest"
import { chordOf, mayBeChosen, type Press } from "../../src/editor/chords"
import { ACTS, bindings, keysOf } from "../../src/screens/writing/bindings"
import layouts from "./layouts.json"

type Signs = Record<string, Record<string, string[]>>
const MAC = layouts.mac as Signs
const OTHERS = layouts.others as Signs

const press = (key: string, code: string, held: Partial<Press> & { altGraph?: boolean } = {}): Press => ({
  key,
  code,
  ctrlKey: false,
  metaKey: false,
  altKey: false,
  shiftKey: false,
  getModifierState: (name) => name === "AltGraph" && Boolean(held.altGraph),
  ...held,
})

/** Every sign of every layout, with the keys that type it there. */
function* typed(all: Signs) {
  for (const [layout, keys] of Object.entries(all))
    for (const [code, signs] of Object.entries(keys))
      for (const [level, key] of signs.entries())
        if (key) yield { layout, code, key, shiftKey: level % 2 === 1, third: level > 1 }
}

test("what types a sign on a Mac is no chord, with Option or without", () => {
  let seen = 0
  for (const { layout, code, key, shiftKey, third } of typed(MAC)) {
    expect([layout, key, chordOf(press(key, code, { shiftKey, altKey: third }), true)]).toEqual([
      layout,
      key,
      null,
    ])
    seen += 1
  }
  expect(seen).toBeGreaterThan(1000)
})

test("what types a sign elsewhere is no chord: AltGr comes as itself, or as Ctrl and Alt together", () => {
  let seen = 0
  for (const { layout, code, key, shiftKey, third } of typed(OTHERS)) {
    const ways = third
      ? [{ altGraph: true }, { altGraph: true, ctrlKey: true, altKey: true }, { ctrlKey: true, altKey: true }]
      : [{}]
    for (const held of ways)
      expect([layout, key, chordOf(press(key, code, { ...held, shiftKey }), false)]).toEqual([
        layout,
        key,
        null,
      ])
    seen += 1
  }
  expect(seen).toBeGreaterThan(3000)
})

test("letters that are being put together are no chord", () => {
  expect(chordOf(press("b", "KeyB", { ctrlKey: true, isComposing: true }), false)).toBeNull()
  expect(chordOf(press("Process", "KeyB", { ctrlKey: true }), false)).toBeNull()
  expect(chordOf(press("Dead", "Quote", { altKey: true }), true)).toBeNull()
})

test("every chord of a letter can be pressed on every layout", () => {
  const wanted = ACTS.flatMap(({ keys = "" }) => /^Mod\+([A-Z])$/.exec(keys)?.[1] ?? [])
  expect(wanted.length).toBeGreaterThan(5)
  for (const [layout, keys] of [...Object.entries(MAC), ...Object.entries(OTHERS)])
    for (const letter of wanted) {
      // The key that types the letter there; in another script the one at the letter's usual place.
      const [code, [key = ""] = []] = Object.entries(keys).find(
        ([, [sign]]) => sign === letter.toLowerCase(),
      ) ?? [`Key${letter}`, keys[`Key${letter}`]]
      const mac = layout in MAC
      const held = mac ? { metaKey: true } : { ctrlKey: true }
      expect([layout, chordOf(press(key, code, held), mac)]).toEqual([layout, `Mod+${letter}`])
    }
})

test("a chord is told by what is held, on a Mac with the command key", () => {
  expect(chordOf(press("z", "KeyZ", { ctrlKey: true }), false)).toBe("Mod+Z")
  expect(chordOf(press("Z", "KeyZ", { metaKey: true, shiftKey: true }), true)).toBe("Mod+Shift+Z")
  expect(chordOf(press("k", "KeyK", { ctrlKey: true }), true)).toBe("Ctrl+K")
  expect(chordOf(press("F6", "F6", { shiftKey: true }), false)).toBe("Shift+F6")
  expect(chordOf(press("é", "Digit2", { ctrlKey: true }), false)).toBe("Mod+2")
  expect(chordOf(press("Control", "ControlLeft", { ctrlKey: true }), false)).toBeNull()
})

test("the chords that acts come with are few, each its own, and none a browser keeps", () => {
  const chords = ACTS.map((act) => keysOf(act, {})).filter(Boolean)
  expect(new Set(chords).size).toBe(chords.length)
  expect(chords.length).toBeLessThanOrEqual(18)
  for (const chord of chords) {
    expect(chord).not.toMatch(/Alt/)
    expect([chord, chord === "Mod+Enter" || mayBeChosen(chord)]).toEqual([chord, true])
  }
})

test("a chord of one's own comes before, one switched off is gone, and the act keeps its name", () => {
  const own = { link: "F9", "level-2": "Mod+B", save: "" }
  const found = bindings(own)
  expect(found.get("F9")?.id).toBe("link")
  expect(found.get("Mod+K")).toBeUndefined()
  expect(found.get("Mod+B")?.id).toBe("level-2")
  expect(found.get("Mod+S")).toBeUndefined()
  expect(found.get("Mod+Shift+Z")?.id).toBe("redo")
})

test("what a browser, a reader of the screen or writing needs cannot be chosen", () => {
  for (const chord of ["Mod+T", "Mod+W", "Mod+C", "Mod+Shift+N", "F5", "F12", "Tab", "Escape", "Alt+F4", "A"])
    expect([chord, mayBeChosen(chord)]).toEqual([chord, false])
  for (const chord of ["Mod+Shift+2", "F9", "Shift+F9", "Mod+."])
    expect([chord, mayBeChosen(chord)]).toEqual([chord, true])
})

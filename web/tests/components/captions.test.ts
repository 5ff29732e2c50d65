/** What can be done to cues while they are written, and the way back through it. */
import { describe, expect, test } from "vitest"
import type { Cue } from "../../src/api/client"
import {
  added,
  bare,
  changed,
  cueAt,
  joined,
  placeOf,
  read,
  removed,
  repaired,
  sameAs,
  split,
  timed,
  written,
} from "../../src/screens/captions/cues"
import { type History, stepped } from "../../src/screens/captions/history"
import { actOf, KEYS } from "../../src/screens/captions/keys"

const CUES = [bare(0, 1000, "One two three"), bare(2000, 4000, "Four"), bare(5000, 5500, "Five")]
const words = (cues: readonly Cue[]) =>
  cues
    .map(({ text }) => text)
    .join(" ")
    .split(/\s+/)
    .filter(Boolean)

describe("times", () => {
  test("are written so that they are read again", () => {
    for (const moment of [0, 5, 40, 400, 1000, 61_020, 3_600_000, 3_661_999])
      expect(read(written(moment))).toBe(moment)
    expect(written(62_500)).toBe("1:02.5")
    expect(written(3_600_040)).toBe("1:00:00.04")
  })

  test("are read as people write them, and nothing else is one", () => {
    expect(["1", "1,5", "1.25", "0:01.5", "00:00:01.500", " 90 ", "1:2:3"].map(read)).toEqual([
      1000, 1500, 1250, 1500, 1500, 90_000, 3_723_000,
    ])
    expect(["", "x", "1:", "1.2345", "-1", "1:2:3:4", "1e3"].map(read)).toEqual(Array(7).fill(null))
  })

  test("give way to one another, so that no cue ends before it begins", () => {
    for (const end of ["begin", "end"] as const)
      for (const moment of [-50, 0, 20, 500, 1500, 9000]) {
        const cue = timed(CUES, 0, end, moment)[0] as Cue
        expect(cue.end).toBeGreaterThanOrEqual(cue.begin + 100)
        expect(cue.begin).toBeGreaterThanOrEqual(0)
      }
    expect(timed(CUES, 9, "begin", 0)).toEqual(CUES)
  })
})

describe("cues", () => {
  test("are found by what the film shows", () => {
    expect([-1, 0, 999, 1000, 1999, 2000, 5499, 9999].map((at) => cueAt(CUES, at))).toEqual([
      -1, 0, 0, 0, 0, 1, 2, 2,
    ])
    expect(placeOf(CUES, 4500)).toBe(2)
    expect(cueAt([], 0)).toBe(-1)
  })

  test("are parted where the caret is, and where the film is if it is within", () => {
    const here = split(CUES, 0, 4, 600)
    expect(here.cues.slice(0, 2).map(({ begin, end, text }) => [begin, end, text])).toEqual([
      [0, 600, "One"],
      [600, 1000, "two three"],
    ])
    expect(here.at).toBe(1)
    const elsewhere = split(CUES, 0, 7, 9000)
    expect(elsewhere.cues[0]?.end).toBe(Math.round((1000 * 7) / 13))
  })

  test("are joined with all their words, another speaker's after their name", () => {
    const two = joined(CUES, 1)
    expect(two.cues[1]).toEqual(bare(2000, 5500, "Four\nFive"))
    const spoken = [
      { ...bare(0, 1, "A"), speaker: "Piet" },
      { ...bare(1, 2, "B"), speaker: "Wren" },
    ]
    expect(joined(spoken, 0).cues[0]?.text).toBe("A\nWren: B")
    expect(
      joined(
        [
          { ...bare(0, 1, ""), speaker: "" },
          { ...bare(1, 2, "B"), speaker: "Wren" },
        ],
        0,
      ).cues[0],
    ).toEqual({
      ...bare(0, 2, "B"),
      speaker: "Wren",
    })
    expect(joined(CUES, 2).cues).toEqual(CUES)
  })

  test("come in where they belong and go without another", () => {
    const made = added(CUES, 4200, 10_000)
    expect([made.at, made.cues[2]]).toEqual([2, bare(4200, 5000)])
    expect(added([], 300, 10_000).cues).toEqual([bare(300, 2300)])
    expect(added([], 9950, 10_000).cues[0]?.end).toBe(10_050)
    expect(removed(CUES, 2)).toEqual({ cues: CUES.slice(0, 2), at: 1 })
    expect(removed([bare(0, 1)], 0)).toEqual({ cues: [], at: 0 })
  })

  test("lose no word, whatever is done to them", () => {
    let seed = 7
    const chance = (most: number) => {
      seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
      return seed % most
    }
    let cues: Cue[] = CUES
    const before = words(cues).sort()
    for (let step = 0; step < 2000; step++) {
      const at = chance(Math.max(1, cues.length))
      const act = chance(4)
      if (act === 0) {
        // Words are parted between them, as people part them.
        const text = cues[at]?.text ?? ""
        const gaps = [...text.matchAll(/\s/g)].map(({ index }) => index)
        cues = split(cues, at, gaps[chance(Math.max(1, gaps.length))] ?? text.length, chance(6000)).cues
      } else if (act === 1) cues = joined(cues, at).cues
      else if (act === 2) cues = timed(cues, at, chance(2) ? "begin" : "end", chance(6000))
      else if (cues.length < 20) cues = added(cues, chance(6000), 6000).cues
      expect(words(cues).sort()).toEqual(before)
    }
  })

  test("are mended only where nothing was written since they were looked at", () => {
    const later = changed(CUES, 1, { text: "Four more" })
    expect(sameAs(CUES, CUES, 0, 2)).toBe(true)
    expect(sameAs(later, CUES, 0, 0)).toBe(true)
    expect(sameAs(later, CUES, 1, 2)).toBe(false)
    expect(sameAs(removed(CUES, 0).cues, CUES, 0, 1)).toBe(false)
    expect(sameAs(CUES, CUES, 2, 3)).toBe(false)
  })

  test("are mended in their place", () => {
    const repair = { first: 1, last: 2, cues: [bare(2000, 5500, "Four. Five.")] }
    expect(repaired(CUES, repair)).toEqual([CUES[0], repair.cues[0]])
  })
})

describe("the way back", () => {
  const begun = stepped({} as History, { sort: "begin", now: { cues: CUES, at: 0, drafted: true } })

  test("what is typed in one go is one step", () => {
    let history = begun
    for (const text of ["O", "On", "One"])
      history = stepped(history, { sort: "change", now: { cues: [bare(0, 1, text)] }, mark: "text 0" })
    history = stepped(history, { sort: "at", at: 0 })
    history = stepped(history, { sort: "change", now: { cues: [bare(0, 1, "One.")] }, mark: "text 0" })
    expect(history.before.length).toBe(1)
    const back = stepped(history, { sort: "undo" })
    expect(back.now).toEqual(begun.now)
    expect(stepped(back, { sort: "redo" }).now.cues[0]?.text).toBe("One.")
    expect(stepped(back, { sort: "undo" })).toBe(back)
  })

  test("going to another cue ends a step, and every change counts for what is to be saved", () => {
    let history = stepped(begun, { sort: "change", now: { cues: [] }, mark: "a" })
    history = stepped(history, { sort: "at", at: 1 })
    history = stepped(history, { sort: "change", now: { cues: CUES }, mark: "a" })
    expect(history.before.length).toBe(2)
    expect(history.count).toBe(begun.count + 2)
    expect(stepped(history, { sort: "undo" }).count).toBe(begun.count + 3)
  })
})

test("every act has a key of its own", () => {
  expect(new Set(KEYS.map(({ chord }) => chord)).size).toBe(KEYS.length)
  expect(actOf("Mod+Enter")).toBe("split")
  expect(actOf(null)).toBeUndefined()
})

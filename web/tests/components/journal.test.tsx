import { readdirSync, readFileSync } from "node:fs"
import { screen } from "@testing-library/react"
import { userEvent } from "@testing-library/user-event"
import { EditorState } from "prosemirror-state"
import { expect, test, vi } from "vitest"
import type { Journal } from "../../src/editor/journal"
import { replayed } from "../../src/editor/journal"
import { type PageText, toEditor } from "../../src/editor/schema"
import type { Sheet } from "../../src/editor/sheet"
import { StrayWords } from "../../src/screens/writing/StrayWords"
import { show } from "./rendering"

const FORMATS = "../tests/fixtures/formats"
const paragraph = (text: string) => ({ type: "paragraph", content: [{ type: "text", text }] })
const text = (...words: string[]) =>
  ({
    title: "Gates",
    description: "",
    document: { type: "doc", attrs: { version: 1 }, content: words.map(paragraph) },
  }) as unknown as PageText
const saved = toEditor(text("What the server has."))
const typed = (from: number, words: string) => ({
  stepType: "replace",
  from,
  to: from,
  slice: { content: [{ type: "text", text: words }] },
})
const start = (said: PageText) => ({ session: "s", pageId: 1, person: "wren", base: 1, at: 1, text: said })
const from = { base: 7, saved }

test.each(readdirSync(FORMATS))("a journal of version %s of the format loses no word", (version) => {
  const kept = JSON.parse(readFileSync(`${FORMATS}/${version}/journal.json`, "utf8"))
  const left = replayed(
    kept.start,
    kept.grown.map((each: unknown, index: number) => [index + 1, each]),
    from,
  )
  const words = `${left.doc.textBetween(0, left.doc.content.size, " ")} ${left.stray}`
  for (const each of ["The gates are open.", "They shut at five.", "In winter"]) expect(words).toContain(each)
  expect([left.doc.textContent, left.stray]).toEqual(["The gates are open. They shut at five.", "In winter"])
})

test("steps that fit are made again, and nothing is astray", () => {
  const left = replayed(
    start(text("Open.")),
    [[1, { session: "s", steps: [typed(6, " Al"), typed(9, "ways.")] }]],
    from,
  )
  expect([left.doc.textContent, left.stray, left.base, left.steps.length]).toEqual([
    "Open. Always.",
    "",
    1,
    2,
  ])
})

test("what follows a step that does not fit keeps its words, what was typed in one go together", () => {
  const steps = [
    typed(6, " Now"),
    typed(99, "By"),
    typed(101, " day"),
    typed(3, "elsewhere"),
    { stepType: "unheard of" },
  ]
  const left = replayed(start(text("Open.")), [[1, { session: "s", steps }]], from)
  expect([left.doc.textContent, left.stray]).toEqual(["Open. Now", "By day\nelsewhere"])
})

test("a text that cannot be read keeps its words, and the server's goes on", () => {
  const newer = text("Of a newer", "Still Page")
  Object.assign(newer.document, { content: [{ type: "unheard_of", content: newer.document.content }] })
  const left = replayed(start(newer), [[1, { session: "s", steps: [typed(6, "typed")] }]], from)
  expect(left.stray).toBe("Gates\nOf a newer\nStill Page\ntyped")
  expect([left.doc.eq(saved), left.base, left.steps]).toEqual([true, 7, []])
})

test("they are offered until somebody takes them or lets them go", async () => {
  const user = userEvent.setup()
  let state = EditorState.create({ doc: saved })
  const sheet = {
    get state() {
      return state
    },
    step: vi.fn((tr) => {
      state = state.apply(tr)
    }),
    focus: vi.fn(),
  }
  const journal = { letStrayGo: vi.fn(async () => {}) }
  show(
    <StrayWords
      words={"By day\nelsewhere"}
      sheet={sheet as unknown as Sheet}
      journal={journal as unknown as Journal}
    />,
  )
  expect(screen.getByLabelText("The words").textContent).toBe("By day\nelsewhere")
  expect(journal.letStrayGo).not.toHaveBeenCalled()
  await user.click(screen.getByText("Put them below the caret"))
  expect(state.doc.textBetween(0, state.doc.content.size, "|")).toBe("What the server has.|By day|elsewhere")
  expect(journal.letStrayGo).toHaveBeenCalledOnce()
  expect(screen.queryByLabelText("The words")).toBeNull()
})

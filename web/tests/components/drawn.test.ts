import { afterEach, beforeEach, expect, test, vi } from "vitest"
import { client } from "../../src/api/client"
import { kinds } from "../../src/editor/commands"
import { Drawn } from "../../src/editor/drawn"

const node = kinds.paper.create({ item: 4 })
let asked = 0
let answers: (() => unknown)[] = []
const block = (html: string, waits: boolean) => () => ({
  data: [{ html, scripts: [], waits }],
  response: { ok: true },
})

beforeEach(() => {
  vi.useFakeTimers()
  asked = 0
  vi.spyOn(client, "POST").mockImplementation((async () => {
    const answer = answers[Math.min(asked, answers.length - 1)]
    asked += 1
    return answer?.()
  }) as unknown as typeof client.POST)
})
afterEach(() => {
  vi.restoreAllMocks()
  vi.useRealTimers()
})

/** A sheet that shows the block, or not: what it shows now, and how often it was asked. */
function shown() {
  const sheet = { html: undefined as string | undefined, on: true }
  const draw = () => {
    if (sheet.on) sheet.html = drawn.of(node, "main", "")?.html
  }
  const drawn = new Drawn(1, draw)
  draw()
  return { sheet, drawn, draw }
}

test("a block that waits is asked for again, ever later, until it is as it will be", async () => {
  answers = [block("<p>a link</p>", true), block("<p>a link</p>", true), block("<p>pages</p>", false)]
  const { sheet, drawn } = shown()
  await vi.advanceTimersByTimeAsync(1)
  expect([sheet.html, drawn.waits, asked]).toEqual(["<p>a link</p>", 1, 1])
  await vi.advanceTimersByTimeAsync(2_001)
  expect([sheet.html, asked]).toEqual(["<p>a link</p>", 2])
  await vi.advanceTimersByTimeAsync(2_001)
  expect(asked).toBe(2)
  await vi.advanceTimersByTimeAsync(2_001)
  expect([sheet.html, drawn.waits, asked]).toEqual(["<p>pages</p>", 0, 3])
  await vi.advanceTimersByTimeAsync(600_000)
  expect(asked).toBe(3)
})

test("one that nobody shows any more is not, until it is shown again", async () => {
  answers = [block("<p>a link</p>", true), block("<p>pages</p>", false)]
  const { sheet, drawn, draw } = shown()
  await vi.advanceTimersByTimeAsync(1)
  sheet.on = false
  await vi.advanceTimersByTimeAsync(600_000)
  expect([asked, drawn.waits]).toEqual([1, 0])
  sheet.on = true
  draw()
  await vi.advanceTimersByTimeAsync(1)
  expect([sheet.html, asked]).toEqual(["<p>pages</p>", 2])
})

test("it goes on after the server was away", async () => {
  const away = () => Promise.reject(new TypeError("away"))
  answers = [block("<p>a link</p>", true), away, block("<p>pages</p>", false)]
  const { sheet } = shown()
  await vi.advanceTimersByTimeAsync(10_000)
  expect([sheet.html, asked]).toEqual(["<p>pages</p>", 3])
})

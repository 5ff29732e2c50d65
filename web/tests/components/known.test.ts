import { afterEach, beforeEach, expect, test, vi } from "vitest"
import { askItems, type ItemOut, Problem } from "../../src/api/client"
import { Known } from "../../src/editor/known"

const asked: number[][] = []
let away = false

vi.mock("../../src/api/client", async (original) => ({
  ...(await original<typeof import("../../src/api/client")>()),
  askItems: vi.fn(async (numbers: readonly number[]) => {
    asked.push([...numbers])
    if (away) throw new Problem(0, {})
    return numbers.filter((id) => id < 1000).map((id) => ({ id, kind: "film", ready: id % 2 === 1 }))
  }),
}))

beforeEach(() => {
  vi.useFakeTimers()
  asked.length = 0
  away = false
})
afterEach(() => vi.useRealTimers())

const known = () => new Known([], 1)

test("what a text names is asked for in one request, and what there is not is not asked for again", async () => {
  const all = known()
  const draw = () => [1, 3, 1, 2000].map((id) => all.item(id))
  expect(draw()).toEqual([undefined, undefined, undefined, undefined])
  await vi.advanceTimersByTimeAsync(10)
  expect(asked).toEqual([[1, 3, 2000]])
  expect(draw().map((item) => item?.id)).toEqual([1, 3, 1, undefined])
  await vi.advanceTimersByTimeAsync(10_000)
  expect(asked).toHaveLength(1)
})

test("what was asked while the server was away is asked for again, if it is still shown", async () => {
  const all = known()
  all.item(1)
  all.item(3)
  away = true
  await vi.advanceTimersByTimeAsync(10)
  all.watch(() => all.item(3))
  away = false
  await vi.advanceTimersByTimeAsync(5_000)
  expect(asked).toEqual([[1, 3], [3]])
  expect(all.item(3)?.id).toBe(3)
})

test("an answer that was under way does not take back what has become known since", async () => {
  const all = known()
  let drawn = 0
  all.watch(() => {
    drawn += 1
  })
  const item = (part: object) =>
    [{ id: 2, kind: "film", ready: false, problem: "", ...part }] as unknown as ItemOut[]
  all.add(item({ progress: 0 }))
  let answer: (items: ItemOut[]) => void = () => {}
  const slow = () =>
    new Promise<ItemOut[]>((done) => {
      answer = done
    })
  vi.mocked(askItems).mockImplementationOnce(slow).mockImplementationOnce(slow).mockImplementationOnce(slow)
  await vi.advanceTimersByTimeAsync(2_100)
  all.add(item({ progress: 0, captioned: true }))
  answer(item({ progress: 5, captioned: false }))
  await vi.advanceTimersByTimeAsync(100)
  expect(all.item(2)?.captioned).toBe(true)
  // Nothing is drawn for an answer that says nothing new.
  drawn = 0
  await vi.advanceTimersByTimeAsync(2_100)
  answer(item({ progress: 0, captioned: true }))
  await vi.advanceTimersByTimeAsync(100)
  expect(drawn).toBe(0)
  await vi.advanceTimersByTimeAsync(2_100)
  answer(item({ progress: 0, captioned: true, ready: true }))
  await vi.advanceTimersByTimeAsync(100)
  expect(all.item(2)?.ready).toBe(true)
})

test("all items that are being made are asked about in one request, for as long as somebody looks", async () => {
  const all = known()
  const stop = all.watch(() => {})
  const kinds = { 2: "film", 4: "animation", 6: "document", 8: "picture" }
  const made = Object.entries(kinds).map(([id, kind]) => ({
    id: Number(id),
    kind,
    ready: false,
    problem: "",
  }))
  all.add(made as unknown as ItemOut[])
  await vi.advanceTimersByTimeAsync(2_100)
  expect(asked).toEqual([[2, 4, 6]])
  away = true
  await vi.advanceTimersByTimeAsync(2_000)
  away = false
  await vi.advanceTimersByTimeAsync(2_000)
  expect(asked).toHaveLength(3)
  stop()
  await vi.advanceTimersByTimeAsync(2_100)
  const before = asked.length
  await vi.advanceTimersByTimeAsync(20_000)
  expect(asked).toHaveLength(before)
})

import { screen, within } from "@testing-library/react"
import { userEvent } from "@testing-library/user-event"
import { beforeEach, expect, test } from "vitest"
import type { Contents, ContentsEntry } from "../../src/api/client"
import { lineOf, targetAt, targetsOf } from "../../src/screens/contents/slots"
import { Tree } from "../../src/screens/contents/Tree"
import { type Arranging, useArranging } from "../../src/screens/contents/useArranging"
import type { Row } from "../../src/screens/contents/useBranches"
import { answerWith, show } from "./rendering"

const page = (id: number, parent: number | null, below = 0): ContentsEntry => ({
  id,
  parent,
  title: `Page ${id}`,
  path: `/p${id}`,
  state: "live",
  in_navigation: true,
  hidden: false,
  elsewhere: "",
  below,
})
const contents = (pages: ContentsEntry[], among: number, all = pages.length) =>
  ({
    site: { id: 1, name: "Varrow Canal Trust", origin: "http://canal.localhost", may_write: true },
    pages,
    among,
    all,
    out_of_date: 0,
  }) as Contents

let arranging: Arranging
function Held({ contents }: { contents: Contents }) {
  arranging = useArranging(0)
  return <Tree contents={contents} arranging={arranging} onCurrent={() => {}} />
}

const names = () =>
  screen.getAllByRole("treeitem").map((row) => row.textContent?.match(/Page \d+|[A-Z].*/)?.[0])
const row = (name: string) => screen.getByRole("treeitem", { name: new RegExp(`${name}\\b`) })

beforeEach(() => {
  localStorage.clear()
  sessionStorage.clear()
})

test("a small site stands unfolded, and the arrows go through it", async () => {
  const user = userEvent.setup()
  const asked = answerWith(() => 500)
  show(<Held contents={contents([page(1, null, 2), page(2, 1), page(3, 1), page(4, null)], 2)} />)
  expect(names()).toEqual(["Page 1", "Page 2", "Page 3", "Page 4"])
  expect(row("Page 1").getAttribute("aria-expanded")).toBe("true")
  expect(row("Page 3").getAttribute("aria-posinset")).toBe("2")
  expect(document.activeElement?.getAttribute("role")).toBe("treeitem")
  await user.keyboard("{ArrowDown}{ArrowDown}")
  expect(document.activeElement).toBe(row("Page 3"))
  await user.keyboard("{ArrowLeft}{ArrowLeft}")
  expect(names()).toEqual(["Page 1", "Page 4"])
  await user.keyboard("{End}")
  expect(document.activeElement).toBe(row("Page 4"))
  await user.keyboard("{Home}{ArrowRight}{ArrowRight}{Enter}")
  expect(await screen.findByText("Elsewhere")).toBeTruthy()
  expect(asked).toEqual([])
})

test("what stands below a page of a very large site is asked for when it is unfolded, and more of it after that", async () => {
  const user = userEvent.setup()
  const asked = answerWith((address) => {
    const start = Number(address.searchParams.get("start"))
    return contents([page(100 + start, 1), page(101 + start, 1)], 5, 9)
  })
  const whole = contents([page(1, null, 5), page(2, null)], 2, 9)
  show(<Held contents={whole} />)
  expect(names()).toEqual(["Page 1", "Page 2"])
  expect(document.activeElement?.getAttribute("role")).toBe("treeitem")
  await user.keyboard("{ArrowRight}")
  await screen.findByText("Page 100")
  expect(names()).toEqual([
    "Page 1",
    "Page 100",
    "Page 101",
    "Show more of the 3 pages that follow",
    "Page 2",
  ])
  await user.keyboard("{ArrowDown}{ArrowDown}{ArrowDown}{Enter}")
  await screen.findByText("Page 102")
  expect(document.activeElement).toBe(row("Page 101"))
  expect(within(row("Page 103")).getByText("/p103")).toBeTruthy()
  expect(asked).toEqual(["/api/sites/1/contents?below=1&start=0", "/api/sites/1/contents?below=1&start=2"])
})

test("pages that could not be had are asked for again", async () => {
  const user = userEvent.setup()
  let down = true
  answerWith(() => (down ? 503 : contents([page(100, 1)], 1, 3)))
  show(<Held contents={contents([page(1, null, 1), page(2, null)], 2, 3)} />)
  expect(document.activeElement?.getAttribute("role")).toBe("treeitem")
  await user.keyboard("{ArrowRight}")
  const failed = await screen.findByText(/could not be had/)
  down = false
  await user.click(failed)
  await screen.findByText("Page 100")
  expect(names()).toEqual(["Page 1", "Page 100", "Page 2"])
})

test("what somebody has unfolded is unfolded when they come back", async () => {
  const user = userEvent.setup()
  answerWith(() => contents([page(100, 1)], 1, 3))
  const whole = contents([page(1, null, 1), page(2, null)], 2, 3)
  const first = show(<Held contents={whole} />)
  expect(document.activeElement?.getAttribute("role")).toBe("treeitem")
  await user.keyboard("{ArrowRight}")
  await screen.findByText("Page 100")
  await first.navigate("/elsewhere")
  expect(await screen.findByText("Elsewhere")).toBeTruthy()
  await first.navigate("/")
  expect(await screen.findByText("Page 100")).toBeTruthy()
})

test("Space and Shift with the arrows choose pages, Escape lets them go", async () => {
  const user = userEvent.setup()
  answerWith(() => 500)
  show(<Held contents={contents([page(1, null, 1), page(2, 1), page(3, null)], 2)} />)
  await user.keyboard(" ")
  expect(row("Page 1").getAttribute("aria-selected")).toBe("true")
  await user.keyboard("{Shift>}{ArrowDown}{ArrowDown}{/Shift}")
  expect([...arranging.ticked]).toEqual([1, 2, 3])
  await user.keyboard(" ")
  expect([...arranging.ticked]).toEqual([1, 2])
  await user.keyboard("{Escape}")
  expect(arranging.ticked.size).toBe(0)
  await user.keyboard("{Delete}")
  expect(arranging.mode).toEqual({ mode: "binning", pages: [3] })
})

const tree = (pages: [number, number | null, number][], folded: number[] = []): Row[] => {
  const depth = (id: number | null): number => {
    const above = pages.find(([each]) => each === id)
    return above ? 1 + depth(above[1]) : 0
  }
  return pages.map(([id, parent, below]) => ({
    entry: page(id, parent, below),
    depth: depth(parent),
    place: 1,
    among: 1,
    folded: folded.includes(id),
  }))
}
const ROWS = tree([
  [1, null, 2],
  [2, 1, 1],
  [3, 2, 0],
  [4, 1, 0],
  [5, null, 0],
])

test("a line stands where pages will: before a page, behind all that stands under it, or as the last under it", () => {
  const at = { site: 1 }
  expect(lineOf(ROWS, { ...at, parent: 1, before: 2 })).toEqual({ index: 1, depth: 1 })
  expect(lineOf(ROWS, { ...at, parent: 1, after: 2 })).toEqual({ index: 3, depth: 1 })
  expect(lineOf(ROWS, { ...at, parent: 2 })).toEqual({ index: 3, depth: 2 })
  expect(lineOf(ROWS, { ...at, parent: null })).toEqual({ index: 5, depth: 0 })
  expect(lineOf(ROWS, { ...at, parent: 1, after: 99 })).toBeNull()
})

test("the places for a page are all but those within itself, each once, from the top", () => {
  const said = (leave: number[]) =>
    targetsOf(ROWS, 1, new Set(leave)).map(({ parent, before, after }) =>
      before ? `before ${before}` : after ? `after ${after}` : `under ${parent}`,
    )
  expect(said([5])).toEqual([
    "before 1",
    "before 2",
    "before 3",
    "under 3",
    "after 3",
    "before 4",
    "under 4",
    "after 4",
    "after 1",
  ])
  expect(said([2])).toEqual(["before 1", "before 4", "under 4", "after 4", "before 5", "under 5", "after 5"])
})

test("something dragged over a line goes above it, under it or behind it", () => {
  const [, second] = ROWS
  if (!second) throw new Error("no row")
  expect(targetAt(second, 1, 0.1)).toEqual({ site: 1, parent: 1, before: 2 })
  expect(targetAt(second, 1, 0.5)).toEqual({ site: 1, parent: 2 })
  expect(targetAt(second, 1, 0.9)).toEqual({ site: 1, parent: 1, after: 2 })
})

import { screen, within } from "@testing-library/react"
import { userEvent } from "@testing-library/user-event"
import { beforeEach, expect, test } from "vitest"
import type { Contents, ContentsEntry } from "../../src/api/client"
import { isStaying, lineOf, nextPlace, targetAt, targetsOf } from "../../src/screens/contents/slots"
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

/** The ARIA Authoring Practices Guide, tree view pattern, point by point. */
test("the tree does what the pattern asks for", async () => {
  const user = userEvent.setup()
  answerWith(() => 500)
  const named = (id: number, title: string, parent: number | null, below = 0) => ({
    ...page(id, parent, below),
    title,
  })
  const pages = [
    named(1, "Visit", null, 2),
    named(2, "Towpath walks", 1),
    named(3, "Tea room", 1),
    named(4, "Boating", null),
  ]
  show(<Held contents={contents(pages, 2)} />)
  const tree = screen.getByRole("tree", { name: "Pages of Varrow Canal Trust" })
  expect(tree.getAttribute("aria-multiselectable")).toBe("true")
  const items = () => screen.getAllByRole("treeitem")
  const focused = () => document.activeElement?.querySelector(".name")?.textContent
  // Each is a treeitem within the tree, with its level, its place and how many there are beside it.
  const said = ["aria-level", "aria-posinset", "aria-setsize", "aria-expanded"] as const
  expect(items().map((item) => said.map((name) => item.getAttribute(name)))).toEqual([
    ["1", "1", "2", "true"],
    ["2", "1", "2", null],
    ["2", "2", "2", null],
    ["1", "2", "2", null],
  ])
  // One stop for Tab.
  expect(items().map((item) => item.tabIndex)).toEqual([0, -1, -1, -1])
  // Left: an open node closes; a child goes to its parent; a closed node at the top stays. Focus stays while closing.
  await user.keyboard("{ArrowLeft}")
  expect([focused(), items().length]).toEqual(["Visit", 2])
  await user.keyboard("{ArrowLeft}")
  expect(focused()).toBe("Visit")
  // Right: a closed node opens and focus stays; an open one goes to its first child; an end node does nothing.
  await user.keyboard("{ArrowRight}")
  expect([focused(), items().length]).toEqual(["Visit", 4])
  await user.keyboard("{ArrowRight}")
  expect(focused()).toBe("Towpath walks")
  await user.keyboard("{ArrowRight}")
  expect(focused()).toBe("Towpath walks")
  await user.keyboard("{ArrowLeft}")
  expect(focused()).toBe("Visit")
  // Down and Up go to what can be focused without opening or closing anything; Home and End to the first and the last.
  await user.keyboard("{ArrowDown}{ArrowDown}")
  expect(focused()).toBe("Tea room")
  await user.keyboard("{ArrowUp}")
  expect(focused()).toBe("Towpath walks")
  await user.keyboard("{End}")
  expect(focused()).toBe("Boating")
  await user.keyboard("{ArrowDown}")
  expect(focused()).toBe("Boating")
  await user.keyboard("{Home}")
  expect(focused()).toBe("Visit")
  // Type-ahead: the next whose name begins with what is typed; several signs typed in quick succession.
  await user.keyboard("t")
  expect(focused()).toBe("Towpath walks")
  await user.keyboard("e")
  expect(focused()).toBe("Tea room")
  // Control with A chooses all.
  await user.keyboard("{Control>}a{/Control}")
  expect(items().map((item) => item.getAttribute("aria-selected"))).toEqual(["true", "true", "true", "true"])
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

test("pages are moved from where they stand, and until then stay there", () => {
  const next = (pages: number[], step: number) => nextPlace(ROWS, 1, pages, step)
  expect(next([4], 1)).toEqual({ site: 1, parent: null, before: 5 })
  expect(next([4], -1)).toEqual({ site: 1, parent: 2, after: 3 })
  expect(next([1], -1)).toBeUndefined()
  expect(next([99], 1)).toEqual({ site: 1, parent: null, before: 1 })
  expect(isStaying({ site: 1, parent: null, after: 4 }, [4])).toBe(true)
  expect(isStaying({ site: 1, parent: null, after: 4 }, [5])).toBe(false)
})

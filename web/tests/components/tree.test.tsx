import { screen, within } from "@testing-library/react"
import { userEvent } from "@testing-library/user-event"
import { beforeEach, expect, test } from "vitest"
import type { Contents, ContentsEntry } from "../../src/api/client"
import { Tree } from "../../src/screens/contents/Tree"
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
  show(<Tree contents={contents([page(1, null, 2), page(2, 1), page(3, 1), page(4, null)], 2)} />)
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
  show(<Tree contents={whole} />)
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
  show(<Tree contents={contents([page(1, null, 1), page(2, null)], 2, 3)} />)
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
  const first = show(<Tree contents={whole} />)
  expect(document.activeElement?.getAttribute("role")).toBe("treeitem")
  await user.keyboard("{ArrowRight}")
  await screen.findByText("Page 100")
  await first.navigate("/elsewhere")
  expect(await screen.findByText("Elsewhere")).toBeTruthy()
  await first.navigate("/")
  expect(await screen.findByText("Page 100")).toBeTruthy()
})

/** The items and pages that the document names, as the server knows them, and the regions of the theme. */
import type { Node } from "prosemirror-model"
import { askItems, type BlockOut, type ItemOut, type PageOut, type PageRef } from "../api/client"
import type { Room } from "../document/pictures"
import { Drawn } from "./drawn"

type Region = PageOut["palette"]["regions"][number]

/** How often it is asked how far an item is, in milliseconds. */
const EVERY = 2000
/** How long after a failure it is asked again, in milliseconds. */
const AGAIN = 3000

/** The kinds that cannot be shown as they are before something was made of them. A picture can. */
const MADE = ["film", "sound", "animation", "document"]

const isBeingMade = ({ kind, ready, problem, hosted }: ItemOut) =>
  kind === "hosted" ? hosted?.asked_at === null : MADE.includes(kind) && !ready && !problem

export class Known {
  private items = new Map<number, ItemOut>()
  private pages = new Map<number, PageRef>()
  private asked = new Set<number>()
  /** What is asked for with the next request. */
  private unknown = new Set<number>()
  private watchers = new Set<() => void>()
  private timer = 0

  /** How often something else became known of an item. */
  private changes = new Map<number, number>()
  private blocks: Drawn

  /** `regions` are those of the site's theme, main first. */
  constructor(
    private regions: readonly Region[],
    page: number,
  ) {
    this.blocks = new Drawn(page, () => this.tell())
  }

  /** A block of a region as the server draws it for readers; undefined until it has. */
  drawn(node: Node, region: string): BlockOut | undefined {
    const stamps: string[] = []
    const named = (each: Node) => {
      const number: unknown = each.attrs.item
      if (typeof number !== "number") return
      this.item(number)
      stamps.push(`${number}.${this.changes.get(number) ?? 0}`)
    }
    named(node)
    node.descendants(named)
    return this.blocks.of(node, region, stamps.join())
  }

  add(items: readonly ItemOut[], pages: readonly PageRef[] = []) {
    for (const item of items) {
      const before = this.items.get(item.id)
      if (before && JSON.stringify(before) !== JSON.stringify(item))
        this.changes.set(item.id, (this.changes.get(item.id) ?? 0) + 1)
      this.items.set(item.id, item)
    }
    for (const page of pages) this.pages.set(page.id, page)
    this.tell()
  }

  /** An item; one that is not known yet (pasted or brought back by undo) is asked for. */
  item(id: number): ItemOut | undefined {
    const item = this.items.get(id)
    if (!item && !this.asked.has(id)) {
      this.asked.add(id)
      if (!this.unknown.size) window.setTimeout(() => void this.ask(), 0)
      this.unknown.add(id)
    }
    return item
  }

  private async ask() {
    const numbers = [...this.unknown]
    this.unknown.clear()
    try {
      this.add(await askItems(numbers))
    } catch {
      // Away: what is still shown then is asked for again. What the server does not have is not.
      await new Promise((done) => window.setTimeout(done, AGAIN))
      for (const id of numbers) this.asked.delete(id)
      this.tell()
    }
  }

  page(id: number): PageRef | undefined {
    return this.pages.get(id)
  }

  /** While files are being made, or a host is asked, how far that is is asked for now and then, for as long as somebody looks. */
  private follow() {
    if (this.timer || !this.watchers.size) return
    const waiting = [...this.items.values()].filter(isBeingMade)
    if (!waiting.length) return
    this.timer = window.setTimeout(async () => {
      const found = await askItems(waiting.map(({ id }) => id)).catch(() => [])
      this.timer = 0
      // What has become known meanwhile is newer than this answer, and what has got no further is no news.
      const asked = new Map(waiting.map((item) => [item.id, item]))
      const news = found.filter(
        (item) =>
          this.items.get(item.id) === asked.get(item.id) &&
          (!isBeingMade(item) || item.progress !== asked.get(item.id)?.progress),
      )
      if (news.length) this.add(news)
      else this.follow()
    }, EVERY)
  }

  /** How much is being made ready; the page check says something else when one of them is. */
  get making(): number {
    return [...this.items.values()].filter(isBeingMade).length + this.blocks.waits
  }

  /** How much room pictures have in a region; in one that the theme does not have, as much as in main. */
  room(name: string): Room {
    return (this.regions.find((each) => each.name === name) ?? this.regions[0]) as Region
  }

  watch(watcher: () => void): () => void {
    this.watchers.add(watcher)
    this.follow()
    return () => this.watchers.delete(watcher)
  }

  private tell() {
    this.follow()
    for (const watcher of this.watchers) watcher()
  }
}

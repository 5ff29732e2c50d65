/** The items and pages that the document names, as the server knows them, and the regions of the theme. */
import { ask, client, type ItemOut, type PageOut, type PageRef } from "../api/client"
import type { Room } from "../document/pictures"

type Region = PageOut["palette"]["regions"][number]

export class Known {
  private items = new Map<number, ItemOut>()
  private pages = new Map<number, PageRef>()
  private asked = new Set<number>()
  private watchers = new Set<() => void>()

  /** `regions` are those of the site's theme, main first. */
  constructor(private regions: readonly Region[]) {}

  add(items: readonly ItemOut[], pages: readonly PageRef[] = []) {
    for (const item of items) this.items.set(item.id, item)
    for (const page of pages) this.pages.set(page.id, page)
    this.tell()
  }

  /** An item; one that is not known yet (pasted or brought back by undo) is asked for. */
  item(id: number): ItemOut | undefined {
    const item = this.items.get(id)
    if (!item && !this.asked.has(id)) {
      this.asked.add(id)
      ask(client.GET("/api/items/{item_id}", { params: { path: { item_id: id } } })).then(
        (found) => this.add([found]),
        () => {},
      )
    }
    return item
  }

  page(id: number): PageRef | undefined {
    return this.pages.get(id)
  }

  /** How much room pictures have in a region; in one that the theme does not have, as much as in main. */
  room(name: string): Room {
    return (this.regions.find((each) => each.name === name) ?? this.regions[0]) as Region
  }

  watch(watcher: () => void): () => void {
    this.watchers.add(watcher)
    return () => this.watchers.delete(watcher)
  }

  private tell() {
    for (const watcher of this.watchers) watcher()
  }
}

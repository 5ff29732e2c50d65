/** The items and pages that the document names, as the server knows them. */
import { ask, client, type ItemOut, type PageRef } from "../api/client"

export class Known {
  private items = new Map<number, ItemOut>()
  private pages = new Map<number, PageRef>()
  private asked = new Set<number>()
  private watchers = new Set<() => void>()

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

  watch(watcher: () => void): () => void {
    this.watchers.add(watcher)
    return () => this.watchers.delete(watcher)
  }

  private tell() {
    for (const watcher of this.watchers) watcher()
  }
}

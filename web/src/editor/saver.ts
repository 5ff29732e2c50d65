/**
 * Saves the working copy by itself, a moment after the last change, and never overwrites a newer one.
 *
 * What is not saved yet is also kept in this browser, so that neither a lost connection nor a closed window loses it.
 */
import type { Node } from "prosemirror-model"
import { ask, client, type LiveOut, Problem, type WorkingCopy } from "../api/client"
import { type PageText, textOf, toEditor } from "./schema"
import type { Sheet } from "./sheet"

export type SaveState =
  | { kind: "saved" }
  | { kind: "waiting" }
  | { kind: "saving" }
  | { kind: "away"; sentence: string }
  | { kind: "signed-out" }
  | { kind: "refused"; sentence: string }
  | { kind: "conflict"; sentence: string; newer: WorkingCopy }

export interface Snapshot {
  state: SaveState
  revision: number
  savedAt: string
  savedBy: string
  live: LiveOut | null
}

interface Kept {
  base: number
  text: PageText
}

const PAUSE = 900
const LONGEST = 6000
const AGAIN = 3000

const keptUnder = (pageId: number) => `unsaved:${pageId}`

/** Text that was written here and has not reached the server, if any. */
export function keptText(pageId: number): Kept | null {
  try {
    return JSON.parse(localStorage.getItem(keptUnder(pageId)) ?? "null")
  } catch {
    return null
  }
}

export class Saver {
  private snapshot: Snapshot
  private watchers = new Set<() => void>()
  private saved: Node
  private timer: number | undefined
  private waitingSince = 0
  private running: Promise<void> | null = null
  private stop: () => void

  constructor(
    private pageId: number,
    private sheet: Sheet,
    copy: WorkingCopy,
    live: LiveOut | null,
    base: number,
  ) {
    this.snapshot = {
      state: { kind: "saved" },
      revision: base,
      savedAt: copy.saved_at,
      savedBy: copy.saved_by,
      live,
    }
    this.saved = toEditor(copy as PageText)
    const online = () => this.changed && this.flush()
    window.addEventListener("online", online)
    const unwatch = sheet.watch(() => this.changedMaybe())
    this.stop = () => {
      unwatch()
      window.removeEventListener("online", online)
      window.clearTimeout(this.timer)
    }
    this.changedMaybe()
  }

  watch = (watcher: () => void): (() => void) => {
    this.watchers.add(watcher)
    return () => this.watchers.delete(watcher)
  }

  get = (): Snapshot => this.snapshot

  get changed(): boolean {
    return !this.sheet.state.doc.eq(this.saved)
  }

  private tell(change: Partial<Snapshot>) {
    this.snapshot = { ...this.snapshot, ...change }
    for (const watcher of this.watchers) watcher()
  }

  private lastSeen: Node | null = null

  private changedMaybe() {
    const doc = this.sheet.state.doc
    if (doc === this.lastSeen) return
    this.lastSeen = doc
    if (!this.changed) {
      if (this.snapshot.state.kind === "waiting") this.tell({ state: { kind: "saved" } })
      localStorage.removeItem(keptUnder(this.pageId))
      return
    }
    this.keep()
    const { kind } = this.snapshot.state
    if (kind === "saved" || kind === "refused") this.tell({ state: { kind: "waiting" } })
    if (kind === "conflict") return
    this.waitingSince ||= Date.now()
    const wait = Math.max(0, Math.min(PAUSE, this.waitingSince + LONGEST - Date.now()))
    this.after(kind === "away" || kind === "signed-out" ? AGAIN : wait)
  }

  private keep() {
    const kept: Kept = { base: this.snapshot.revision, text: textOf(this.sheet.state.doc) }
    try {
      localStorage.setItem(keptUnder(this.pageId), JSON.stringify(kept))
    } catch {
      // The browser's store is full or closed; saving to the server goes on.
    }
  }

  private after(milliseconds: number) {
    window.clearTimeout(this.timer)
    this.timer = window.setTimeout(() => this.flush(), milliseconds)
  }

  /** Save now; resolves when the text is saved or cannot be. */
  async flush(): Promise<void> {
    window.clearTimeout(this.timer)
    while (this.running) await this.running
    if (this.changed && this.snapshot.state.kind !== "conflict") await this.send(this.snapshot.revision)
  }

  /** Put this text in place of the newer one, which is kept beside it. */
  async insist(): Promise<void> {
    await this.send(null)
  }

  /** Take the newer text; the server has kept this one. */
  take() {
    const { state } = this.snapshot
    if (state.kind !== "conflict") return
    const { newer } = state
    this.saved = toEditor(newer as PageText)
    this.tell({
      state: { kind: "saved" },
      revision: newer.revision,
      savedAt: newer.saved_at,
      savedBy: newer.saved_by,
    })
    this.sheet.restart(this.saved)
    localStorage.removeItem(keptUnder(this.pageId))
  }

  setLive(live: LiveOut | null) {
    this.tell({ live })
  }

  private send(base: number | null): Promise<void> {
    const doc = this.sheet.state.doc
    this.waitingSince = 0
    this.tell({ state: { kind: "saving" } })
    this.running = this.put(doc, base).finally(() => {
      this.running = null
    })
    return this.running
  }

  private async put(doc: Node, base: number | null): Promise<void> {
    const call = client.PUT("/api/pages/{page_id}/working-copy", {
      params: { path: { page_id: this.pageId } },
      body: { ...textOf(doc), base },
    })
    try {
      const saved = await ask(call)
      this.saved = doc
      const still = this.changed
      this.tell({
        state: still ? { kind: "waiting" } : { kind: "saved" },
        revision: saved.revision,
        savedAt: saved.saved_at,
        savedBy: saved.saved_by,
        live: saved.live,
      })
      if (still) {
        this.keep()
        this.after(PAUSE)
      } else localStorage.removeItem(keptUnder(this.pageId))
    } catch (error) {
      this.failed(error)
    }
  }

  private failed(error: unknown) {
    if (!(error instanceof Problem)) throw error
    if (error.status === 409 && error.body.newer) {
      this.tell({ state: { kind: "conflict", sentence: error.message, newer: error.body.newer } })
    } else if (error.away || error.status === 401) {
      this.tell({ state: error.away ? { kind: "away", sentence: error.message } : { kind: "signed-out" } })
      this.after(AGAIN)
    } else this.tell({ state: { kind: "refused", sentence: error.message } })
  }

  destroy() {
    this.stop()
    if (this.changed) void this.flush()
  }
}

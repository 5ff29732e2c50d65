/**
 * Saves the working copy by itself, a moment after the last change, and never overwrites a newer one.
 *
 * What is not saved yet is also kept in this browser's journal, so that neither a lost connection nor a closed window
 * nor a crash loses it.
 */
import type { Node } from "prosemirror-model"
import { EditorState } from "prosemirror-state"
import { ask, client, type LiveOut, Problem, type WorkingCopy } from "../api/client"
import { replaceAll } from "./commands"
import type { Journal, Left } from "./journal"
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
  /** Whether this window began with words that had been left behind in this browser. */
  broughtBack: boolean
}

const PAUSE = 900
const LONGEST = 6000
const AGAIN = 3000

/** Where writing begins: the working copy, or what was left behind in this browser. */
export interface Beginning {
  copy: WorkingCopy
  left: Left | null
  journal: Journal | null
}

export class Saver {
  private snapshot: Snapshot
  private watchers = new Set<() => void>()
  private saved: Node
  private timer: number | undefined
  private waitingSince = 0
  private running: Promise<void> | null = null
  private stop: () => void
  private journal: Journal | null
  /** The text as it was when this window opened it. */
  readonly opened: Node

  constructor(
    private pageId: number,
    private sheet: Sheet,
    { copy, left, journal }: Beginning,
    live: LiveOut | null,
  ) {
    this.journal = journal
    this.snapshot = {
      state: { kind: "saved" },
      revision: left?.base ?? copy.revision,
      savedAt: copy.saved_at,
      savedBy: copy.saved_by,
      live,
      broughtBack: left !== null,
    }
    this.saved = toEditor(copy as PageText)
    this.opened = this.saved
    journal?.begin(this.snapshot.revision, this.saved, left ? this.since(left.doc) : [])
    if (left) void journal?.takeOver(left.session)
    const online = () => this.changed && this.flush()
    window.addEventListener("online", online)
    const unwatch = sheet.watch(() => this.changedMaybe())
    const unfollow = sheet.follow((steps) => this.journal?.grow(steps))
    this.stop = () => {
      unwatch()
      unfollow()
      window.removeEventListener("online", online)
      window.clearTimeout(this.timer)
    }
    this.changedMaybe()
  }

  /** The steps from the saved text to another. */
  private since(doc: Node) {
    return replaceAll(EditorState.create({ doc: this.saved }), doc).steps
  }

  /** The text as it was last saved. */
  get lastSaved(): Node {
    return this.saved
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
      return
    }
    const { kind } = this.snapshot.state
    if (kind === "saved" || kind === "refused") this.tell({ state: { kind: "waiting" } })
    if (kind === "conflict") return
    this.waitingSince ||= Date.now()
    const wait = Math.max(0, Math.min(PAUSE, this.waitingSince + LONGEST - Date.now()))
    this.after(kind === "away" || kind === "signed-out" ? AGAIN : wait)
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

  /** Take the newer text; the server has kept this one, and undo brings it back. */
  take() {
    const { state } = this.snapshot
    if (state.kind === "conflict") this.settle(toEditor(state.newer as PageText))
  }

  /** End a conflict with a text made of both: from now on the newer one is what the changes are counted from. */
  settle(chosen: Node) {
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
    this.sheet.step(replaceAll(this.sheet.state, chosen))
    this.journal?.begin(newer.revision, this.saved, this.since(this.sheet.state.doc))
    this.lastSeen = null
    this.changedMaybe()
  }

  setLive(live: LiveOut | null) {
    this.tell({ live })
  }

  private send(base: number | null): Promise<void> {
    const doc = this.sheet.state.doc
    this.waitingSince = 0
    this.tell({ state: { kind: "saving" } })
    const mark = this.journal?.mark() ?? Promise.resolve(0)
    this.running = this.put(doc, base, mark).finally(() => {
      this.running = null
    })
    return this.running
  }

  private async put(doc: Node, base: number | null, mark: Promise<number>): Promise<void> {
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
      void this.journal?.saved(saved.revision, doc, await mark)
      if (still) this.after(PAUSE)
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
    const last = this.changed ? this.flush() : Promise.resolve()
    void last.finally(() => this.journal?.end(!this.changed))
  }
}

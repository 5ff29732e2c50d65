/**
 * Saves the working copy by itself, a moment after the last change. What others have saved meanwhile comes back with
 * the answer and is taken in on the sheet; the server merges, this only makes its changes here too.
 *
 * A save bears a mark. While its answer is missing, the same text goes out again under the same mark, so that it is
 * done once, however often answers are lost. What is not saved yet is also kept in this browser's journal.
 */
import { t } from "@lingui/core/macro"
import type { Node } from "prosemirror-model"
import { EditorState } from "prosemirror-state"
import { Mapping, type Step } from "prosemirror-transform"
import { ask, type Clash, client, type LiveOut, Problem, type SaveOut, type WorkingCopy } from "../api/client"
import { replaceAll } from "./commands"
import type { Journal, LeftBehind } from "./journal"
import type { Known } from "./known"
import { type PageText, textOf, toEditor } from "./schema"
import type { Sheet } from "./sheet"

export type SaveState =
  | { kind: "saved" }
  | { kind: "waiting" }
  | { kind: "saving" }
  | { kind: "away"; sentence: string; full: boolean }
  | { kind: "signed-out"; sentence: string }
  | { kind: "refused"; sentence: string }

export interface Snapshot {
  state: SaveState
  revision: number
  savedAt: string
  savedBy: string
  live: LiveOut | null
  /** Whether this window began with words that had been left behind in this browser. */
  broughtBack: boolean
  /** Where two people's wordings stand, and nobody has chosen yet. */
  clashes: readonly Clash[]
  /** Whether the author has changed the same words in two windows, so that both wordings stand. */
  twice: boolean
}

const PAUSE = 900
const LONGEST = 6000
const AGAIN = 3000
const SOON = 300
/** How often a text is sent at most until all of it is saved, where somebody waits for that. */
const TURNS = 5
/** In milliseconds: a server that has not answered by then is held to be away. The text goes out again. */
const NO_ANSWER = 10_000

/** Where writing begins: the working copy, or what was left behind in this browser. */
export interface Beginning {
  copy: WorkingCopy
  left: LeftBehind | null
  journal: Journal | null
  person: string
  clashes: readonly Clash[]
}

/** A save on its way: what it holds, and how places have moved on the sheet since. */
interface Pending {
  mark: string
  doc: Node
  began: Node | null
  since: Mapping
  /** How far the journal had come with it. */
  upTo: Promise<number>
}

export class Saver {
  private snapshot: Snapshot
  private watchers = new Set<() => void>()
  /** The text that changes are counted from, and the revision it was made of; `exact`: it is that revision's. */
  private saved: Node
  private base: number
  private exact = true
  private pending: Pending | null = null
  /** Whether somebody else has saved what is not on the sheet yet, and whether it has to wait. */
  private behind = false
  private held = false
  private timer: number | undefined
  private waitingSince = 0
  private running: Promise<void> | null = null
  private stop: () => void
  private journal: Journal | null
  private person: string
  /** The text as it was when this window opened it. */
  readonly opened: Node

  constructor(
    private pageId: number,
    private sheet: Sheet,
    private known: Known,
    { copy, left, journal, person, clashes }: Beginning,
    live: LiveOut | null,
  ) {
    this.journal = journal
    this.person = person
    this.snapshot = {
      state: { kind: "saved" },
      revision: copy.revision,
      savedAt: copy.saved_at,
      savedBy: copy.saved_by,
      live,
      broughtBack: left !== null && left.steps.length > 0,
      clashes,
      twice: false,
    }
    this.opened = toEditor(copy as PageText)
    this.saved = left?.began ?? this.opened
    this.base = left?.base ?? copy.revision
    this.behind = this.base !== copy.revision
    const upTo =
      (left ? journal?.takeOver(left) : journal?.begin(this.base, this.saved)) ?? Promise.resolve(0)
    if (left?.sent) {
      const { mark, doc, count } = left.sent
      const since = new Mapping(left.steps.slice(count).map((step) => step.getMap()))
      this.pending = { mark, doc, began: this.saved, since, upTo }
    }
    const online = () => this.changed && this.flush()
    window.addEventListener("online", online)
    const unwatch = sheet.watch(() => this.changedMaybe())
    const unfollow = sheet.follow((steps) => this.grown(steps))
    this.stop = () => {
      unwatch()
      unfollow()
      window.removeEventListener("online", online)
      window.clearTimeout(this.timer)
    }
    // What was left behind in this browser has other places; they come with the first answer.
    if (sheet.state.doc.eq(this.opened)) sheet.mark(clashes, this.opened)
    this.changedMaybe()
  }

  private grown(steps: readonly Step[]) {
    this.journal?.grow(steps)
    for (const step of steps) this.pending?.since.appendMap(step.getMap())
  }

  /** The steps from the text that changes are counted from to the one on the sheet. */
  private further() {
    return { steps: replaceAll(EditorState.create({ doc: this.saved }), this.sheet.state.doc).steps }
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
    return this.pending !== null || !this.sheet.state.doc.eq(this.saved)
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
    // It is tried again already; typing on does not put that off.
    if (kind === "away" || kind === "signed-out") return
    this.waitingSince ||= Date.now()
    this.after(Math.max(0, Math.min(PAUSE, this.waitingSince + LONGEST - Date.now())))
  }

  private after(milliseconds: number) {
    window.clearTimeout(this.timer)
    this.timer = window.setTimeout(() => this.once(), milliseconds)
  }

  private async once(): Promise<void> {
    window.clearTimeout(this.timer)
    while (this.running) await this.running
    if (this.changed || this.behind) await this.send()
  }

  /** Save now; resolves when the text is saved or cannot be. */
  async flush(): Promise<void> {
    for (let turn = 0; turn < TURNS && (this.changed || this.behind); turn++) {
      await this.once()
      if (!["saved", "waiting"].includes(this.snapshot.state.kind)) return
    }
  }

  /** While the page is written as source, nothing comes in on the sheet: what is written there would undo it. */
  holdStill(held: boolean) {
    this.held = held
    if (!held && this.behind) void this.flush()
  }

  /** Somebody has saved `revision`: have what is new there come in. */
  async heardOf(revision: number): Promise<void> {
    if (revision <= this.snapshot.revision || this.running || this.held) return
    this.behind = true
    await this.flush()
  }

  setLive(live: LiveOut | null) {
    this.tell({ live })
  }

  /** Somebody has chosen between two wordings. */
  async settle(clash: Clash): Promise<void> {
    this.leave(this.snapshot.clashes.filter(({ id }) => id !== clash.id))
    const path = { page_id: this.pageId, clash_id: clash.id }
    await ask(client.DELETE("/api/pages/{page_id}/clashes/{clash_id}", { params: { path } }))
  }

  /** Between the others somebody has chosen. */
  private leave(clashes: readonly Clash[]) {
    this.tell({ clashes })
    this.sheet.mark(clashes)
  }

  /** Only these are still open: others have chosen between the rest. New ones come with the text. */
  stillOpen(ids: readonly number[]) {
    const open = this.snapshot.clashes.filter(({ id }) => ids.includes(id))
    if (open.length < this.snapshot.clashes.length) this.leave(open)
    if (ids.some((id) => !open.some((each) => each.id === id)) && !this.running && !this.held) {
      this.behind = true
      void this.flush()
    }
  }

  private send(): Promise<void> {
    this.waitingSince = 0
    this.pending ??= this.begun()
    const { pending } = this
    this.tell({ state: { kind: "saving" } })
    this.running = this.put(pending).finally(() => {
      this.running = null
    })
    return this.running
  }

  private begun(): Pending {
    const mark = crypto.randomUUID()
    return {
      mark,
      doc: this.sheet.state.doc,
      began: this.exact && !this.behind ? null : this.saved,
      since: new Mapping(),
      upTo: this.journal?.sending(mark) ?? Promise.resolve(0),
    }
  }

  private async put(pending: Pending): Promise<void> {
    try {
      const upTo = await pending.upTo
      this.done(pending, await this.sent(pending), upTo)
    } catch (error) {
      this.failed(error)
    }
  }

  private async sent(pending: Pending): Promise<SaveOut> {
    const { mark, doc } = pending
    const base = this.base
    const person = this.person
    const call = () => {
      const began = pending.began && textOf(pending.began)
      const params = { path: { page_id: this.pageId } }
      const body = { ...textOf(doc), base, mark, began, person }
      const signal = AbortSignal.timeout(NO_ANSWER)
      return ask(client.PUT("/api/pages/{page_id}/working-copy", { params, body, signal }))
    }
    try {
      return await call()
    } catch (error) {
      if (!(error instanceof Problem && error.is("began-from"))) throw error
      pending.began = this.saved
      return await call()
    }
  }

  private done(pending: Pending, answer: SaveOut, upTo: number) {
    this.pending = null
    const { merged } = answer
    if (!merged) this.counted(pending.doc, answer.revision, upTo)
    else {
      this.known.add(merged.items, merged.pages)
      const now = toEditor(merged as PageText)
      const taken = !this.held && this.sheet.takeIn(merged.changes, pending.doc, now, pending.since)
      // What meets words that are just being typed here waits: the server merges these too, with the next save.
      this.saved = taken ? now : pending.doc
      if (taken) this.base = answer.revision
      this.exact = taken
      this.behind = !taken
      void this.journal?.begin(this.base, this.saved, this.further())
    }
    if (!this.behind) {
      const since = merged ? this.further().steps.map((step) => step.getMap()) : pending.since.maps
      this.sheet.mark(answer.clashes, this.saved, new Mapping(since))
    }
    const still = this.changed || this.behind
    this.tell({
      state: still ? { kind: "waiting" } : { kind: "saved" },
      revision: answer.revision,
      savedAt: answer.saved_at,
      savedBy: answer.saved_by,
      live: answer.live,
      clashes: answer.clashes,
      twice: answer.twice || (this.snapshot.twice && still),
    })
    if (still && !(this.held && !this.changed)) this.after(this.behind ? SOON : PAUSE)
  }

  private counted(doc: Node, revision: number, upTo: number) {
    this.saved = doc
    this.base = revision
    this.exact = true
    this.behind = false
    void this.journal?.saved(revision, doc, upTo)
  }

  private failed(error: unknown) {
    if (!(error instanceof Problem)) throw error
    const sentence = error.status === 401 ? t`You are signed out.` : error.message
    if (error.away) this.tell({ state: { kind: "away", sentence, full: error.status === 507 } })
    else if (error.status === 401 || error.is("somebody-else"))
      this.tell({ state: { kind: "signed-out", sentence } })
    else {
      // It was understood and refused: what is sent next is another text, under a mark of its own.
      this.pending = null
      this.tell({ state: { kind: "refused", sentence } })
      return
    }
    this.after(AGAIN)
  }

  destroy() {
    this.stop()
    const last = this.changed ? this.flush() : Promise.resolve()
    void last.finally(() => this.journal?.end(!this.changed))
  }
}

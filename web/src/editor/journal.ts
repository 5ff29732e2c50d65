/**
 * The journal: what is written here and has not reached the server, kept in this browser key by key, so that neither a
 * crash nor a closed laptop nor an expired sign-in loses a word.
 *
 * A journal begins with the text that was last saved, and grows by the steps of each change: a key costs a few bytes,
 * however long the page is. It belongs to a person and a page. Each window has a journal of its own and holds a lock
 * for it; a journal whose lock nobody holds was left behind, and is what its owner's next window begins from.
 */
import { t } from "@lingui/core/macro"
import { type DBSchema, type IDBPDatabase, openDB } from "idb"
import type { Node } from "prosemirror-model"
import { Step } from "prosemirror-transform"
import { upgradedStep, versionOf } from "../document/upgrades"
import { type PageText, schema, textOf, toEditor } from "./schema"

/** A save that was sent and perhaps not answered: its mark, and how far the journal had come with the text it held. */
interface Sent {
  mark: string
  upTo: number
}

interface Start {
  session: string
  pageId: number
  /** Whose it is; missing in journals of the time before that was kept. */
  person?: string
  /** The revision that the text was made of. */
  base: number
  text: PageText
  at: number
  sent?: Sent
  /** Words whose place in the text is lost, until somebody has taken them or let them go. */
  stray?: string
}

interface Grown {
  session: string
  steps: unknown[]
}

interface Store extends DBSchema {
  starts: { key: string; value: Start; indexes: { page: number } }
  steps: { key: number; value: Grown; indexes: { session: string } }
}

/** A text that was left behind: what it grew from, and how far it had come. */
export interface LeftBehind {
  base: number
  began: Node
  doc: Node
  session: string
  /** The steps that lead from the one to the other. */
  steps: Step[]
  /** The save that was not answered: what it held, and how many of the steps were made before it. */
  sent: { mark: string; doc: Node; count: number } | null
  /** The words of changes that fit the text no more, as when the format has changed since. */
  stray: string
}

let opened: Promise<IDBPDatabase<Store>> | null = null

function open(): Promise<IDBPDatabase<Store>> {
  opened ??= openDB<Store>("still-page", 1, {
    upgrade(db) {
      db.createObjectStore("starts", { keyPath: "session" }).createIndex("page", "pageId")
      db.createObjectStore("steps", { autoIncrement: true }).createIndex("session", "session")
    },
  })
  return opened
}

const lockOf = (session: string) => t`journal ${session}`

/** In milliseconds: how long a change waits at most before it is written; a window that is not shown draws no frames. */
const LATEST = 25

/** In milliseconds: a window that has just been closed or loaded anew may hold its lock a moment longer. */
const PATIENCE = [0, 100, 200, 300]

/** The newest text of a page that this person left behind in this browser, if it says anything else than `saved`. */
export async function leftBehind(
  pageId: number,
  person: string,
  { base, saved }: { base: number; saved: Node },
): Promise<LeftBehind | null> {
  try {
    const db = await open()
    const journals: { start: Start; grown: Map<number, Grown> }[] = []
    for (const start of await db.getAllFromIndex("starts", "page", pageId)) {
      if ((start.person ?? person) !== person) continue
      const grown = await stepsOf(db, start.session)
      if (grown.size || start.stray) journals.push({ start, grown })
      else if (!(await isHeld(start.session))) await forget(db, start.session)
    }
    journals.sort((one, other) => other.start.at - one.start.at)
    for (const wait of PATIENCE) {
      if (!journals.length) return null
      await new Promise((done) => setTimeout(done, wait))
      for (const [index, { start, grown }] of journals.entries()) {
        if (await isHeld(start.session)) continue
        const left = replayed(start, [...grown], { base, saved })
        if (left.stray || !left.doc.eq(saved)) return left
        // The server has it all: its answer was lost, or somebody wrote the same.
        await forget(db, start.session)
        journals.splice(index, 1)
        break
      }
    }
    return null
  } catch {
    return null
  }
}

async function stepsOf(db: IDBPDatabase<Store>, session: string): Promise<Map<number, Grown>> {
  const tr = db.transaction("steps")
  const index = tr.store.index("session")
  const [keys, values] = await Promise.all([index.getAllKeys(session), index.getAll(session)])
  return new Map(keys.map((key, place) => [key, values[place] as Grown]))
}

async function isHeld(session: string): Promise<boolean> {
  const { held = [] } = await navigator.locks.query()
  return held.some(({ name }) => name === lockOf(session))
}

/**
 * The text with all steps made again. Where one does not fit, or the text that they began from cannot be read, those
 * before it count, and the words of the others are gathered: `saved`, the text of revision `base`, goes on without them.
 */
export function replayed(
  start: Start,
  grown: readonly (readonly [number, Grown])[],
  { base, saved }: { base: number; saved: Node },
): LeftBehind {
  const { session } = start
  const all = grown.flatMap(([key, { steps }]) => steps.map((step) => [key, step] as const))
  const lost = (steps: readonly (readonly [number, unknown])[], before = "") =>
    [start.stray ?? "", before, wordsOf(steps.map(([, step]) => step))].filter(Boolean).join("\n")
  let began: Node
  try {
    began = toEditor(start.text)
    began.check()
  } catch {
    const whole = [start.text?.title, lines(start.text?.document)].filter(Boolean).join("\n")
    return { base, began: saved, doc: saved, session, steps: [], sent: null, stray: lost(all, whole) }
  }
  const version = versionOf(start.text.document)
  let doc = began
  let held = began
  let count = 0
  const made: Step[] = []
  try {
    for (const [key, each] of all) {
      const step = Step.fromJSON(schema, upgradedStep(each, version))
      const { doc: next, failed } = step.apply(doc)
      if (!next) throw new Error(failed ?? "")
      doc = next
      made.push(step)
      if (start.sent && key <= start.sent.upTo) {
        held = doc
        count = made.length
      }
    }
  } catch {
    // What follows a step that does not fit was made of a text that is not there.
  }
  const sent = start.sent ? { mark: start.sent.mark, doc: held, count } : null
  return { base: start.base, began, doc, session, steps: made, sent, stray: lost(all.slice(made.length)) }
}

/** The words that some JSON of the editor's holds, a line for each block. */
function lines(json: unknown): string {
  if (Array.isArray(json)) {
    const inline = json.every((each) => (each as { text?: string } | null)?.text !== undefined)
    return json
      .map(lines)
      .filter(Boolean)
      .join(inline ? "" : "\n")
  }
  if (!json || typeof json !== "object") return ""
  const { text, content, slice } = json as { text?: unknown; content?: unknown; slice?: unknown }
  return typeof text === "string" ? text : lines(content ?? slice)
}

/** The words that steps put in; what was typed in one go stands together. */
function wordsOf(steps: readonly unknown[]): string {
  let written = ""
  let end: number | null = null
  for (const step of steps) {
    const words = lines(step)
    const { from } = (step ?? {}) as { from?: unknown }
    if (!words) continue
    written += written && from !== end ? `\n${words}` : words
    end = typeof from === "number" ? from + words.length : null
  }
  return written
}

/** What a journal goes on from: the steps it has already, and the save among them that was not answered. */
interface Further {
  steps: readonly Step[]
  sent?: { mark: string; count: number }
}

/**
 * Take the steps of a journal away, those up to a key or all, and put another start (or none) in the place of the one
 * it had, with steps to go on from there. It is one transaction: a crash finds all of it done or nothing. Gives the
 * keys of the steps up to what was sent, and of the last.
 */
async function renew(
  db: IDBPDatabase<Store>,
  session: string,
  start: Start | null,
  upTo = Number.POSITIVE_INFINITY,
  { steps, sent }: Further = { steps: [] },
): Promise<{ sent: number; last: number | null }> {
  const tr = db.transaction(["starts", "steps"], "readwrite")
  const store = tr.objectStore("steps")
  const index = store.index("session")
  for (let cursor = await index.openCursor(session); cursor; cursor = await cursor.continue())
    if (cursor.primaryKey <= upTo) await cursor.delete()
  const add = (some: readonly Step[]) =>
    some.length ? store.add({ session, steps: some.map((step) => step.toJSON()) }) : null
  const first = await add(steps.slice(0, sent?.count ?? steps.length))
  const rest = await add(sent ? steps.slice(sent.count) : [])
  const held = first ?? 0
  if (!start) void tr.objectStore("starts").delete(session)
  else void tr.objectStore("starts").put(sent ? { ...start, sent: { mark: sent.mark, upTo: held } } : start)
  await tr.done
  return { sent: held, last: rest ?? first }
}

const forget = (db: IDBPDatabase<Store>, session: string) => renew(db, session, null)

export class Journal {
  private session = crypto.randomUUID()
  private db: IDBPDatabase<Store> | null = null
  private release: () => void = () => {}
  private waiting: Step[] = []
  private stray = ""
  /** The key of the last step written. */
  private last = Promise.resolve(0)

  private constructor(
    readonly pageId: number,
    readonly person: string,
  ) {}

  /** Somebody's journal for a page; null where the browser has no store to keep it in. */
  static async open(pageId: number, person: string): Promise<Journal | null> {
    const journal = new Journal(pageId, person)
    try {
      journal.db = await open()
      await new Promise<void>((held) => {
        navigator.locks.request(
          lockOf(journal.session),
          () =>
            new Promise<void>((release) => {
              journal.release = release
              held()
            }),
        )
      })
      return journal
    } catch {
      return null
    }
  }

  private startOf(base: number, doc: Node): Start {
    const { session, pageId, person } = this
    const stray = this.stray || undefined
    return { session, pageId, person, base, text: textOf(doc), at: Date.now(), stray }
  }

  /**
   * Begin anew: `began` is the text that changes are counted from, made of revision `base`, and the steps lead from it
   * to the text that now stands on the sheet. Changes are kept from there. Gives how far the journal had come with the
   * save that was not answered.
   */
  async begin(base: number, began: Node, further: Further = { steps: [] }): Promise<number> {
    this.write()
    const start = this.startOf(base, began)
    const { last } = this
    const renewed = this.try((db) => renew(db, this.session, start, undefined, further))
    this.last = renewed.then((keys) => keys?.last ?? last)
    return (await renewed)?.sent ?? 0
  }

  /** Go on with a text that was left behind; once this journal holds it, the other is not needed any more. */
  async takeOver({ base, began, steps, sent, session, stray }: LeftBehind): Promise<number> {
    this.stray = stray
    const held = await this.begin(base, began, { steps, sent: sent ?? undefined })
    await this.try(async (db) => {
      if (await db.get("starts", this.session)) await forget(db, session)
    })
    return held
  }

  /** The words without a place are on the sheet now, or nobody wants them. */
  async letStrayGo(): Promise<void> {
    this.stray = ""
    await this.try(async (db) => {
      const tr = db.transaction("starts", "readwrite")
      const start = await tr.store.get(this.session)
      if (start) await tr.store.put({ ...start, stray: undefined })
      await tr.done
    })
  }

  /** Keep the steps of a change: right after the frame that shows it, so that no key waits for the journal. */
  grow(steps: readonly Step[]) {
    this.waiting.push(...steps)
    if (this.waiting.length > steps.length) return
    requestAnimationFrame(() => setTimeout(() => this.write(), 0))
    setTimeout(() => this.write(), LATEST)
  }

  private write() {
    if (!this.waiting.length) return
    const steps = this.waiting.map((step) => step.toJSON())
    this.waiting = []
    const before = this.last
    this.last = this.try((db) => db.add("steps", { session: this.session, steps })).then(
      (key) => key ?? before,
    )
  }

  /** The text as it is at this moment is being saved under a mark; gives how far the journal has come with it. */
  async sending(mark: string): Promise<number> {
    this.write()
    const upTo = await this.last
    await this.try(async (db) => {
      const tr = db.transaction("starts", "readwrite")
      const start = await tr.store.get(this.session)
      if (start) await tr.store.put({ ...start, sent: { mark, upTo } })
      await tr.done
    })
    return upTo
  }

  /** The text up to `upTo` is saved as `base`: the journal begins from there. */
  async saved(base: number, doc: Node, upTo: number): Promise<void> {
    await this.try((db) => renew(db, this.session, this.startOf(base, doc), upTo))
  }

  /** Everything is saved and the window closes. */
  async end(clean: boolean): Promise<void> {
    if (clean && !this.stray) await this.try((db) => forget(db, this.session))
    this.release()
  }

  /** The browser's store may be full or closed; saving to the server goes on without it. */
  private async try<Result>(work: (db: IDBPDatabase<Store>) => Promise<Result>): Promise<Result | null> {
    try {
      return this.db && (await work(this.db))
    } catch {
      return null
    }
  }
}

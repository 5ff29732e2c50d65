/**
 * The journal: what is written here and has not reached the server, kept in this browser key by key, so that neither a
 * crash nor a closed laptop nor an expired sign-in loses a word.
 *
 * A journal begins with the text that was last saved, and grows by the steps of each change: a key costs a few bytes,
 * however long the page is. Each window has a journal of its own and holds a lock for it; a journal whose lock nobody
 * holds was left behind, and is what the next window begins from.
 */
import { type DBSchema, type IDBPDatabase, openDB } from "idb"
import type { Node } from "prosemirror-model"
import { Step } from "prosemirror-transform"
import { type PageText, schema, textOf, toEditor } from "./schema"

interface Start {
  session: string
  pageId: number
  /** The revision that the text was saved as. */
  base: number
  text: PageText
  at: number
}

interface Grown {
  session: string
  steps: unknown[]
}

interface Store extends DBSchema {
  starts: { key: string; value: Start; indexes: { page: number } }
  steps: { key: number; value: Grown; indexes: { session: string } }
}

/** A text that was left behind: the revision it grew from, and how far it had come. */
export interface Left {
  base: number
  doc: Node
  session: string
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

const lockOf = (session: string) => `journal ${session}`

/** In milliseconds: how long a change waits at most before it is written; a window that is not shown draws no frames. */
const LATEST = 25

/** In milliseconds: a window that has just been closed or loaded anew may hold its lock a moment longer. */
const PATIENCE = [0, 100, 200, 300]

/** The newest text of a page that was left behind in this browser, if any. */
export async function leftBehind(pageId: number): Promise<Left | null> {
  try {
    const db = await open()
    const journals: { start: Start; grown: Grown[] }[] = []
    for (const start of await db.getAllFromIndex("starts", "page", pageId)) {
      const grown = await db.getAllFromIndex("steps", "session", start.session)
      if (grown.length) journals.push({ start, grown })
      else if (!(await isHeld(start.session))) await forget(db, start.session)
    }
    journals.sort((one, other) => other.start.at - one.start.at)
    for (const wait of PATIENCE) {
      if (!journals.length) return null
      await new Promise((done) => setTimeout(done, wait))
      for (const { start, grown } of journals)
        if (!(await isHeld(start.session)))
          return { base: start.base, session: start.session, doc: replayed(start.text, grown) }
    }
    return null
  } catch {
    return null
  }
}

async function isHeld(session: string): Promise<boolean> {
  const { held = [] } = await navigator.locks.query()
  return held.some(({ name }) => name === lockOf(session))
}

/** The text with all steps made again; where one does not fit, those before it count. */
function replayed(text: PageText, grown: Grown[]): Node {
  let doc = toEditor(text)
  try {
    for (const { steps } of grown)
      for (const step of steps) doc = Step.fromJSON(schema, step).apply(doc).doc ?? doc
  } catch {
    // A step that cannot be read ends the journal.
  }
  return doc
}

/**
 * Take the steps of a journal away, those up to a key or all, and put another start (or none) in the place of the one
 * it had, with one set of steps to go on from there. It is one transaction: a crash finds all of it done or nothing.
 */
async function renew(
  db: IDBPDatabase<Store>,
  session: string,
  start: Start | null,
  upTo = Number.POSITIVE_INFINITY,
  steps: unknown[] = [],
): Promise<number | null> {
  const tr = db.transaction(["starts", "steps"], "readwrite")
  if (start) void tr.objectStore("starts").put(start)
  else void tr.objectStore("starts").delete(session)
  const store = tr.objectStore("steps")
  const index = store.index("session")
  for (let cursor = await index.openCursor(session); cursor; cursor = await cursor.continue())
    if (cursor.primaryKey <= upTo) await cursor.delete()
  const key = steps.length ? await store.add({ session, steps }) : null
  await tr.done
  return key
}

const forget = (db: IDBPDatabase<Store>, session: string) => renew(db, session, null)

export class Journal {
  private session = crypto.randomUUID()
  private db: IDBPDatabase<Store> | null = null
  private release: () => void = () => {}
  private waiting: Step[] = []
  /** The key of the last step written. */
  private last = Promise.resolve(0)

  private constructor(readonly pageId: number) {}

  /** A journal for a page; null where the browser has no store to keep it in. */
  static async open(pageId: number): Promise<Journal | null> {
    const journal = new Journal(pageId)
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
    return { session: this.session, pageId: this.pageId, base, text: textOf(doc), at: Date.now() }
  }

  /**
   * Begin anew: `saved` is the text that was saved as `base`, and `since` are the steps from it to the text that now
   * stands on the sheet. Changes are kept from there.
   */
  begin(base: number, saved: Node, since: readonly Step[] = []) {
    this.write()
    const start = this.startOf(base, saved)
    const steps = since.map((step) => step.toJSON())
    const { last } = this
    const renewed = this.try((db) => renew(db, this.session, start, undefined, steps))
    this.last = renewed.then((key) => key ?? last)
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

  /** How far the journal has come with the text as it is at this moment. */
  mark(): Promise<number> {
    this.write()
    return this.last
  }

  /** The text up to `mark` is saved as `base`: the journal begins from there. */
  async saved(base: number, doc: Node, mark: number): Promise<void> {
    await this.try((db) => renew(db, this.session, this.startOf(base, doc), mark))
  }

  /** Once this journal holds another one's text, the other is not needed any more. */
  async takeOver(session: string): Promise<void> {
    if (await this.last) await this.try((db) => forget(db, session))
  }

  /** Everything is saved and the window closes. */
  async end(clean: boolean): Promise<void> {
    if (clean) await this.try((db) => forget(db, this.session))
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

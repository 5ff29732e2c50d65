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

async function forget(db: IDBPDatabase<Store>, session: string, upTo?: number) {
  const tr = db.transaction(["starts", "steps"], "readwrite")
  if (upTo === undefined) await tr.objectStore("starts").delete(session)
  const index = tr.objectStore("steps").index("session")
  for (let cursor = await index.openCursor(session); cursor; cursor = await cursor.continue())
    if (upTo === undefined || cursor.primaryKey <= upTo) await cursor.delete()
  await tr.done
}

export class Journal {
  private session = crypto.randomUUID()
  private db: IDBPDatabase<Store> | null = null
  private release: () => void = () => {}
  private waiting: Step[] = []
  /** The key of the last step written. */
  private last = Promise.resolve(0)

  private constructor(readonly pageId: number) {}

  /** Begin the journal of a page; null where the browser has no store to keep it in. */
  static async begin(pageId: number): Promise<Journal | null> {
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

  /** Lay down the text that was saved as `base`; changes are kept from there. */
  async start(base: number, doc: Node): Promise<void> {
    const { session, pageId } = this
    const text = textOf(doc)
    await this.try((db) => db.put("starts", { session, pageId, base, text, at: Date.now() }))
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
    await this.start(base, doc)
    await this.try((db) => forget(db, this.session, mark))
  }

  /** Another journal's text has been taken over into this one. */
  async takeOver(session: string): Promise<void> {
    await this.try((db) => forget(db, session))
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

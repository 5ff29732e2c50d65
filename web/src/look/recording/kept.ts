/**
 * What has been recorded and is not in the library yet, kept in this browser piece by piece: neither a closed window nor a
 * lost connection takes more of it than its last second.
 */
import { type DBSchema, type IDBPDatabase, openDB } from "idb"

export type RecordedKind = "sound" | "film"

export interface Recorded {
  id: string
  /** Who recorded it: others may sit at this computer, too. */
  person: string
  kind: RecordedKind
  mime: string
  /** When it was begun, in milliseconds since 1970. */
  at: number
  name: string
  /** When somebody let it go; it can be taken back for a while. */
  goneAt?: number
}

/** How long what was let go is kept all the same, in milliseconds. */
const TAKEN_BACK = 600_000

interface Store extends DBSchema {
  recordings: { key: string; value: Recorded }
  pieces: { key: number; value: { of: string; data: Blob }; indexes: { of: string } }
}

let opened: Promise<IDBPDatabase<Store>> | null = null

function store(): Promise<IDBPDatabase<Store>> {
  opened ??= openDB<Store>("recordings", 1, {
    upgrade: (database) => {
      database.createObjectStore("recordings", { keyPath: "id" })
      database.createObjectStore("pieces", { autoIncrement: true }).createIndex("of", "of")
    },
  })
  return opened
}

const lockOf = (id: string) => `recording ${id}`

/** Keep a recording that begins now. Until `release` is called it counts as one that is being made in this window. */
export async function begin(recorded: Recorded): Promise<() => void> {
  await (await store()).put("recordings", recorded)
  let release = () => {}
  await new Promise<void>((held) => {
    void navigator.locks.request(lockOf(recorded.id), () => {
      held()
      return new Promise<void>((done) => {
        release = done
      })
    })
  })
  return () => release()
}

export async function add(id: string, data: Blob): Promise<void> {
  await (await store()).add("pieces", { of: id, data })
}

/** The recordings of somebody that are not being made just now, the newest first. */
export async function left(person: string): Promise<Recorded[]> {
  const all = await (await store()).getAll("recordings")
  const { held = [] } = await navigator.locks.query()
  const busy = new Set(held.map(({ name }) => name))
  for (const { id, goneAt } of all) if (goneAt && Date.now() - goneAt > TAKEN_BACK) await letGo(id)
  const own = all.filter((each) => each.person === person)
  const here = own.filter(({ id, goneAt }) => !busy.has(lockOf(id)) && !goneAt)
  return here.sort((one, other) => other.at - one.at)
}

/** Let a recording go, or take it back. */
export async function mark(recorded: Recorded, gone: boolean): Promise<void> {
  await (await store()).put("recordings", { ...recorded, goneAt: gone ? Date.now() : undefined })
}

/** A recording as a file; null where nothing was recorded. */
export async function fileOf({ id, mime, name }: Recorded, called = name): Promise<File | null> {
  const pieces = await (await store()).getAllFromIndex("pieces", "of", id)
  if (!pieces.length) return null
  const bare = mime.split(";")[0] ?? mime
  const ending = bare.endsWith("/mp4") ? "mp4" : bare.endsWith("/ogg") ? "ogg" : "webm"
  const parts = pieces.map(({ data }) => data)
  return new File(parts, `${called.replace(/[\\/]/g, "-")}.${ending}`, { type: bare })
}

export async function letGo(id: string): Promise<void> {
  const changing = (await store()).transaction(["recordings", "pieces"], "readwrite")
  await changing.objectStore("recordings").delete(id)
  const pieces = await changing.objectStore("pieces").index("of").getAllKeys(id)
  await Promise.all(pieces.map((key) => changing.objectStore("pieces").delete(key)))
  await changing.done
}

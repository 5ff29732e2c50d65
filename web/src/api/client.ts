/** Calls to the server. Every failure becomes a `Problem` with a sentence for the author. */
import { t } from "@lingui/core/macro"
import createClient, { type Middleware } from "openapi-fetch"
import type { components, paths } from "./types.generated"

type Schemas = components["schemas"]
export type Session = Schemas["Session"]
export type Choices = Schemas["Choices"]
export type Result = Schemas["ResultOut"]
export type SiteOut = Schemas["SiteOut"]
export type Contents = Schemas["Contents"]
export type ContentsEntry = Schemas["ContentsEntry"]
export type PageFacts = Schemas["FactsOut"]
export type TreeAct = Schemas["TreeActOut"]
export type Consequences = Schemas["ConsequencesOut"]
export type FoundPage = Schemas["Found"]
export type Binned = Schemas["BinnedOut"]
export type RedirectRow = Schemas["RedirectOut"]
export type Preview = Schemas["PreviewOut"]
export type SiteFull = Schemas["SiteFull"]
export type PageOut = Schemas["PageOut"]
export type PageRef = Schemas["PageRef"]
export type ItemOut = Schemas["ItemOut"]
export type BlockOut = Schemas["BlockOut"]
export type LibraryEntry = Schemas["LibraryEntry"]
export type CaptionsBrief = Schemas["CaptionsBrief"]
export type CaptionsOut = Schemas["CaptionsOut"]
export type Cue = Schemas["CueRow"]
export type CaptionNote = Schemas["CaptionNoteOut"]
export type HostIn = Schemas["HostIn"]
export type HostOut = Schemas["HostOut"]
export type HostTried = Schemas["HostTried"]
export type ItemChange = Schemas["ItemChange"]
export type ItemEntry = Schemas["ItemEntry"]
export type ItemUse = Schemas["ItemUse"]
export type FolderOut = Schemas["FolderOut"]
export type ActOut = Schemas["ActOut"]
export type CommonsPicture = Schemas["CommonsPicture"]
export type ItemsAct = Schemas["ItemsAct"]
export type Finding = Schemas["FindingOut"]
export type Repair = Schemas["RepairOut"]
export type Allowance = Schemas["AllowanceOut"]
export type Severity = Finding["severity"]
export type CheckRule = Schemas["RuleOut"]
export type HeardLine = Schemas["HeardLine"]
export type OutsideLink = Schemas["OutsideLink"]
export type SiteChecks = Schemas["SiteChecks"]
export type Sign = Schemas["SignOut"]
export type Heading = Schemas["HeadingOut"]
export type Version = Schemas["VersionOut"]
export type Clash = Schemas["ClashOut"]
export type Change = Schemas["ChangeOut"]
export type SaveOut = Schemas["SaveOut"]
export type Together = Schemas["TogetherOut"]
export type Measure = Schemas["MeasureOut"]
export type LiveOut = Schemas["LiveOut"]
export type Arrived = Schemas["ArrivedOut"]
export type Told = Schemas["Told"]
export type Landing = Schemas["Landing"]
export type SourceNote = Schemas["SourceReadOut"]["notes"][number]
export type SignedInAt = Schemas["SignedInAt"]
export type NotedEntry = Schemas["NotedEntry"]
export type WorkingCopy = Schemas["WorkingCopyOut"]

/** What went wrong. `status` is 0 when the server was not reached. */
export class Problem extends Error {
  status: number
  body: Partial<Schemas["Problem"]>

  constructor(status: number, body: Partial<Schemas["Problem"]>) {
    super(body.detail ?? t`The server cannot be reached.`)
    this.status = status
    this.body = body
  }

  /** Whether trying again later may help: the server or its database is away. */
  get away(): boolean {
    return this.status === 0 || this.status >= 500
  }

  /** Whether it is of a type, by the name that the server gives it. */
  is(name: string): boolean {
    return this.body.type?.endsWith(`/${name}`) ?? false
  }
}

export function csrfToken(): string {
  return /(?:^|; )(?:__Host-)?csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? ""
}

const withToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken())
    return request
  },
}

export const client = createClient<paths>({ baseUrl: "/", credentials: "same-origin" })
client.use(withToken)

interface Answer<Data> {
  data?: Data
  error?: unknown
  response: Response
}

/** The data of an answer; throws a `Problem` for everything else. */
export async function ask<Data>(call: Promise<Answer<Data>>): Promise<Data> {
  let answer: Answer<Data>
  try {
    answer = await call
  } catch {
    throw new Problem(0, {})
  }
  if (!answer.response.ok) {
    const body = typeof answer.error === "object" && answer.error ? answer.error : {}
    throw new Problem(answer.response.status, body)
  }
  return answer.data as Data
}

/** How many items are asked for at once; the server answers for a hundred. */
const ABREAST = 100

/** Those of the items that there are, in the order of the numbers. Throws a `Problem`. */
export async function askItems(numbers: readonly number[]): Promise<ItemOut[]> {
  const found: ItemOut[] = []
  for (let from = 0; from < numbers.length; from += ABREAST) {
    const query = { number: numbers.slice(from, from + ABREAST) }
    found.push(...(await ask(client.GET("/api/library/items", { params: { query } }))))
  }
  return found
}

/** Have the browser keep the file that is at an address of the API. Throws a `Problem`. */
export async function takeFile(address: string): Promise<void> {
  let answer: Response
  try {
    answer = await fetch(address, { credentials: "same-origin" })
  } catch {
    throw new Problem(0, {})
  }
  if (!answer.ok) throw new Problem(answer.status, problemIn(await answer.text()))
  const said = answer.headers.get("Content-Disposition") ?? ""
  const name = /filename\*=utf-8''([^;]+)/i.exec(said)?.[1] ?? /filename="([^"]+)"/.exec(said)?.[1] ?? "page"
  const link = document.createElement("a")
  link.href = URL.createObjectURL(await answer.blob())
  link.download = decodeURIComponent(name)
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}

/** How a form with files is on its way. */
interface OnItsWay {
  signal: AbortSignal
  /** How much of it has gone, from 0 to 1. */
  progress(share: number): void
  /** The lines of the answer that have come, each time there is one more. */
  lines?(lines: string[]): void
}

/** Send a form with files, or bytes or JSON; gives the text of the answer. Throws a `Problem`, or an AbortError when
 * cancelled. */
function send(
  address: string,
  body: FormData | Blob | string,
  { signal, progress, lines }: OnItsWay,
  method = "POST",
): Promise<string> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    request.open(method, address)
    request.setRequestHeader("X-CSRFToken", csrfToken())
    if (typeof body === "string") request.setRequestHeader("Content-Type", "application/json")
    if (body instanceof Blob) request.setRequestHeader("Content-Type", "application/octet-stream")
    request.upload.onprogress = (event) => progress(event.total ? event.loaded / event.total : 0)
    request.onprogress = () => {
      if (request.status < 300) lines?.(request.responseText.split("\n").slice(0, -1))
    }
    request.onload = () => {
      if (request.status < 300) resolve(request.responseText)
      else reject(new Problem(request.status, problemIn(request.responseText)))
    }
    request.onerror = () => reject(new Problem(0, {}))
    request.onabort = () => reject(new DOMException("Cancelled", "AbortError"))
    if (signal.aborted) return reject(new DOMException("Cancelled", "AbortError"))
    signal.addEventListener("abort", () => request.abort())
    request.send(body)
  })
}

function problemIn(text: string): Partial<Schemas["Problem"]> {
  try {
    return JSON.parse(text)
  } catch {
    return { detail: t`The server could not answer. Try again.` }
  }
}

/** Where a file goes in the library, or which item it takes the place of. */
export interface Destination {
  folder?: number | null
  replaces?: number
}

/** How something is on its way into the library. */
export interface Way {
  signal: AbortSignal
  /** How much of it has gone, from 0 to 1. */
  progress(share: number): void
  /** Told true while the server cannot be reached, and false when it goes on. */
  waiting?(waits: boolean): void
  /** What could not be had of it, although it is there. */
  told?(words: string): void
}

const MOST_FAILURES = 4
const FAILED = t`The server could not take this file. It is still chosen here: try again, or tell an administrator.`
/** How often a file is sent again from where the server says, when it has lost what had come of it. */
const ANEW = 3
const PAUSES = [500, 1000, 2000, 4000, 8000]

/** Wait a while, or until the connection is said to be back. */
function pause(milliseconds: number, signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const ended = new AbortController()
    const done = () => {
      ended.abort()
      window.clearTimeout(timer)
      resolve()
    }
    const timer = window.setTimeout(done, milliseconds)
    window.addEventListener("online", done, { signal: ended.signal })
    const cancelled = () => {
      ended.abort()
      window.clearTimeout(timer)
      reject(new DOMException("Cancelled", "AbortError"))
    }
    signal.addEventListener("abort", cancelled, { signal: ended.signal })
  })
}

/**
 * Send a file to the media library, in pieces. When the connection is lost it goes on from where it was, and so does
 * the same file chosen again after the window was closed.
 */
export async function upload(file: File, way: Way, { folder, replaces }: Destination = {}): Promise<ItemOut> {
  const { signal } = way
  const quiet = { signal, progress: () => {} }
  const stamp = `${file.lastModified}`
  const begin = JSON.stringify({ name: file.name, size: file.size, stamp, folder, replaces })
  let failed = 0
  const patient = async <T>(act: () => Promise<T>): Promise<T> => {
    for (let tries = 0; ; tries++) {
      try {
        const result = await act()
        if (tries) way.waiting?.(false)
        return result
      } catch (error) {
        if (!(error instanceof Problem) || !error.away || error.status === 507) throw error
        // Who cannot be reached may come back; who fails again and again will go on failing.
        if (error.status >= 500 && error.status !== 503 && ++failed >= MOST_FAILURES)
          throw new Problem(error.status, { detail: FAILED })
        way.waiting?.(true)
        await pause(PAUSES[Math.min(tries, PAUSES.length - 1)] ?? 8000, signal)
      }
    }
  }
  const begun = JSON.parse(await patient(() => send("/api/uploads", begin, quiet))) as Schemas["UploadOut"]
  const address = `/api/uploads/${begun.id}`
  let received = begun.received
  const pieces = async () => {
    while (received < file.size) {
      const from = received
      const piece = file.slice(from, from + begun.piece)
      const progress = (share: number) => way.progress((from + share * piece.size) / file.size)
      received = await patient(async () => {
        try {
          const answer = await send(`${address}?start=${from}`, piece, { signal, progress }, "PUT")
          return (JSON.parse(answer) as Schemas["UploadOut"]).received
        } catch (error) {
          if (error instanceof Problem && error.status === 409) return error.body.received ?? 0
          throw error
        }
      })
    }
  }
  try {
    for (let turn = 1; ; turn++) {
      await pieces()
      try {
        return JSON.parse(await patient(() => send(address, "", quiet))) as ItemOut
      } catch (error) {
        if (!(error instanceof Problem) || error.status !== 409 || turn === ANEW) throw error
        received = error.body.received ?? 0
      }
    }
  } catch (error) {
    if ((error as Error).name === "AbortError")
      void send(address, "", { ...quiet, signal: new AbortController().signal }, "DELETE").catch(() => {})
    throw error
  }
}

/** Have the server add what is at an address, or a picture of the commons. */
async function added(address: string, body: object, { signal, progress, told }: Way): Promise<ItemOut> {
  const answer = await send(address, JSON.stringify(body), {
    signal,
    progress: () => {},
    lines: (lines) => {
      const last = JSON.parse(lines.at(-1) ?? "{}")
      if (last.of) progress(last.received / last.of)
    },
  })
  const end = JSON.parse(answer.trimEnd().split("\n").at(-1) ?? "{}")
  if (end.problem) throw new Problem(422, { detail: end.problem })
  if (!end.item)
    throw new Problem(422, { detail: t`The connection broke off. Nothing was added; try again.` })
  if (end.told) told?.(end.told)
  return end.item as ItemOut
}

export const fetchItem = (address: string, way: Way, { folder }: Destination = {}) =>
  added("/api/library/fetch", { address, folder }, way)

export const takeFromCommons = (id: string, way: Way, { folder }: Destination = {}) =>
  added("/api/commons/take", { id, folder }, way)

/** Have a file read as text for the page. `whole`: the page is empty and takes the text's title too. */
export async function readFile(file: File, place: Landing, whole: boolean, way: OnItsWay) {
  const form = new FormData()
  form.append("file", file)
  form.append("container", place.container)
  form.append("under", String(place.under))
  for (const anchor of place.taken) form.append("taken", anchor)
  form.append("whole", String(whole))
  return JSON.parse(await send("/api/read", form, way)) as Arrived
}

/** The cues in a file of captions; nothing is kept by that. */
export async function readCaptions(file: File) {
  const form = new FormData()
  form.append("file", file)
  const way = { signal: new AbortController().signal, progress: () => {} }
  return JSON.parse(await send("/api/cues/read", form, way)) as Schemas["CuesRead"]
}

/** Make redirects of a CSV file. */
export async function readRedirects(site: number, file: File) {
  const form = new FormData()
  form.append("file", file)
  const way = { signal: new AbortController().signal, progress: () => {} }
  return JSON.parse(await send(`/api/sites/${site}/redirects.csv`, form, way)) as Schemas["RedirectsRead"]
}

/** A file that became a page, and what was done on the way. */
export interface ImportedPage {
  id: number
  title: string
  path: string
  told: Told
}

export interface ImportEnd {
  pages: ImportedPage[]
  refused: { name: string; why: string }[]
}

interface ImportWay {
  signal: AbortSignal
  sent(share: number): void
  step(step: { done: number; of: number; name: string }): void
}

/** Make pages of files. `parent` is the page they stand under, null for the top of the site. */
export async function importPages(site: number, parent: number | null, files: File[], way: ImportWay) {
  const form = new FormData()
  for (const file of files) {
    form.append("files", file)
    form.append("paths", file.webkitRelativePath || file.name)
  }
  if (parent !== null) form.append("parent", String(parent))
  const answer = await send(`/api/sites/${site}/import`, form, {
    signal: way.signal,
    progress: way.sent,
    lines: (lines) => {
      const last = JSON.parse(lines.at(-1) ?? "{}")
      if ("done" in last) way.step(last)
    },
  })
  const end = JSON.parse(answer.trimEnd().split("\n").at(-1) ?? "{}")
  if (end.problem) throw new Problem(422, { detail: end.problem })
  if (!end.pages) throw new Problem(0, { detail: t`The connection broke off. No page was made; try again.` })
  return end as ImportEnd
}

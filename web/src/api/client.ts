/** Calls to the server. Every failure becomes a `Problem` with a sentence for the author. */
import createClient, { type Middleware } from "openapi-fetch"
import type { components, paths } from "./types.generated"

type Schemas = components["schemas"]
export type Session = Schemas["Session"]
export type SiteOut = Schemas["SiteOut"]
export type Contents = Schemas["Contents"]
export type ContentsEntry = Schemas["ContentsEntry"]
export type PageOut = Schemas["PageOut"]
export type PageRef = Schemas["PageRef"]
export type ItemOut = Schemas["ItemOut"]
export type LibraryEntry = Schemas["LibraryEntry"]
export type ItemChange = Schemas["ItemChange"]
export type Finding = Schemas["FindingOut"]
export type Repair = Schemas["RepairOut"]
export type Sign = Schemas["SignOut"]
export type Heading = Schemas["HeadingOut"]
export type Version = Schemas["VersionOut"]
export type Part = Schemas["PartOut"]
export type Measure = Schemas["MeasureOut"]
export type LiveOut = Schemas["LiveOut"]
export type Arrived = Schemas["ArrivedOut"]
export type Told = Schemas["Told"]
export type Place = Schemas["Place"]
export type SourceNote = Schemas["SourceReadOut"]["notes"][number]
export type WorkingCopy = Schemas["WorkingCopyOut"]

/** What went wrong. `status` is 0 when the server was not reached. */
export class Problem extends Error {
  status: number
  body: Partial<Schemas["Problem"]>

  constructor(status: number, body: Partial<Schemas["Problem"]>) {
    super(body.detail ?? "The server cannot be reached.")
    this.status = status
    this.body = body
  }

  /** Whether trying again later may help: the server or its database is away. */
  get away(): boolean {
    return this.status === 0 || this.status >= 500
  }
}

export function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? ""
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

/** How a form with files is on its way. */
interface OnItsWay {
  signal: AbortSignal
  /** How much of it has gone, from 0 to 1. */
  progress(share: number): void
  /** The lines of the answer that have come, each time there is one more. */
  lines?(lines: string[]): void
}

/** Send a form with files; gives the text of the answer. Throws a `Problem`, or an AbortError when cancelled. */
function send(address: string, form: FormData, { signal, progress, lines }: OnItsWay): Promise<string> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    request.open("POST", address)
    request.setRequestHeader("X-CSRFToken", csrfToken())
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
    signal.addEventListener("abort", () => request.abort())
    request.send(form)
  })
}

function problemIn(text: string): Partial<Schemas["Problem"]> {
  try {
    return JSON.parse(text)
  } catch {
    return { detail: "The server could not answer. Try again." }
  }
}

/** Send a file to the media library. */
export async function upload(file: File, progress: (share: number) => void, signal: AbortSignal) {
  const form = new FormData()
  form.append("file", file)
  return JSON.parse(await send("/api/items", form, { signal, progress })) as ItemOut
}

/** Have a file read as text for the page. `whole`: the page is empty and takes the text's title too. */
export async function readFile(file: File, place: Place, whole: boolean, way: OnItsWay) {
  const form = new FormData()
  form.append("file", file)
  form.append("container", place.container)
  form.append("under", String(place.under))
  for (const anchor of place.taken) form.append("taken", anchor)
  form.append("whole", String(whole))
  return JSON.parse(await send("/api/read", form, way)) as Arrived
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
  if (!end.pages) throw new Problem(0, { detail: "The connection broke off. No page was made; try again." })
  return end as ImportEnd
}

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
export type Finding = Schemas["FindingOut"]
export type Repair = Schemas["RepairOut"]
export type Sign = Schemas["SignOut"]
export type Heading = Schemas["HeadingOut"]
export type Version = Schemas["VersionOut"]
export type Part = Schemas["PartOut"]
export type Measure = Schemas["MeasureOut"]
export type LiveOut = Schemas["LiveOut"]
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

/** Send a file, telling how much has gone. Throws a `Problem`, or an AbortError when it is cancelled. */
export function upload(file: File, progress: (share: number) => void, signal: AbortSignal): Promise<ItemOut> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    const form = new FormData()
    form.append("file", file)
    request.open("POST", "/api/items")
    request.setRequestHeader("X-CSRFToken", csrfToken())
    request.responseType = "json"
    request.upload.onprogress = (event) => progress(event.total ? event.loaded / event.total : 0)
    request.onload = () => {
      if (request.status < 300) resolve(request.response)
      else reject(new Problem(request.status, request.response ?? {}))
    }
    request.onerror = () => reject(new Problem(0, {}))
    request.onabort = () => reject(new DOMException("Cancelled", "AbortError"))
    signal.addEventListener("abort", () => request.abort())
    request.send(form)
  })
}

import { t } from "@lingui/core/macro"
import { useRef, useState } from "react"
import {
  type Destination,
  fetchItem,
  type ItemOut,
  Problem,
  takeFromCommons,
  upload,
  type Way,
} from "../api/client"
import { FILES } from "../document/rules"
import { isOver, type Upload } from "./UploadList"
import { useClosing } from "./useClosing"

let count = 0
/** How many files are on their way at once; the rest wait their turn. */
const ABREAST = 3

/** Turns that are taken in the order in which they were asked for. */
class Turns {
  private free = ABREAST
  private waiting: (() => void)[] = []

  /** Wait for a turn. Raises what the signal was aborted with. */
  async take(signal: AbortSignal) {
    signal.throwIfAborted()
    if (this.free > 0) {
      this.free -= 1
      return
    }
    await new Promise<void>((go, giveUp) => {
      this.waiting.push(go)
      signal.addEventListener(
        "abort",
        () => {
          // A turn that has come already is given up with `release` by whoever has it.
          const at = this.waiting.indexOf(go)
          if (at < 0) return
          this.waiting.splice(at, 1)
          giveUp(signal.reason)
        },
        { once: true },
      )
    })
  }

  release() {
    const next = this.waiting.shift()
    if (next) next()
    else this.free += 1
  }
}

export interface Limits {
  picture: number
  document: number
  film: number
  /** What a film of a page is to have at most. */
  pageFilm?: number
}

const DOCUMENT = /\.(pdf|docx|odt|xlsx|ods)$/i

/** Whether a file is a film or a sound, as far as its name and kind tell before it is sent. */
export const isPlayed = ({ name, type }: File) =>
  /^(video|audio)\//.test(type) || FILES.films.some((each) => name.toLowerCase().endsWith(each))

/** Files on their way into the library: a list to be shown, and the sending itself. */
export function useSending(limits: Limits) {
  const [list, setList] = useState<Upload[]>([])
  const turns = useRef(new Turns())
  useClosing(list.some((each) => !isOver(each)))
  const change = (id: number, part: Partial<Upload>) =>
    setList((all) => all.map((each) => (each.id === id ? { ...each, ...part } : each)))
  const dismiss = (id: number) => setList((all) => all.filter((each) => each.id !== id))
  /** Put a file on the list; gives its number there. */
  const enter = (
    name: string,
    rest: Pick<Upload, "choices" | "cancel"> & Partial<Pick<Upload, "problem" | "told" | "done" | "waits">>,
  ) => {
    count += 1
    const id = count
    setList((all) => [...all, { id, name, share: 0, problem: "", told: "", waits: false, ...rest }])
    return id
  }
  /**
   * Do what brings an item in, told on the list. Gives the item, or null when it was cancelled or refused. Where the
   * server could not take it, it stays on the list and can be tried again.
   */
  const run = async (name: string, job: (way: Way) => Promise<ItemOut>): Promise<ItemOut | null> => {
    let stop = new AbortController()
    const id = enter(name, { choices: [], cancel: () => stop.abort(), waits: true })
    let lacks = ""
    const way = (): Way => ({
      told: (words) => {
        lacks = words
      },
      signal: stop.signal,
      progress: (share) => change(id, { share }),
      waiting: (waits) => change(id, { told: waits ? t`The connection is lost; it goes on by itself.` : "" }),
    })
    const asked = (problem: string) =>
      new Promise<boolean>((decide) => {
        stop = new AbortController()
        stop.signal.addEventListener("abort", () => decide(false))
        change(id, { problem, choices: [{ label: t`Try again`, take: () => decide(true) }] })
      })
    for (;;) {
      try {
        const item = await inTurn(id, stop.signal, () => job(way()))
        if (item.is_new && lacks) change(id, { share: 1, told: lacks, done: true })
        else if (item.is_new) dismiss(id)
        else change(id, { share: 1, told: t`The library has this already, as “${item.title}”.`, done: true })
        return item
      } catch (error) {
        const { name: sort, message } = error as Error
        if (sort !== "AbortError" && !(error instanceof Problem && error.away)) {
          change(id, { problem: message })
          return null
        }
        if (sort === "AbortError" || !(await asked(message))) {
          dismiss(id)
          return null
        }
        change(id, { problem: "", choices: [], told: "", waits: true })
      }
    }
  }
  const inTurn = async <T>(id: number, signal: AbortSignal, job: () => Promise<T>): Promise<T> => {
    await turns.current.take(signal)
    change(id, { waits: false })
    try {
      return await job()
    } finally {
      turns.current.release()
    }
  }
  const send = (file: File, to: Destination = {}): Promise<ItemOut | null> => {
    const limit = isPlayed(file) ? limits.film : DOCUMENT.test(file.name) ? limits.document : limits.picture
    if (file.size <= limit) return run(file.name, (way) => upload(file, way, to))
    const megabytes = Math.round(limit / 1024 / 1024)
    const problem = t`It is larger than ${megabytes} MB, the most that is taken. Save it smaller.`
    enter(file.name, { problem, choices: [], cancel: () => {} })
    return Promise.resolve(null)
  }
  /** Send many files; `taken` is told of each item as it is there. */
  const sendAll = async (files: readonly File[], taken: (item: ItemOut) => void, to: Destination = {}) => {
    const one = async (file: File) => {
      const item = await send(file, to)
      if (item) taken(item)
    }
    await Promise.all(files.map(one))
  }
  const fetchFrom = (address: string, to: Destination = {}) =>
    run(address, (way) => fetchItem(address, way, to))
  const take = (id: string, title: string, to: Destination = {}) =>
    run(title, (way) => takeFromCommons(id, way, to))
  return { list, dismiss, enter, send, sendAll, fetchFrom, take }
}

import { t } from "@lingui/core/macro"
import { useState } from "react"
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
import type { Upload } from "./UploadList"

let count = 0
/** How many files are on their way at once; the rest wait their turn. */
const ABREAST = 3

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
  const change = (id: number, part: Partial<Upload>) =>
    setList((all) => all.map((each) => (each.id === id ? { ...each, ...part } : each)))
  const dismiss = (id: number) => setList((all) => all.filter((each) => each.id !== id))
  /** Put a file on the list; gives its number there. */
  const enter = (
    name: string,
    rest: Pick<Upload, "choices" | "cancel"> & { told?: string; done?: boolean },
  ) => {
    count += 1
    const id = count
    setList((all) => [...all, { id, name, share: 0, problem: "", told: "", ...rest }])
    return id
  }
  /**
   * Do what brings an item in, told on the list. Gives the item, or null when it was cancelled or refused. Where the
   * server could not take it, it stays on the list and can be tried again.
   */
  const run = async (name: string, job: (way: Way) => Promise<ItemOut>): Promise<ItemOut | null> => {
    let stop = new AbortController()
    const id = enter(name, { choices: [], cancel: () => stop.abort() })
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
        const item = await job(way())
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
        change(id, { problem: "", choices: [], told: "" })
      }
    }
  }
  const send = (file: File, to: Destination = {}): Promise<ItemOut | null> => {
    const limit = isPlayed(file) ? limits.film : DOCUMENT.test(file.name) ? limits.document : limits.picture
    return run(file.name, (way) => {
      const megabytes = Math.round(limit / 1024 / 1024)
      if (file.size > limit)
        return Promise.reject(
          new Error(t`It is larger than ${megabytes} MB, the most that is taken. Save it smaller.`),
        )
      return upload(file, way, to)
    })
  }
  /** Send many files, a few at a time; `taken` is told of each item as it is there. */
  const sendAll = async (files: readonly File[], taken: (item: ItemOut) => void, to: Destination = {}) => {
    const waiting = [...files]
    const one = async () => {
      for (let file = waiting.shift(); file; file = waiting.shift()) {
        const item = await send(file, to)
        if (item) taken(item)
      }
    }
    await Promise.all(Array.from({ length: ABREAST }, one))
  }
  const fetchFrom = (address: string, to: Destination = {}) =>
    run(address, (way) => fetchItem(address, way, to))
  const take = (id: string, title: string, to: Destination = {}) =>
    run(title, (way) => takeFromCommons(id, way, to))
  return { list, dismiss, enter, send, sendAll, fetchFrom, take }
}

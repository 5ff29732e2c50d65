/**
 * A site's pages as far as they are wanted: of a small site all, of a very large one the uppermost, and the branches
 * that somebody has unfolded. What is unfolded, and what folded, is remembered on this machine.
 */
import { useQueries } from "@tanstack/react-query"
import { useState } from "react"
import { contentsAsked } from "../../api/answers"
import type { Contents, ContentsEntry } from "../../api/client"

/** What was asked for: pages below one, or at the top, from the start-th on. */
interface Asked {
  below: number | null
  start: number
}

/** A line of the tree: a page, or in place of pages that are not here what can be done about it. */
export type Row =
  | {
      entry: ContentsEntry
      depth: number
      place: number
      among: number
      folded: boolean
    }
  | { under: number | null; depth: number; left: number; state: "more" | "coming" | "failed" }

export interface Branches {
  rows: Row[]
  pages: ContentsEntry[]
  fold(entry: ContentsEntry, folded: boolean): void
  /** Ask for what is not here yet below a page, or at the top. */
  more(under: number | null): void
}

const REMEMBERED = 50

function useRemembered(key: string) {
  const [numbers, set] = useState<readonly number[]>(
    () => JSON.parse(localStorage.getItem(key) ?? "[]") as number[],
  )
  const change = (number: number, there: boolean) => {
    const next = [...numbers.filter((each) => each !== number), ...(there ? [number] : [])]
    localStorage.setItem(key, JSON.stringify(next))
    set(next)
  }
  return [numbers, change] as const
}

export function useBranches(contents: Contents): Branches {
  const site = contents.site.id
  const [folded, setFolded] = useRemembered(`folded:${site}`)
  const [unfolded, setUnfolded] = useRemembered(`unfolded:${site}`)
  const [asked, setAsked] = useState<readonly Asked[]>(() =>
    unfolded.slice(-REMEMBERED).map((below) => ({ below, start: 0 })),
  )
  const answers = useQueries({ queries: asked.map(({ below, start }) => contentsAsked(site, below, start)) })

  const pages = new Map(contents.pages.map((page) => [page.id, page]))
  for (const { data } of answers) for (const page of data?.pages ?? []) pages.set(page.id, page)
  const below = new Map<number | null, ContentsEntry[]>()
  for (const page of pages.values()) {
    const siblings = below.get(page.parent)
    if (siblings) siblings.push(page)
    else below.set(page.parent, [page])
  }
  const state = (under: number | null) => {
    const last = answers[asked.findLastIndex((each) => each.below === under)]
    return last?.isError ? "failed" : last?.isPending ? "coming" : "more"
  }
  const rows: Row[] = []
  const add = (under: number | null, among: number, depth: number) => {
    const here = below.get(under) ?? []
    here.forEach((entry, index) => {
      const shut =
        entry.below > 0 &&
        (folded.includes(entry.id) || !(below.has(entry.id) || asked.some((each) => each.below === entry.id)))
      rows.push({ entry, depth, place: index + 1, among, folded: shut })
      if (entry.below > 0 && !shut) add(entry.id, entry.below, depth + 1)
    })
    if (here.length < among) rows.push({ under, depth, left: among - here.length, state: state(under) })
  }
  add(null, contents.among, 0)

  const more = (under: number | null) => {
    const place = asked.findLastIndex((each) => each.below === under)
    if (place >= 0 && answers[place]?.isError) void answers[place].refetch()
    else if (place < 0 || !answers[place]?.isPending)
      setAsked([...asked, { below: under, start: below.get(under)?.length ?? 0 }])
  }
  const fold = (entry: ContentsEntry, shut: boolean) => {
    setFolded(entry.id, shut)
    if (shut) setUnfolded(entry.id, false)
    else if (!below.has(entry.id)) {
      setUnfolded(entry.id, true)
      if (!asked.some((each) => each.below === entry.id)) setAsked([...asked, { below: entry.id, start: 0 }])
    }
  }
  return { rows, pages: [...pages.values()], fold, more }
}

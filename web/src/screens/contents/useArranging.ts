/** What is done to pages from the Contents: what is chosen, what is about to be done, what was done, with the way back. */
import { t } from "@lingui/core/macro"
import { useQuery, useQueryClient } from "@tanstack/react-query"
import { useState } from "react"
import { after, answers, forget } from "../../api/answers"
import { ask, type Consequences, client, type TreeAct } from "../../api/client"
import { say } from "../../look/heard"
import type { Target } from "./slots"

/** What stands beside the tree. */
export type Mode =
  | { mode: "facts" }
  | { mode: "new"; target: Target }
  | { mode: "moving"; pages: number[]; target: Target }
  | { mode: "copying"; page: number }
  | { mode: "binning"; pages: number[] }
  | { mode: "withdrawing"; page: number }
  | { mode: "bin" }
  | { mode: "import" }

export interface Arranging {
  mode: Mode
  setMode(mode: Mode): void
  ticked: ReadonlySet<number>
  tick(pages: readonly number[], on: boolean): void
  told: { sentence: string; undo: number | null } | null
  wrong: string
  /** Do something, and say what was done; gives what the server answered, or null where it could not be. */
  run<Answer>(act: () => Promise<Answer>, done?: (answer: Answer) => TreeAct | string): Promise<Answer | null>
  undo(): Promise<void>
  /** Put pages where they are to stand. */
  place(pages: readonly number[], target: Target): Promise<void>
}

export function useArranging(site: number): Arranging {
  const queries = useQueryClient()
  const [mode, setMode] = useState<Mode>({ mode: "facts" })
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set())
  const [told, setTold] = useState<Arranging["told"]>(null)
  const [wrong, setWrong] = useState("")
  const last = useQuery({
    queryKey: answers.lastAct(site),
    queryFn: () => ask(client.GET("/api/sites/{site_id}/last-act", { params: { path: { site_id: site } } })),
    enabled: site > 0,
  })
  const run: Arranging["run"] = async (act, done) => {
    try {
      const answer = await act()
      setWrong("")
      const what = done?.(answer)
      if (typeof what === "string") setTold({ sentence: what, undo: null })
      else if (what) setTold({ sentence: `${what.sentence}.`, undo: what.undone ? null : what.id })
      await forget(queries, after.tree)
      return answer
    } catch (error) {
      setWrong((error as Error).message)
      return null
    }
  }
  const place = async (pages: readonly number[], target: Target) => {
    const body = { pages: [...pages], ...target }
    const done = await run(
      () => ask(client.POST("/api/tree/place", { body })),
      (act) => act,
    )
    if (done) setMode({ mode: "facts" })
  }
  return {
    place,
    mode,
    setMode: (next) => {
      setWrong("")
      setMode(next)
    },
    ticked,
    tick: (pages, on) => {
      const next = new Set(ticked)
      for (const page of pages) {
        if (on) next.add(page)
        else next.delete(page)
      }
      setTicked(next)
    },
    told,
    wrong,
    run,
    undo: async () => {
      const act = told?.undo ?? (await last.refetch()).data?.act?.id
      if (!act) {
        say(t`Nothing to undo here`)
        return
      }
      const params = { path: { act_id: act } }
      await run(
        () => ask(client.POST("/api/tree/acts/{act_id}/undo", { params })),
        (undone) => t`Undone: ${undone.sentence}.`,
      )
    },
  }
}

interface Asked {
  pages: number[]
  act: "place" | "slug" | "bin" | "withdraw"
  place?: Target
  slug?: string | null
}

/** What would follow from an act. */
export function useConsequences(asked: Asked | null): { told: Consequences | null; wrong: string } {
  const found = useQuery({
    queryKey: answers.consequences(asked),
    queryFn: () => ask(client.POST("/api/tree/consequences", { body: asked as Asked })),
    enabled: asked !== null,
    retry: false,
    placeholderData: (before) => before,
    staleTime: 0,
  })
  return { told: asked ? (found.data ?? null) : null, wrong: found.error?.message ?? "" }
}

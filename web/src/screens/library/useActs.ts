/** What was done to items and folders, said in a line, with the way back. */
import { t } from "@lingui/core/macro"
import { useQueryClient } from "@tanstack/react-query"
import { useCallback, useState } from "react"
import { after, forget } from "../../api/answers"
import { type ActOut, ask, client, type ItemsAct } from "../../api/client"
import { say } from "../../look/heard"

export interface Acts {
  told: { sentence: string; undo: number | null } | null
  wrong: string
  /** Do something, and say what was done; gives whether it could be. */
  run(act: () => Promise<ActOut | null>): Promise<boolean>
  items(act: ItemsAct): Promise<boolean>
  undo(): Promise<void>
  say(sentence: string): void
}

export function useActs(): Acts {
  const queries = useQueryClient()
  const [told, setTold] = useState<Acts["told"]>(null)
  const [wrong, setWrong] = useState("")
  const fresh = useCallback(() => void forget(queries, after.library), [queries])
  const run: Acts["run"] = async (act) => {
    try {
      const done = await act()
      setWrong("")
      if (done) setTold({ sentence: `${done.sentence}.`, undo: done.changed ? done.id : null })
      fresh()
      return true
    } catch (error) {
      setWrong((error as Error).message)
      return false
    }
  }
  return {
    told,
    wrong,
    run,
    items: (act) => run(() => ask(client.POST("/api/library/act", { body: act }))),
    undo: async () => {
      const id = told?.undo
      if (!id) {
        say(t`Nothing to undo here`)
        return
      }
      await run(async () => {
        const params = { path: { act_id: id } }
        return { ...(await ask(client.POST("/api/acts/{act_id}/undo", { params }))), changed: 0 }
      })
    },
    say: (sentence) => {
      setTold({ sentence, undo: null })
      fresh()
    },
  }
}

/** An item of the library with all that is told of it; asked for again while the server works on it. */
import { useQuery, useQueryClient } from "@tanstack/react-query"
import { useEffect } from "react"
import { after, answers, lookAgain } from "../../api/answers"
import { ask, client, type ItemEntry } from "../../api/client"

export function useEntry(item: number | undefined): ItemEntry | undefined {
  const queries = useQueryClient()
  const answer = useQuery({
    queryKey: answers.entry(item),
    queryFn: () =>
      ask(client.GET("/api/items/{item_id}/entry", { params: { path: { item_id: item ?? 0 } } })),
    enabled: item !== undefined,
  })
  const entry = item === undefined ? undefined : answer.data
  const making = entry !== undefined && !entry.item.ready && !entry.item.problem
  useEffect(() => {
    if (!making) return
    const timer = window.setInterval(() => lookAgain(queries, after.making), 2000)
    return () => window.clearInterval(timer)
  }, [making, queries])
  return entry
}

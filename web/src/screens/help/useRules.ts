import { useQuery } from "@tanstack/react-query"
import { answers } from "../../api/answers"
import { ask, client } from "../../api/client"

/** Every check with its page of help; they do not change while the program runs. */
export function useRules() {
  return useQuery({
    queryKey: answers.checks,
    queryFn: () => ask(client.GET("/api/checks")),
    staleTime: Number.POSITIVE_INFINITY,
  })
}

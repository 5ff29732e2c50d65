import { useQuery } from "@tanstack/react-query"
import { answers } from "../api/answers"
import { ask, client, type Session } from "../api/client"

const SOON = 5000

/** Who is signed in; asked once, again after signing in or out, and every few seconds while nobody answers. */
export function useSession() {
  return useQuery<Session, Error>({
    queryKey: answers.session,
    queryFn: () => ask(client.GET("/api/session")),
    refetchInterval: (query) => (query.state.error ? SOON : false),
  })
}

import { useQuery } from "@tanstack/react-query"
import { answers } from "../api/answers"
import { ask, client, type Session } from "../api/client"

/** Who is signed in; asked once, and again after signing in or out. */
export function useSession() {
  return useQuery<Session, Error>({
    queryKey: answers.session,
    queryFn: () => ask(client.GET("/api/session")),
  })
}

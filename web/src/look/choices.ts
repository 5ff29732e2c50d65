/** How a person likes the interface: kept with their account, so that it is so on every machine. */
import { useQueryClient } from "@tanstack/react-query"
import { answers } from "../api/answers"
import { ask, type Choices, client, type Session } from "../api/client"
import { useSession } from "./useSession"

/**
 * One choice, and how to make it. It holds at once; where the server is away, for this window alone, and nothing is
 * said of it.
 */
export function useChoice<Name extends keyof Choices>(
  name: Name,
): [Choices[Name], (value: Choices[Name]) => void] {
  const session = useSession()
  const queries = useQueryClient()
  const choose = (value: Choices[Name]) => {
    queries.setQueryData<Session>(answers.session, (now) =>
      now?.person
        ? { ...now, person: { ...now.person, choices: { ...now.person.choices, [name]: value } } }
        : now,
    )
    void ask(client.PATCH("/api/account/choices", { body: { [name]: value } })).catch(() => undefined)
  }
  return [session.data?.person?.choices[name], choose]
}

import { useQuery } from "@tanstack/react-query"
import { answers } from "../../api/answers"
import { ask, client, type PageOut } from "../../api/client"

/** The address of a page as it is by now: until the first publishing it follows the title. */
export function useAddress(page: PageOut): string {
  const facts = useQuery({
    queryKey: answers.facts(page.id),
    queryFn: () => ask(client.GET("/api/pages/{page_id}/facts", { params: { path: { page_id: page.id } } })),
    staleTime: 0,
  })
  return facts.data?.address ?? page.address
}

/** The items that are asked for: how many there are, and those parts of the list that have come into view. */
import { keepPreviousData, useQueries, useQuery } from "@tanstack/react-query"
import { useMemo } from "react"
import { answers } from "../../api/answers"
import { ask, client, type LibraryEntry } from "../../api/client"
import type { paths } from "../../api/types.generated"

export type Asked = NonNullable<paths["/api/library"]["get"]["parameters"]["query"]>

/** How many items the server gives at once. */
export const PART = 60

export interface Items {
  total: number
  /** Whether nothing is known yet. */
  pending: boolean
  error: Error | null
  /** Whether this is still the list that was asked for before. */
  isFormer: boolean
  at(index: number): LibraryEntry | undefined
  /** Where an item is in the parts that are there; -1 where it is in none. */
  placeOf(item: number): number
  again(): void
}

/** `parts` are the numbers of those parts of the list that are wanted. */
export function useItems(asked: Asked, parts: readonly number[]): Items {
  const counted = useQuery({
    queryKey: answers.count(asked),
    queryFn: () => ask(client.GET("/api/library/count", { params: { query: asked } })),
    placeholderData: keepPreviousData,
  })
  const wanted = parts.includes(0) ? parts : [0, ...parts]
  const found = useQueries({
    queries: wanted.map((part) => ({
      queryKey: answers.part(asked, part),
      queryFn: () => ask(client.GET("/api/library", { params: { query: { ...asked, skip: part * PART } } })),
      placeholderData: keepPreviousData,
    })),
  })
  const byPart = useMemo(
    () => new Map(wanted.map((part, index) => [part, found[index]?.data?.entries ?? []])),
    [wanted, found],
  )
  const first = found[0]
  const there = first?.data?.entries.length ?? 0
  const total = first?.data?.more === false ? there : Math.max(counted.data?.total ?? 0, there)
  return {
    total,
    pending: first?.isPending ?? true,
    error: first?.error ?? null,
    isFormer: first?.isPlaceholderData ?? false,
    at: (index) => byPart.get(Math.floor(index / PART))?.[index % PART],
    placeOf: (wanted) => {
      for (const [part, entries] of byPart) {
        const index = entries.findIndex(({ item }) => item.id === wanted)
        if (index >= 0) return part * PART + index
      }
      return -1
    },
    again: () => void first?.refetch(),
  }
}

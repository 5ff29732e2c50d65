/** What the Shelf offers for the words in its field. */
import { useQuery } from "@tanstack/react-query"
import { useEffect, useState } from "react"
import { ask, client, type ItemOut, type PageRef } from "../../api/client"
import { isReference } from "../../editor/schema"

export type Offer =
  | { kind: "picture"; item: ItemOut }
  | { kind: "page"; page: PageRef; href: string; name: string }
  | { kind: "address"; href: string; name: string }
  | { kind: "block"; type: "divider" | "preformatted"; name: string; says: string }

/** What has no place in the library and is brought in all the same. */
const BLOCKS: Extract<Offer, { kind: "block" }>[] = [
  { kind: "block", type: "divider", name: "Divider", says: "a line where the subject changes" },
  {
    kind: "block",
    type: "preformatted",
    name: "Preformatted text",
    says: "code, or lines that stand as they are",
  },
]

export interface Found {
  pictures: ItemOut[]
  pages: PageRef[]
  problem: string
  /** Whether this is the answer to the words that now stand in the field. */
  settled: boolean
}

/** Ask the server for pictures and pages, a moment after the last key. */
export function useFound(query: string, wanted: boolean): Found {
  const [asked, setAsked] = useState(query)
  useEffect(() => {
    const timer = window.setTimeout(() => setAsked(query), 120)
    return () => window.clearTimeout(timer)
  }, [query])
  const answer = useQuery({
    queryKey: ["shelf", asked],
    queryFn: () => ask(client.GET("/api/shelf", { params: { query: { q: asked } } })),
    enabled: wanted,
    placeholderData: (before) => before,
  })
  return {
    pictures: answer.data?.pictures ?? [],
    pages: answer.data?.pages ?? [],
    problem: answer.error?.message ?? "",
    settled: asked === query && !answer.isPlaceholderData && !answer.isPending,
  }
}

/** An address typed by hand, with what is missing put before it; null when it is none. */
export function addressFrom(typed: string): string | null {
  const words = typed.trim()
  const mended = [
    [/^[^\s@/:]+@[^\s@]+\.[^\s@]+$/, `mailto:${words}`],
    [/^\+?[0-9][0-9() ./-]{4,}$/, `tel:${words.replace(/[^+0-9]+/g, "-").replace(/-$/, "")}`],
    [/^(https?:\/\/|mailto:|tel:)/i, words.replace(/^[a-z]+:/i, (scheme) => scheme.toLowerCase())],
    [/^[^\s/:]+\.[a-z]{2,}(:\d+)?([/?#]\S*)?$/i, `https://${words}`],
  ] as const
  for (const [form, address] of mended) {
    if (form.test(words)) return isReference(encodeSpaces(address)) ? encodeSpaces(address) : null
  }
  return null
}

const encodeSpaces = (address: string) => address.replaceAll(" ", "%20")

export function offersFor(mode: "bring" | "link", query: string, found: Found): Offer[] {
  const address = addressFrom(query)
  const addresses: Offer[] = address ? [{ kind: "address", href: address, name: query.trim() }] : []
  const pictures: Offer[] = mode === "link" ? [] : found.pictures.map((item) => ({ kind: "picture", item }))
  const pages: Offer[] = found.pages.map((page) => ({
    kind: "page",
    page,
    href: `page:${page.id}`,
    name: page.title,
  }))
  const words = query.trim().toLowerCase()
  const blocks =
    words && mode === "bring"
      ? BLOCKS.filter((block) => `${block.name} ${block.says}`.toLowerCase().includes(words))
      : []
  return [...addresses, ...blocks, ...pictures, ...pages]
}

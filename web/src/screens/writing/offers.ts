/** What the Shelf offers for the words in its field. */
import { useQueries, useQuery } from "@tanstack/react-query"
import { useEffect, useState } from "react"
import { answers, contentsAsked, sitesAsked } from "../../api/answers"
import {
  ask,
  type CommonsPicture,
  client,
  type Heading,
  type ItemOut,
  type PageRef,
  type Sign,
} from "../../api/client"
import { isReference } from "../../document/described"
import { shownChord } from "../../editor/chords"
import { BLOCKS, type BlockOffer } from "../../editor/kinds"
import type { Sheet } from "../../editor/sheet"
import { picked } from "../../look/picked"
import { useSession } from "../../look/useSession"
import { kilobytes } from "../../look/words"
import { ACTS, type AnyAct, keysOf, type OwnKeys } from "./bindings"
import { possible } from "./performing"
import { recentLinks } from "./recentLinks"

/** What is made on the page of what was taken along. */
export type Along = "downloads" | "gallery" | "slideshow"

export type Offer =
  | { kind: "picture"; item: ItemOut }
  | { kind: "film"; item: ItemOut }
  | { kind: "sound"; item: ItemOut }
  | { kind: "hosted"; item: ItemOut }
  | { kind: "animation"; item: ItemOut }
  | { kind: "post"; item: ItemOut }
  | { kind: "commons"; picture: CommonsPicture }
  | { kind: "fetch"; href: string; name: string }
  | { kind: "paper"; item: ItemOut }
  | { kind: "picked"; items: number[]; as: Along }
  | { kind: "document"; item: ItemOut; href: string; name: string }
  | { kind: "page"; page: PageRef; href: string; name: string; depth: number }
  | { kind: "heading"; href: string; name: string; level: number; anchor: string; here: boolean }
  | { kind: "address"; href: string; name: string }
  | { kind: "recent"; href: string; name: string }
  | { kind: "sign"; sign: Sign }
  | ActOffer
  | BlockOffer

export interface ActOffer {
  kind: "act"
  act: AnyAct
  name: string
  keys: string
  /** Whether it can be done where the caret is. */
  possible: boolean
}

export interface Found {
  pictures: ItemOut[]
  documents: ItemOut[]
  pages: PageRef[]
  signs: Sign[]
  commons: CommonsPicture[]
  problem: string
  /** Whether this is the answer to the words that now stand in the field. */
  settled: boolean
}

interface Wanted {
  /** Whether anything is asked for. */
  wanted: boolean
  /** Signs and pictures of the commons too: what can be brought in, but not linked to. */
  bring: boolean
  /** The site of the page being written. */
  site: number
}

/** Ask the server for what the words find, a moment after the last key. */
export function useFound(query: string, { wanted, bring, site }: Wanted): Found {
  const session = useSession()
  const [asked, setAsked] = useState(query)
  useEffect(() => {
    const timer = window.setTimeout(() => setAsked(query), 120)
    return () => window.clearTimeout(timer)
  }, [query])
  const answer = useQuery({
    queryKey: answers.found(site, asked),
    queryFn: () => ask(client.GET("/api/shelf", { params: { query: { q: asked, site } } })),
    enabled: wanted,
    placeholderData: (before) => before,
  })
  const signsAsked = wanted && bring && asked.trim() !== ""
  const commonsAsked = signsAsked && asked.trim().length > 2 && (session.data?.commons ?? false)
  const commons = useQuery({
    queryKey: answers.commons(asked),
    queryFn: () => ask(client.GET("/api/commons", { params: { query: { q: asked } } })),
    enabled: commonsAsked,
    staleTime: 60_000,
  })
  const signs = useQuery({
    queryKey: answers.signs(asked),
    queryFn: () => ask(client.GET("/api/signs", { params: { query: { q: asked } } })),
    enabled: signsAsked,
    staleTime: Number.POSITIVE_INFINITY,
  })
  return {
    pictures: answer.data?.pictures ?? [],
    documents: answer.data?.documents ?? [],
    pages: answer.data?.pages ?? [],
    signs: signsAsked ? (signs.data ?? []) : [],
    commons: commonsAsked ? (commons.data?.pictures ?? []) : [],
    problem: answer.error?.message ?? (commonsAsked ? commons.error?.message : "") ?? "",
    settled:
      asked === query && !answer.isPlaceholderData && !answer.isPending && !(signsAsked && signs.isPending),
  }
}

/** The headings of a page, as its readers have them. */
export function useHeadings(page: PageRef | null): Heading[] | null {
  const answer = useQuery({
    queryKey: answers.headings(page?.id),
    queryFn: () =>
      ask(client.GET("/api/pages/{page_id}/headings", { params: { path: { page_id: page?.id ?? 0 } } })),
    enabled: page !== null,
  })
  return page ? (answer.data ?? null) : null
}

/** The pages of every site, in the order of the Contents; of very large sites the uppermost, `left` says without how many
 * others. */
export function useTree(wanted: boolean): { tree: Offer[]; left: number } {
  const sites = useQuery({ ...sitesAsked, enabled: wanted })
  const trees = useQueries({
    queries: (sites.data ?? []).map((site) => ({ ...contentsAsked(site.id), enabled: wanted })),
  })
  if (!wanted) return { tree: [], left: 0 }
  const left = trees.reduce((sum, { data }) => sum + (data ? data.all - data.pages.length : 0), 0)
  const tree = trees.flatMap(({ data }) => {
    if (!data) return []
    const depths = new Map<number, number>()
    return data.pages.map((each): Offer => {
      const depth = each.parent === null ? 0 : (depths.get(each.parent) ?? 0) + 1
      depths.set(each.id, depth)
      const { id, title, path, state } = each
      const page = { id, title, path, state, site: data.site.name, address: data.site.origin + path }
      return { kind: "page", page, href: `page:${id}`, name: title, depth }
    })
  })
  return { tree, left }
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

/** Whether somebody has pasted the code that a host gives for a film, in place of its address. */
export const isCode = (words: string) => /^<\w[\s\S]*>$/.test(words.trim())

const encodeSpaces = (address: string) => address.replaceAll(" ", "%20")

/** A document's name as the words of a link: readers learn what they will get, and how much of it. */
export const nameOfDocument = ({ title, link_format, link_size }: ItemOut) =>
  link_format ? `${title} (${link_format}, ${kilobytes(link_size)})` : title

const holds = (words: string, text: string) =>
  words.split(/\s+/).every((word) => text.toLowerCase().includes(word))

interface Asked {
  mode: "bring" | "link"
  query: string
  found: Found
  /** The headings of the page being written. */
  here: Heading[]
  tree: Offer[]
  within: { page: PageRef; headings: Heading[] } | null
  /** What can be done that bears these words. */
  acts: ActOffer[]
}

const nameInShelf = (act: AnyAct) => ("inShelf" in act && act.inShelf) || act.name

/** What is shown on a page by itself, beside pictures. */
const PLAYED = ["film", "sound", "hosted", "animation", "post"] as const

/** How many acts are offered for a few letters that many begin with. */
const MOST_ACTS = 8

/** The acts in whose names, or in the words beside them, each typed word begins a word. */
export function doable(query: string, sheet: Sheet, own: OwnKeys = {}): ActOffer[] {
  const words = query.trim().toLowerCase().split(/\s+/).filter(Boolean)
  if (!words.length) return []
  const begins = (text: string) => {
    const parts = text.toLowerCase().split(/[^\p{L}\p{N}]+/u)
    return words.every((word) => parts.some((part) => part.startsWith(word)))
  }
  const writes = sheet.view.editable
  const fitting = ACTS.filter(
    (act) =>
      act.id !== "shelf" &&
      (writes || ("run" in act && !act.writes)) &&
      begins(`${nameInShelf(act)} ${act.also ?? ""}`),
  )
  const offered = fitting.map(
    (act): ActOffer => ({
      kind: "act",
      act,
      name: nameInShelf(act),
      keys: shownChord(keysOf(act, own)),
      possible: "run" in act || possible(act, sheet.state),
    }),
  )
  // What is done to a table is of no use outside of one.
  const useful = offered.filter(({ act, possible }) => possible || !/^(table|header)-/.test(act.id))
  const rank = ({ act, possible }: ActOffer) => (possible ? 0 : 2) + (begins(nameInShelf(act)) ? 0 : 1)
  return useful.sort((one, other) => rank(one) - rank(other)).slice(0, MOST_ACTS)
}

const headingOffer = (page: PageRef | null, { level, text, anchor }: Heading): Offer => ({
  kind: "heading",
  href: page ? `page:${page.id}#${anchor}` : `#${anchor}`,
  name: text,
  level,
  anchor,
  here: page === null,
})

export function offersFor({ mode, query, found, here, tree, within, acts }: Asked): Offer[] {
  const words = query.trim().toLowerCase()
  if (within) {
    const { page, headings } = within
    const whole: Offer = { kind: "page", page, href: `page:${page.id}`, name: page.title, depth: 0 }
    const fitting = headings.filter(({ text }) => !words || holds(words, text))
    return [...(words ? [] : [whole]), ...fitting.map((each) => headingOffer(page, each))]
  }
  const address = addressFrom(query)
  const addresses: Offer[] = address ? [{ kind: "address", href: address, name: query.trim() }] : []
  // What begins like HTML is the code that a host gives for a film.
  const wanted = address?.startsWith("http") ? address : isCode(query) ? query.trim() : null
  const fetched: Offer[] = wanted ? [{ kind: "fetch", href: wanted, name: query.trim() }] : []
  const pages: Offer[] = found.pages.map((page) => ({
    kind: "page",
    page,
    href: `page:${page.id}`,
    name: page.title,
    depth: 0,
  }))
  const documents: Offer[] = found.documents.map((item) => ({
    kind: "document",
    item,
    href: `item:${item.id}`,
    name: nameOfDocument(item),
  }))
  if (mode === "link") {
    const headings = here
      .filter(({ text }) => words && holds(words, text))
      .map((each) => headingOffer(null, each))
    if (!words) {
      if (tree.length) return tree
      const recent: Offer[] = recentLinks().map((each) => ({ kind: "recent", ...each }))
      return [...recent, ...here.map((each) => headingOffer(null, each)), ...documents]
    }
    return [...addresses, ...pages, ...headings, ...documents]
  }
  const pictures: Offer[] = found.pictures.map((item) => ({ kind: "picture", item }))
  const played = found.documents.flatMap((item): Offer[] =>
    PLAYED.some((kind) => kind === item.kind) ? [{ kind: item.kind as (typeof PLAYED)[number], item }] : [],
  )
  const linked = documents.filter((offer) => "item" in offer && offer.item.kind === "document")
  // A document can be linked to, or be shown where it stands.
  const papers = words
    ? linked
        .slice(0, 3)
        .flatMap((offer): Offer[] => ("item" in offer ? [{ kind: "paper", item: offer.item }] : []))
    : []
  const commons: Offer[] = found.commons.slice(0, 6).map((picture) => ({ kind: "commons", picture }))
  const blocks = words ? BLOCKS.filter((block) => holds(words, `${block.name} ${block.says}`)) : BLOCKS
  const signs: Offer[] = found.signs.map((sign) => ({ kind: "sign", sign }))
  const named = blocks.filter((block) => words && block.name.toLowerCase().startsWith(words))
  const along = picked()
  const taken = along.length
    ? (["downloads", "gallery", "slideshow"] as const).map(
        (as): Offer => ({ kind: "picked", items: along, as }),
      )
    : []
  if (!words) return [...taken, ...blocks, ...pictures, ...played, ...linked]
  const others = blocks.filter((block) => !named.includes(block))
  return [
    ...addresses,
    ...fetched,
    ...named,
    ...acts,
    ...pictures,
    ...played,
    ...linked,
    ...papers,
    ...pages,
    ...others,
    ...commons,
    ...signs,
  ]
}

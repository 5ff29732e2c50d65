/**
 * What is asked of the server and kept for a while: the key of each answer, and which answers an act makes untrue. Keys
 * are made here and nowhere else, so that whoever changes something need not know who asked for it.
 */
import { type QueryClient, type QueryKey, queryOptions } from "@tanstack/react-query"
import { ask, client } from "./client"

export const answers = {
  session: ["session"],
  sessions: ["sessions"],
  trail: (act: string, name: string) => ["trail", act, name],
  sites: ["sites"],
  contents: (site: number, ...branch: (number | null)[]) => ["contents", site, ...branch],
  siteChecks: (site: number) => ["site-checks", site],
  results: (site: number) => ["results", site],
  outsideLinks: (site: number) => ["outside-links", site],
  checks: ["checks"],
  page: (page: number) => ["page", page],
  versions: (page: number) => ["versions", page],
  headings: (page: number | undefined) => ["headings", page],
  count: (of: object) => ["library", "count", of],
  part: (of: object, part: number) => ["library", "part", of, part],
  entry: (item: number | undefined) => ["library", "entry", item],
  folders: ["folders"],
  tags: ["tags"],
  item: (item: number | undefined) => ["item", item],
  itemVersions: (item: number) => ["item", item, "versions"],
  captions: (item: number) => ["captions", item],
  levels: (address: string | undefined) => ["levels", address],
  uses: (item: number) => ["uses", item],
  usesOfMany: (items: readonly number[]) => ["uses", "many", items],
  /** What of an item's words could not be saved yet; this is no answer, but goes with them when somebody signs out. */
  unsaved: (item: number) => ["unsaved", item] as const,
  describing: ["describing"],
  found: (site: number, words: string) => ["shelf", site, words],
  commons: (words: string) => ["commons", words],
  allCommons: (words: string) => ["commons", "all", words],
  hosts: ["hosts"],
  signs: (words: string) => ["signs", words],
  facts: (page: number) => ["tree", "facts", page],
  lastAct: (site: number) => ["tree", "last-act", site],
  consequences: (asked: object | null) => ["tree", "consequences", asked],
  proposal: (page: number) => ["tree", "proposal", page],
  foundPages: (site: number, asked: object) => ["tree", "found", site, asked],
  bin: (site: number) => ["tree", "bin", site],
  redirects: (site: number, asked: object) => ["tree", "redirects", site, asked],
  previews: (page: number) => ["tree", "previews", page],
  allSites: ["sites", "all"],
} as const

/** What an act makes untrue. A key stands for all that begin with it. */
export const after = {
  /** Items came, went or were changed in the library. */
  library: [["library"], ["folders"], ["tags"], ["shelf"], ["uses"], ["item"]],
  /** One item is being worked on by the server, and may be ready. */
  making: [["library"]],
  /** Pages of a site came, or went live, or no longer are. */
  pages: (site: number) => [["contents", site], ["headings"], ["shelf"]],
  /** Something was done to a tree. */
  tree: [["tree"], ["contents"], ["page"], ["headings"], ["shelf"], ["results"]],
  sites: [["sites"], ["contents"]],
  versions: (page: number) => [["versions", page]],
  sessions: [["sessions"]],
} as const

/**
 * Have these answers asked for anew by whoever shows them. One that is on its way may be from before the act: it is not
 * waited for, not even where it would be the first.
 */
export async function forget(queries: QueryClient, keys: readonly QueryKey[]): Promise<void> {
  const anew = async (queryKey: QueryKey) => {
    await queries.cancelQueries({ queryKey })
    await queries.invalidateQueries({ queryKey })
  }
  await Promise.all(keys.map(anew))
}

/** Have these answers asked for again, for what the server goes on doing by itself. One that is on its way will do. */
export function lookAgain(queries: QueryClient, keys: readonly QueryKey[]) {
  for (const queryKey of keys) void queries.invalidateQueries({ queryKey }, { cancelRefetch: false })
}

/** The sites that whoever is signed in may see. */
export const sitesAsked = queryOptions({
  queryKey: answers.sites,
  queryFn: () => ask(client.GET("/api/sites")),
})

/** The tree of a site's pages, or of what stands below one of them, from the start-th right under it on. */
export const contentsAsked = (site: number, below: number | null = null, start = 0) =>
  queryOptions({
    queryKey: answers.contents(site, below, start),
    queryFn: () =>
      ask(
        client.GET("/api/sites/{site_id}/contents", {
          params: { path: { site_id: site }, query: { below, start } },
        }),
      ),
  })

/** A page to write on. */
export const pageAsked = (page: number) =>
  queryOptions({
    queryKey: answers.page(page),
    queryFn: () => ask(client.GET("/api/pages/{page_id}", { params: { path: { page_id: page } } })),
  })

/** The destinations this person linked to last, kept in this browser. */
const KEY = "recent-links"
const MOST = 6

export interface RecentLink {
  href: string
  name: string
}

export function recentLinks(): RecentLink[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? "[]")
    return Array.isArray(kept) ? kept.filter((each) => each?.href && each?.name) : []
  } catch {
    return []
  }
}

/** Headings of the page itself are not kept: they mean nothing on another. */
export function rememberLink(link: RecentLink) {
  if (link.href.startsWith("#")) return
  const others = recentLinks().filter(({ href }) => href !== link.href)
  try {
    localStorage.setItem(KEY, JSON.stringify([link, ...others].slice(0, MOST)))
  } catch {
    // The browser's store is full or closed; the list stays as it was.
  }
}

/** Places between the lines of a tree: where a page can be put, in words and as a line. */
import type { Row } from "./useBranches"

/** Under a page (null: at the top of the site) as the last there, or right beside one that stands there. */
export interface Target {
  site: number
  parent: number | null
  after?: number
  before?: number
}

type PageRow = Extract<Row, { entry: unknown }>
const isPage = (row: Row | undefined): row is PageRow => row !== undefined && "entry" in row

/** The index behind the last line of the branch that begins at an index. */
export function endOf(rows: readonly Row[], index: number): number {
  const depth = rows[index]?.depth ?? 0
  let end = index + 1
  while (end < rows.length && (rows[end]?.depth ?? 0) > depth) end += 1
  return end
}

const indexOf = (rows: readonly Row[], page: number) =>
  rows.findIndex((row) => isPage(row) && row.entry.id === page)

/** Before which line, and how deep, a line shows a target; null where it is not among those that are unfolded. */
export function lineOf(rows: readonly Row[], target: Target): { index: number; depth: number } | null {
  const beside = target.after ?? target.before
  const index = indexOf(rows, beside ?? target.parent ?? -1)
  if (beside === undefined && target.parent === null) return { index: rows.length, depth: 0 }
  const row = rows[index]
  if (!row) return null
  if (target.before !== undefined) return { index, depth: row.depth }
  if (target.after !== undefined) return { index: endOf(rows, index), depth: row.depth }
  return { index: endOf(rows, index), depth: row.depth + 1 }
}

/** Every place for some pages, from the top: before each line, under it, and behind the last of each branch. */
export function targetsOf(rows: readonly Row[], site: number, leave: ReadonlySet<number>): Target[] {
  const targets: Target[] = []
  let left: number | null = null
  const open: { parent: number | null; depth: number; last: number }[] = []
  const close = (depth: number) => {
    while (open.length && (open.at(-1)?.depth ?? 0) >= depth) {
      const { parent, last } = open.pop() as { parent: number | null; last: number }
      targets.push({ site, parent, after: last })
    }
  }
  rows.forEach((row) => {
    if (left !== null && row.depth > left) return
    left = null
    if (!isPage(row)) return
    const { entry, depth } = row
    close(depth + 1)
    if (leave.has(entry.id)) {
      left = depth
      return
    }
    if (open.at(-1)?.depth === depth) open.pop()
    targets.push({ site, parent: entry.parent, before: entry.id })
    if (!entry.elsewhere && (entry.below === 0 || row.folded)) targets.push({ site, parent: entry.id })
    open.push({ parent: entry.parent, depth, last: entry.id })
  })
  close(0)
  return targets
}

/** Whether pages would stay where they are: a target beside, or under, one of them. */
export const isStaying = ({ after, before, parent }: Target, pages: readonly number[]) =>
  pages.includes(after ?? before ?? parent ?? 0)

/** The places for some pages next to where the first of them stands now, upwards (-1) or downwards (1). */
export function nextPlace(
  rows: readonly Row[],
  site: number,
  pages: readonly number[],
  step: number,
): Target | undefined {
  const every = targetsOf(rows, site, new Set(pages))
  const here = indexOf(rows, pages[0] ?? 0)
  const depth = rows[here]?.depth
  if (here < 0) return step > 0 ? every[0] : every.at(-1)
  const end = endOf(rows, here)
  const found = every.filter((each) => {
    const line = lineOf(rows, each)
    if (!line) return false
    // Where its own line is, and as deep, it stands already.
    if (step < 0) return line.index < here || (line.index === here && line.depth !== depth)
    return line.index > end || (line.index === end && line.depth !== depth)
  })
  return step > 0 ? found[0] : found.at(-1)
}

export const sameTarget = (one: Target, other: Target) =>
  one.site === other.site &&
  one.parent === other.parent &&
  one.after === other.after &&
  one.before === other.before

/** Where something that is dragged over a line would go: above it, under it, or behind it. */
export function targetAt(row: Row, site: number, share: number): Target | null {
  if (!isPage(row)) return null
  const { entry } = row
  if (share < 0.3) return { site, parent: entry.parent, before: entry.id }
  if (share > 0.7 || entry.elsewhere) return { site, parent: entry.parent, after: entry.id }
  return { site, parent: entry.id }
}

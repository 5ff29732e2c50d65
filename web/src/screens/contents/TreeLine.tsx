/**
 * The lines of the tree. There may be hundreds of them: each is of plain elements, styled by their tree (`LINES`), and is
 * drawn anew only where something of it is another.
 */
import { t } from "@lingui/core/macro"
import { type DragEvent, memo, type ReactNode, useMemo, useRef } from "react"
import type { ContentsEntry } from "../../api/client"
import { Gauge, STATE_WORDS } from "../../look/Gauge"
import { number } from "../../look/words"
import { lineOf as nameOfLine } from "./remembered"
import type { Row } from "./useBranches"

/** What a row is known by, whatever comes or goes around it. */
export const nameOf = (row: Row) => ("entry" in row ? nameOfLine(row.entry.id) : `below ${row.under}`)

const DRAGGED = "application/x-stillpage-pages"

/** How the lines look, as style of the tree; `data-choosing` is there while any page is chosen. */
export const LINES = {
  "& [role=treeitem]": {
    display: "flex",
    alignItems: "baseline",
    gap: "2",
    py: "1",
    pr: "1",
    cursor: "default",
    borderLeftWidth: "3px",
    borderColor: "transparent",
  },
  "& [role=treeitem][tabindex='0']": { borderColor: "press.solid" },
  "& [role=treeitem][data-ticked]": { bg: "lit" },
  "& [role=treeitem][data-taken]": { opacity: 0.55 },
  "@media (hover: hover)": {
    "&:not([data-choosing]) [role=treeitem]:not([tabindex='0'], :hover) .tick": { opacity: 0 },
  },
  "& .tick": {
    alignSelf: "center",
    w: "4",
    h: "4",
    flexShrink: "0",
    borderWidth: "1px",
    borderColor: "edge",
    bg: "paper",
    fontSize: "xs",
    lineHeight: "1",
    textAlign: "center",
    cursor: "pointer",
  },
  "& .fold": { w: "5", flexShrink: "0", textAlign: "center", color: "quiet", cursor: "pointer" },
  "& .name": {
    fontFamily: "heading",
    fontSize: "lg",
    lineHeight: "1.4",
    minW: "0",
    overflowWrap: "anywhere",
    color: "ink",
    cursor: "pointer",
  },
  "& .name:hover": { textDecoration: "underline", textUnderlineOffset: "4px" },
  "& [aria-level='1'] .name": { fontSize: "xl" },
  "& .name.is-apart": { color: "quiet" },
  "& .leader": {
    flex: "1",
    minW: "6",
    alignSelf: "baseline",
    borderBottom: "2px dotted",
    borderColor: "line",
    display: { base: "none", md: "block" },
  },
  "& .address": {
    fontSize: "sm",
    color: "quiet",
    display: { base: "none", md: "block" },
    maxW: "18rem",
    overflow: "hidden",
    textOverflow: "ellipsis",
    whiteSpace: "nowrap",
  },
  "& .state": {
    display: "flex",
    alignItems: "center",
    gap: "2",
    w: { base: "auto", md: "11.5rem" },
    pl: { base: "0", md: "4" },
    ml: { base: "auto", md: "0" },
    flexShrink: "0",
    fontSize: "sm",
  },
  "& .state-words": { srOnly: { base: true, sm: false } },
  "& .state-words .is-hidden": { color: "waits" },
  "& .state-words .heard": { srOnly: true },
  "& .more": { fontSize: "sm", pl: "7", color: "quiet" },
  "& .more.has-failed": { color: "wrong" },
} as const

/** What is done by way of a line. */
export interface Hands {
  fold(entry: ContentsEntry, folded: boolean): void
  act(row: Row): void
  focus(row: Row): void
  tick(page: number, on: boolean): void
  /** The pages that go along where one is dragged, itself among them. */
  dragged(page: number): number[]
  /** Pages were let go over a line, at this share of its height. */
  drop(row: Row, share: number, pages: number[]): void
}

/** The same hands for good, that do what the last ones given would. */
export function useHands(hands: Hands): Hands {
  const latest = useRef(hands)
  latest.current = hands
  return useMemo(
    () => ({
      fold: (...given) => latest.current.fold(...given),
      act: (row) => latest.current.act(row),
      focus: (row) => latest.current.focus(row),
      tick: (...given) => latest.current.tick(...given),
      dragged: (page) => latest.current.dragged(page),
      drop: (...given) => latest.current.drop(...given),
    }),
    [],
  )
}

interface LineProps {
  row: Row
  current: boolean
  ticked: boolean
  taken: boolean
  writes: boolean
  hands: Hands
}

export const Line = memo(
  function Line(props: LineProps) {
    const { row, hands } = props
    if ("entry" in row) return <PageLine {...props} row={row} />
    const left = number(row.left)
    const words = {
      more: t`Show more of the ${left} pages that follow`,
      coming: t`The pages are on their way …`,
      failed: t`The pages that stand here could not be had. Press to ask again.`,
    }
    return (
      <TreeItem {...props}>
        {/* biome-ignore lint/a11y: keys are the tree's */}
        <span className={row.state === "failed" ? "more has-failed" : "more"} onClick={() => hands.act(row)}>
          {words[row.state]}
        </span>
      </TreeItem>
    )
  },
  (before, after) =>
    before.current === after.current &&
    before.ticked === after.ticked &&
    before.taken === after.taken &&
    before.writes === after.writes &&
    same(before.row, after.row),
)

/** Rows are made anew whenever the tree is; most say the same. */
function same(one: Row, other: Row) {
  const [before, after] = [Object.entries(one), new Map(Object.entries(other))]
  return before.length === after.size && before.every(([name, value]) => after.get(name) === value)
}

/** One stop of the tree, with what ARIA has said of it. */
function TreeItem({
  row,
  current,
  ticked,
  taken,
  writes,
  hands,
  children,
}: LineProps & { children: ReactNode }) {
  const page = "entry" in row ? row : null
  const pagesIn = (event: DragEvent) => JSON.parse(event.dataTransfer.getData(DRAGGED) || "[]") as number[]
  return (
    <div
      role="treeitem"
      data-row={nameOf(row)}
      data-page={page?.entry.id}
      data-ticked={ticked || undefined}
      data-taken={taken || undefined}
      aria-level={row.depth + 1}
      aria-setsize={page?.among}
      aria-posinset={page?.place}
      aria-expanded={page && page.entry.below > 0 ? !page.folded : undefined}
      aria-selected={page && writes ? ticked : undefined}
      tabIndex={current ? 0 : -1}
      draggable={Boolean(page) && writes}
      onDragStart={(event) => {
        if (!page) return
        event.dataTransfer.setData(DRAGGED, JSON.stringify(hands.dragged(page.entry.id)))
        event.dataTransfer.effectAllowed = "move"
      }}
      onDragOver={(event) => event.dataTransfer.types.includes(DRAGGED) && event.preventDefault()}
      onDrop={(event) => {
        const pages = pagesIn(event)
        if (!pages.length) return
        event.preventDefault()
        const { top, height } = event.currentTarget.getBoundingClientRect()
        hands.drop(row, (event.clientY - top) / height, pages)
      }}
      onFocus={() => hands.focus(row)}
      style={{ paddingLeft: `${row.depth * 1.75}rem` }}
    >
      {children}
    </div>
  )
}

function PageLine(props: LineProps & { row: Extract<Row, { entry: ContentsEntry }> }) {
  const { writes, ticked, hands, row } = props
  const { entry, folded } = row
  return (
    <TreeItem {...props}>
      {writes && (
        <span
          aria-hidden
          data-tick
          title={t`Choose (Space)`}
          className="tick"
          onClick={() => hands.tick(entry.id, !ticked)}
        >
          {ticked ? "✓" : ""}
        </span>
      )}
      <span className="fold" aria-hidden="true" onClick={() => entry.below > 0 && hands.fold(entry, !folded)}>
        {entry.below > 0 ? (folded ? "▸" : "▾") : ""}
      </span>
      {/* biome-ignore lint/a11y: keys are the tree's */}
      <span
        className={entry.in_navigation && !entry.hidden ? "name" : "name is-apart"}
        onClick={() => hands.act(row)}
      >
        {entry.title}
      </span>
      <span className="leader" />
      <span className="address" title={entry.elsewhere || entry.path}>
        {entry.elsewhere ? `↗ ${entry.elsewhere.replace(/^https?:\/\//, "")}` : entry.path}
      </span>
      <span className="state">
        <Gauge state={entry.state} />
        <span className="state-words">
          {STATE_WORDS[entry.state]}
          {entry.hidden && <span className="is-hidden">{t`, hidden`}</span>}
          {entry.elsewhere && <span className="heard">{t`, a link elsewhere`}</span>}
        </span>
      </span>
    </TreeItem>
  )
}

/**
 * A site's pages, set like the contents page of a book. A tree as ARIA has it: one stop for Tab, arrows within.
 */

import { Button, chakra, HStack } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { Fragment, type KeyboardEvent, useEffect, useRef, useState } from "react"
import { useNavigate } from "react-router"
import type { Contents, ContentsEntry } from "../../api/client"
import { chordOf } from "../../editor/chords"
import { isIdle } from "../../look/focus"
import { say } from "../../look/heard"
import { lastLine, rememberLine } from "./remembered"
import { lineOf, nextPlace, sameTarget, type Target, targetAt, targetsOf } from "./slots"
import { LINES, Line, nameOf, useHands } from "./TreeLine"
import type { Arranging } from "./useArranging"
import { type Branches, type Row, useBranches } from "./useBranches"

interface Props {
  contents: Contents
  arranging: Arranging
  onCurrent(entry: ContentsEntry | null): void
}

export function Tree({ contents, arranging, onCurrent }: Props) {
  const branches = useBranches(contents)
  const { rows, fold, more } = branches
  const site = contents.site.id
  const writes = contents.site.may_write
  const { mode, setMode, ticked, tick } = arranging
  const [at, setAt] = useState(() => lastLine(site))
  const navigate = useNavigate()
  const list = useRef<HTMLDivElement>(null)
  // Whoever comes here is where they left: at the page they had chosen last.
  useEffect(() => {
    if (isIdle()) list.current?.querySelector<HTMLElement>("[tabindex='0']")?.focus()
  }, [])
  useEffect(() => {
    if (at) rememberLine(site, at)
  }, [at, site])
  // Where pages go is chosen in the tree; and whoever has done something beside it, or has not, is there again.
  const before = useRef(mode.mode)
  useEffect(() => {
    const done = mode.mode === "facts" && before.current !== "facts"
    if (done || mode.mode === "moving") list.current?.querySelector<HTMLElement>("[tabindex='0']")?.focus()
    before.current = mode.mode
  }, [mode.mode])
  const moved = useRef(false)
  const current = rows.find((row) => nameOf(row) === at) ?? rows[0]
  const chosen = current && "entry" in current ? current.entry : null
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is told is the page, whichever way it came
  useEffect(() => onCurrent(chosen), [chosen])

  useEffect(() => {
    if (moved.current && at) list.current?.querySelector<HTMLElement>(`[data-row="${at}"]`)?.focus()
    moved.current = false
  }, [at])

  const move = (row: Row | undefined) => {
    if (!row) return
    moved.current = true
    setAt(nameOf(row))
  }
  const act = (row: Row) => {
    if ("entry" in row && row.entry.elsewhere) {
      // It has no text to write on; where it leads stands beside the tree.
      move(row)
      return
    }
    if ("entry" in row) {
      void navigate(`/pages/${row.entry.id}`)
      return
    }
    // Where it stood there will be pages: whoever asked for them by keyboard stays with the page before them.
    move(rows[rows.findIndex((each) => nameOf(each) === nameOf(row)) - 1])
    more(row.under)
  }
  const above = (row: Row) => {
    const parent = "entry" in row ? row.entry.parent : row.under
    return rows.find((each) => "entry" in each && each.entry.id === parent)
  }
  const entriesBetween = (one: Row | undefined, other: Row | undefined) => {
    const [from, to] = [rows.indexOf(one as Row), rows.indexOf(other as Row)].sort((a, b) => a - b)
    return rows.slice(from, (to ?? 0) + 1).flatMap((row) => ("entry" in row ? [row.entry.id] : []))
  }
  const typed = useTypedAhead()
  const target = mode.mode === "new" || mode.mode === "moving" ? mode.target : null
  const taken = mode.mode === "moving" ? new Set(mode.pages) : new Set<number>()
  const line = target && target.site === site ? lineOf(rows, target) : null
  const aim = (next: Target) => {
    if (mode.mode === "new" || mode.mode === "moving") setMode({ ...mode, target: next })
  }

  const key = (event: KeyboardEvent) => {
    if (!current) return
    if (mode.mode === "moving" && aimByKey(event, branches, mode.target, site, taken, aim)) {
      event.preventDefault()
      return
    }
    const index = rows.indexOf(current)
    const parent = (chosen?.below ?? 0) > 0
    const unfolded = parent && "entry" in current && !current.folded
    const extends_ = (row: Row | undefined) => {
      if (event.shiftKey && writes) tick(entriesBetween(current, row), true)
      move(row)
    }
    const chord = event.key === " " ? "Space" : chordOf(event)
    if (mode.mode === "moving" && chord === "Enter") {
      event.preventDefault()
      void arranging.place(mode.pages, mode.target)
      return
    }
    switch (chord) {
      case "ArrowDown":
      case "Shift+ArrowDown":
        extends_(rows[index + 1])
        break
      case "ArrowUp":
      case "Shift+ArrowUp":
        extends_(rows[index - 1])
        break
      case "Home":
        move(rows[0])
        break
      case "End":
        move(rows.at(-1))
        break
      case "ArrowRight":
        if (unfolded) move(rows[index + 1])
        else if (chosen && parent) fold(chosen, false)
        break
      case "ArrowLeft":
        if (chosen && unfolded) fold(chosen, true)
        else move(above(current))
        break
      case "Enter":
        act(current)
        break
      case "Space":
        if (!chosen) act(current)
        else if (writes) tick([chosen.id], !ticked.has(chosen.id))
        break
      case "Delete":
        if (!chosen || !writes) return
        setMode({ mode: "binning", pages: ticked.size ? [...ticked] : [chosen.id] })
        break
      case "Escape":
        if (mode.mode === "facts" && !ticked.size) return
        setMode({ mode: "facts" })
        tick([...ticked], false)
        break
      case "Mod+A":
        if (!writes) return
        tick(entriesBetween(rows[0], rows.at(-1)), true)
        break
      default: {
        const found = isSign(event) && typed(event.key, rows, index)
        if (!found) return
        move(found)
      }
    }
    event.preventDefault()
  }

  const dropOn = (row: Row, share: number, pages: number[]) => {
    const next = targetAt(row, site, share)
    if (next && !pages.includes(next.after ?? next.before ?? next.parent ?? 0))
      setMode({ mode: "moving", pages, target: next })
  }
  const hands = useHands({
    fold,
    act,
    focus: (row) => setAt(nameOf(row)),
    tick: (page, on) => tick([page], on),
    dragged: (page) => (ticked.has(page) ? [...ticked] : [page]),
    drop: dropOn,
  })
  return (
    <>
      <chakra.div
        role="tree"
        aria-label={t`Pages of ${contents.site.name}`}
        aria-multiselectable={writes || undefined}
        data-choosing={ticked.size > 0 || undefined}
        css={LINES}
        ref={list}
        onKeyDown={key}
      >
        {rows.map((row, index) => (
          <Fragment key={nameOf(row)}>
            {line?.index === index && <Mark depth={line.depth} place={index} />}
            <Line
              row={row}
              current={row === current}
              ticked={"entry" in row && ticked.has(row.entry.id)}
              taken={"entry" in row && taken.has(row.entry.id)}
              writes={writes}
              hands={hands}
            />
          </Fragment>
        ))}
        {line?.index === rows.length && <Mark depth={line.depth} place={rows.length} />}
      </chakra.div>
      {rows.length === 0 && (
        <chakra.p color="quiet">
          <Trans>This site has no pages yet. Add the first one.</Trans>
        </chakra.p>
      )}
      {writes && mode.mode === "facts" && (
        <HStack
          mt="3"
          py="2"
          gap="2"
          flexWrap="wrap"
          bottom="0"
          bg="ground"
          css={{ "@media (min-height: 30em)": { position: "sticky" } }}
        >
          {chosen && !chosen.elsewhere && (
            <Button
              size="sm"
              variant="outline"
              h="auto"
              minH="9"
              py="1"
              whiteSpace="normal"
              overflowWrap="anywhere"
              textAlign="start"
              onClick={() => setMode({ mode: "new", target: { site, parent: chosen.id } })}
            >
              <Trans>New page under “{chosen.title}”</Trans>
            </Button>
          )}
          <Button
            size="sm"
            variant="outline"
            onClick={() => setMode({ mode: "new", target: { site, parent: null } })}
          >
            <Trans>New page at the top</Trans>
          </Button>
          <Button size="sm" variant="outline" onClick={() => setMode({ mode: "import" })}>
            <Trans>Import files</Trans>
          </Button>
          <Button size="sm" variant="outline" onClick={() => setMode({ mode: "bin" })}>
            <Trans>The bin</Trans>
          </Button>
        </HStack>
      )}
    </>
  )
}

const isSign = ({ key, ctrlKey, metaKey, altKey }: KeyboardEvent) =>
  key.length === 1 && !ctrlKey && !metaKey && !altKey

/** In milliseconds: what is typed in so little time is the beginning of one title. */
const TOGETHER = 600

/** Finds the next page, from the line where one is, whose title begins with what has just been typed. */
function useTypedAhead() {
  const so = useRef({ words: "", at: 0 })
  return (sign: string, rows: readonly Row[], index: number): Row | undefined => {
    const now = performance.now()
    const goesOn = now - so.current.at < TOGETHER
    so.current = { words: (goesOn ? so.current.words : "") + sign.toLocaleLowerCase(), at: now }
    const from = goesOn && so.current.words.length > 1 ? index : index + 1
    return [...rows.slice(from), ...rows.slice(0, from)].find(
      (row) => "entry" in row && row.entry.title.toLocaleLowerCase().startsWith(so.current.words),
    )
  }
}

/** Arrows lead from place to place while pages are moved; whether the key was one of them. */
function aimByKey(
  event: KeyboardEvent,
  { rows, pages }: Branches,
  target: Target,
  site: number,
  taken: ReadonlySet<number>,
  aim: (next: Target) => void,
): boolean {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (!step) return false
  const every = targetsOf(rows, site, taken)
  const here = every.findIndex((each) => sameTarget(each, target))
  const next = here < 0 ? nextPlace(rows, site, [...taken], step) : every[here + step]
  if (next) {
    aim(next)
    say(placeInWords(next, pages))
  }
  return true
}

/** A place of the tree in words. */
export function placeInWords(target: Target, pages: readonly ContentsEntry[]): string {
  const title = (page: number | null | undefined) => pages.find(({ id }) => id === page)?.title ?? "…"
  if (target.before !== undefined) return t`before “${title(target.before)}”`
  if (target.after !== undefined) return t`after “${title(target.after)}”`
  return target.parent === null ? t`at the top, as the last` : t`under “${title(target.parent)}”`
}

/** Where something will stand. */
function Mark({ depth, place }: { depth: number; place: number }) {
  const line = useRef<HTMLDivElement>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: wherever it stands now, it is seen there
  useEffect(() => {
    line.current?.scrollIntoView({ block: "nearest" })
  }, [place, depth])
  return (
    <chakra.div
      ref={line}
      scrollMarginBlock="6rem"
      aria-hidden
      data-place
      h="0"
      borderTopWidth="3px"
      borderColor="press.solid"
      position="relative"
      style={{ marginLeft: `${depth * 1.75 + 1.6}rem` }}
      _before={{
        content: '""',
        position: "absolute",
        left: "-9px",
        top: "-7px",
        w: "11px",
        h: "11px",
        bg: "ground",
        borderWidth: "3px",
        borderColor: "press.solid",
      }}
    />
  )
}

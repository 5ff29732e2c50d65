/**
 * A site's pages, set like the contents page of a book. A tree as ARIA has it: one stop for Tab, arrows within.
 */

import { Button, chakra, HStack } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { type KeyboardEvent, type ReactNode, useEffect, useRef, useState } from "react"
import { flushSync } from "react-dom"
import { useNavigate } from "react-router"
import type { Contents, ContentsEntry } from "../../api/client"
import { isIdle } from "../../look/focus"
import { Gauge, STATE_WORDS } from "../../look/Gauge"
import { number } from "../../look/words"
import { AddPage } from "./AddPage"
import { BringIn } from "./BringIn"
import { lastLine, lineOf, rememberLine } from "./remembered"
import { type Row, useBranches } from "./useBranches"

/** What a row is known by, whatever comes or goes around it. */
const nameOf = (row: Row) => ("entry" in row ? lineOf(row.entry.id) : `below ${row.under}`)

export function Tree({ contents }: { contents: Contents }) {
  const { rows, pages, fold, more } = useBranches(contents)
  const [at, setAt] = useState(() => lastLine(contents.site.id))
  const [addingTo, setAddingTo] = useState<number | null | undefined>(undefined)
  const [bringing, setBringing] = useState(false)
  const navigate = useNavigate()
  const list = useRef<HTMLDivElement>(null)
  const toCurrent = () => list.current?.querySelector<HTMLElement>("[tabindex='0']")?.focus()
  const closed = (close: () => void) => {
    flushSync(close)
    toCurrent()
  }
  // Whoever comes here is where they left: at the page they had chosen last.
  useEffect(() => {
    if (isIdle()) list.current?.querySelector<HTMLElement>("[tabindex='0']")?.focus()
  }, [])
  useEffect(() => {
    if (at) rememberLine(contents.site.id, at)
  }, [at, contents.site.id])
  const moved = useRef(false)
  const current = rows.find((row) => nameOf(row) === at) ?? rows[0]
  const chosen = current && "entry" in current ? current.entry : null

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
    if ("entry" in row) {
      void navigate(`/pages/${row.entry.id}`)
      return
    }
    // Where it stood there will be pages: whoever asked for them by keyboard stays with the page before them.
    move(rows[rows.indexOf(row) - 1])
    more(row.under)
  }
  const above = (row: Row) => {
    const parent = "entry" in row ? row.entry.parent : row.under
    return rows.find((each) => "entry" in each && each.entry.id === parent)
  }

  const key = (event: KeyboardEvent) => {
    if (!current) return
    const index = rows.indexOf(current)
    const parent = (chosen?.below ?? 0) > 0
    const unfolded = parent && "entry" in current && !current.folded
    switch (event.key) {
      case "ArrowDown":
        move(rows[index + 1])
        break
      case "ArrowUp":
        move(rows[index - 1])
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
      case " ":
        act(current)
        break
      default:
        return
    }
    event.preventDefault()
  }

  const place = pages.find((page) => page.id === addingTo)
  return (
    <>
      <chakra.div role="tree" aria-label={t`Pages of ${contents.site.name}`} ref={list} onKeyDown={key}>
        {rows.map((row) => (
          <Line
            key={nameOf(row)}
            row={row}
            current={row === current}
            onFold={fold}
            onAct={() => act(row)}
            onFocus={() => setAt(nameOf(row))}
          />
        ))}
      </chakra.div>
      {rows.length === 0 && (
        <chakra.p color="quiet">
          <Trans>This site has no pages yet. Add the first one.</Trans>
        </chakra.p>
      )}
      {contents.site.may_write && addingTo === undefined && !bringing && (
        <HStack
          mt="3"
          py="2"
          gap="2"
          flexWrap="wrap"
          bottom="0"
          bg="ground"
          css={{ "@media (min-height: 30em)": { position: "sticky" } }}
        >
          {chosen && (
            <Button size="sm" variant="outline" onClick={() => setAddingTo(chosen.id)}>
              <Trans>Add a page under “{chosen.title}”</Trans>
            </Button>
          )}
          <Button size="sm" variant="outline" onClick={() => setAddingTo(null)}>
            <Trans>Add a page at the top</Trans>
          </Button>
          <Button size="sm" variant="outline" onClick={() => setBringing(true)}>
            <Trans>Import files</Trans>
          </Button>
        </HStack>
      )}
      {bringing && (
        <BringIn site={contents.site} current={chosen} onDone={() => closed(() => setBringing(false))} />
      )}
      {addingTo !== undefined && (
        <AddPage
          site={contents.site}
          parent={place ?? null}
          onDone={() => closed(() => setAddingTo(undefined))}
        />
      )}
    </>
  )
}

interface LineProps {
  row: Row
  current: boolean
  onFold(entry: ContentsEntry, folded: boolean): void
  onAct(): void
  onFocus(): void
}

function Line(props: LineProps) {
  const { row } = props
  if ("entry" in row) return <PageLine {...props} row={row} />
  const left = number(row.left)
  const words = {
    more: t`Show more of the ${left} pages that follow`,
    coming: t`The pages are on their way …`,
    failed: t`The pages that stand here could not be had. Press to ask again.`,
  }
  return (
    <TreeItem {...props}>
      <chakra.span color={row.state === "failed" ? "wrong" : "quiet"} fontSize="sm" pl="7">
        {words[row.state]}
      </chakra.span>
    </TreeItem>
  )
}

/** One stop of the tree, with what ARIA has said of it. */
function TreeItem({ row, current, onAct, onFocus, children }: LineProps & { children: ReactNode }) {
  const page = "entry" in row ? row : null
  return (
    <chakra.div
      role="treeitem"
      data-row={nameOf(row)}
      data-page={page?.entry.id}
      aria-level={row.depth + 1}
      aria-setsize={page?.among}
      aria-posinset={page?.place}
      aria-expanded={page && page.entry.below > 0 ? !page.folded : undefined}
      tabIndex={current ? 0 : -1}
      onFocus={onFocus}
      onClick={onAct}
      display="flex"
      alignItems="baseline"
      gap="2"
      py="1"
      cursor="pointer"
      style={{ paddingLeft: `${row.depth * 1.75}rem` }}
      _hover={{ "& .name": { textDecoration: "underline", textUnderlineOffset: "4px" } }}
    >
      {children}
    </chakra.div>
  )
}

function PageLine(props: LineProps & { row: Extract<Row, { entry: ContentsEntry }> }) {
  const { entry, depth, folded } = props.row
  return (
    <TreeItem {...props}>
      <chakra.span
        w="5"
        flexShrink="0"
        textAlign="center"
        color="quiet"
        aria-hidden="true"
        onClick={(event) => {
          if (entry.below === 0) return
          event.stopPropagation()
          props.onFold(entry, !folded)
        }}
      >
        {entry.below > 0 ? (folded ? "▸" : "▾") : ""}
      </chakra.span>
      <chakra.span
        className="name"
        fontFamily="heading"
        fontSize={depth === 0 ? "xl" : "lg"}
        lineHeight="1.4"
        color={entry.in_navigation ? "ink" : "quiet"}
      >
        {entry.title}
      </chakra.span>
      <chakra.span
        flex="1"
        minW="6"
        alignSelf="baseline"
        borderBottom="2px dotted"
        borderColor="line"
        display={{ base: "none", md: "block" }}
      />
      <chakra.span fontSize="sm" color="quiet" display={{ base: "none", md: "block" }}>
        {entry.path}
      </chakra.span>
      <HStack
        as="span"
        gap="2"
        w={{ base: "auto", md: "11.5rem" }}
        pl={{ base: "0", md: "4" }}
        flexShrink="0"
        fontSize="sm"
        alignItems="center"
        ml={{ base: "auto", md: "0" }}
      >
        <Gauge state={entry.state} />
        <chakra.span srOnly={{ base: true, sm: false }}>{STATE_WORDS[entry.state]}</chakra.span>
      </HStack>
    </TreeItem>
  )
}

/**
 * A site's pages, set like the contents page of a book. A tree as ARIA has it: one stop for Tab, arrows within.
 */
import { Button, chakra, HStack } from "@chakra-ui/react"
import { type KeyboardEvent, useEffect, useRef, useState } from "react"
import { useNavigate } from "react-router"
import type { Contents, ContentsEntry } from "../../api/client"
import { Gauge, STATE_WORDS } from "../../look/Gauge"
import { AddPage } from "./AddPage"
import { BringIn } from "./BringIn"

interface Row {
  entry: ContentsEntry
  depth: number
  parent: boolean
  place: number
  among: number
}

function rowsOf(pages: ContentsEntry[], folded: ReadonlySet<number>): Row[] {
  const below = new Map<number | null, ContentsEntry[]>()
  for (const page of pages) below.set(page.parent, [...(below.get(page.parent) ?? []), page])
  const rows: Row[] = []
  const add = (parent: number | null, depth: number) => {
    const siblings = below.get(parent) ?? []
    siblings.forEach((entry, index) => {
      rows.push({ entry, depth, parent: below.has(entry.id), place: index + 1, among: siblings.length })
      if (!folded.has(entry.id)) add(entry.id, depth + 1)
    })
  }
  add(null, 0)
  return rows
}

function useFolded(siteId: number) {
  const key = `folded:${siteId}`
  const [folded, setFolded] = useState<ReadonlySet<number>>(
    () => new Set(JSON.parse(localStorage.getItem(key) ?? "[]") as number[]),
  )
  const set = (id: number, fold: boolean) => {
    const next = new Set(folded)
    if (fold) next.add(id)
    else next.delete(id)
    localStorage.setItem(key, JSON.stringify([...next]))
    setFolded(next)
  }
  return [folded, set] as const
}

export function Tree({ contents }: { contents: Contents }) {
  const [folded, fold] = useFolded(contents.site.id)
  const [at, setAt] = useState<number | null>(null)
  const [addingTo, setAddingTo] = useState<number | null | undefined>(undefined)
  const [bringing, setBringing] = useState(false)
  const navigate = useNavigate()
  const list = useRef<HTMLDivElement>(null)
  const moved = useRef(false)
  const rows = rowsOf(contents.pages, folded)
  const current = rows.find((row) => row.entry.id === at) ?? rows[0]

  useEffect(() => {
    if (moved.current && at !== null) list.current?.querySelector<HTMLElement>(`[data-page="${at}"]`)?.focus()
    moved.current = false
  }, [at])

  const move = (row: Row | undefined) => {
    if (!row) return
    moved.current = true
    setAt(row.entry.id)
  }
  const write = (row: Row) => navigate(`/pages/${row.entry.id}`)

  const key = (event: KeyboardEvent) => {
    if (!current) return
    const index = rows.indexOf(current)
    const id = current.entry.id
    const unfolded = current.parent && !folded.has(id)
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
        else if (current.parent) fold(id, false)
        break
      case "ArrowLeft":
        if (unfolded) fold(id, true)
        else move(rows.find((row) => row.entry.id === current.entry.parent))
        break
      case "Enter":
      case " ":
        write(current)
        break
      default:
        return
    }
    event.preventDefault()
  }

  const place = contents.pages.find((page) => page.id === addingTo)
  return (
    <>
      <chakra.div role="tree" aria-label={`Pages of ${contents.site.name}`} ref={list} onKeyDown={key}>
        {rows.map((row) => (
          <Line
            key={row.entry.id}
            row={row}
            folded={folded.has(row.entry.id)}
            current={row === current}
            onFold={() => fold(row.entry.id, !folded.has(row.entry.id))}
            onOpen={() => write(row)}
            onFocus={() => setAt(row.entry.id)}
          />
        ))}
      </chakra.div>
      {rows.length === 0 && <chakra.p color="quiet">This site has no pages yet. Add the first one.</chakra.p>}
      {contents.site.may_write && addingTo === undefined && !bringing && (
        <HStack mt="3" py="2" gap="2" flexWrap="wrap" position="sticky" bottom="0" bg="ground">
          {current && (
            <Button size="sm" variant="outline" onClick={() => setAddingTo(current.entry.id)}>
              Add a page under “{current.entry.title}”
            </Button>
          )}
          <Button size="sm" variant="outline" onClick={() => setAddingTo(null)}>
            Add a page at the top
          </Button>
          <Button size="sm" variant="outline" onClick={() => setBringing(true)}>
            Bring in files
          </Button>
        </HStack>
      )}
      {bringing && (
        <BringIn site={contents.site} current={current?.entry ?? null} onDone={() => setBringing(false)} />
      )}
      {addingTo !== undefined && (
        <AddPage site={contents.site} parent={place ?? null} onDone={() => setAddingTo(undefined)} />
      )}
    </>
  )
}

interface LineProps {
  row: Row
  folded: boolean
  current: boolean
  onFold(): void
  onOpen(): void
  onFocus(): void
}

function Line({ row, folded, current, onFold, onOpen, onFocus }: LineProps) {
  const { entry, depth } = row
  return (
    <chakra.div
      role="treeitem"
      data-page={entry.id}
      aria-level={depth + 1}
      aria-setsize={row.among}
      aria-posinset={row.place}
      aria-expanded={row.parent ? !folded : undefined}
      tabIndex={current ? 0 : -1}
      onFocus={onFocus}
      onClick={onOpen}
      display="flex"
      alignItems="baseline"
      gap="2"
      py="1"
      cursor="pointer"
      style={{ paddingLeft: `${depth * 1.75}rem` }}
      _hover={{ "& .name": { textDecoration: "underline", textUnderlineOffset: "4px" } }}
    >
      <chakra.span
        w="5"
        flexShrink="0"
        textAlign="center"
        color="quiet"
        aria-hidden="true"
        onClick={(event) => {
          if (!row.parent) return
          event.stopPropagation()
          onFold()
        }}
      >
        {row.parent ? (folded ? "▸" : "▾") : ""}
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
    </chakra.div>
  )
}

import { Box, chakra, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useVirtualizer } from "@tanstack/react-virtual"
import {
  type DragEvent,
  type KeyboardEvent,
  type MouseEvent,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
} from "react"
import type { LibraryEntry } from "../../api/client"
import { clock, day, kilobytes } from "../../look/words"
import type { Items } from "./useItems"
import { PART } from "./useItems"

/** What is dragged from the list: the numbers of items. */
export const DRAGGED = "application/x-stillpage-items"

const PICTURE = { width: 168, height: 188 }
const LINE = 56

/** The list has the focus, and the item at which it is bears the sign of it. */
const CURRENT = {
  "&:focus-visible": { outline: "none" },
  "& [data-current]": { outline: "2px solid", outlineColor: "edge", outlineOffset: "-2px" },
  "&:focus-visible [data-current]": { outline: "3px solid", outlineColor: "press.solid" },
}

interface Props {
  items: Items
  lines: boolean
  /** The place in the list of the item whose particulars stand beside. */
  current: number
  chosen: ReadonlySet<number>
  onCurrent(index: number): void
  onChosen(chosen: ReadonlySet<number>): void
  onAll(): void
  onDelete(): void
  onEnter(): void
  /** Told which parts of the list have come into view. */
  onParts(parts: number[]): void
}

const used = (count: number) => plural(count, { 0: "used nowhere", one: "on # page", other: "on # pages" })

/** What it is, how long, and how large. */
const isOf = ({ format, lasts, size }: LibraryEntry["item"]) =>
  [format, lasts > 0 && clock(lasts), kilobytes(size)].filter(Boolean).join(", ")

/** What is said of an item in the list that somebody should look at. */
function wants({ item }: LibraryEntry): string {
  if (item.problem) return t`something is wrong`
  if (item.kind === "picture" && !item.alt && !item.decorative) return t`no alt text`
  return ""
}

/** The items, as pictures or as lines: one stop for Tab, arrows within. Only what is in view is drawn. */
export function Entries(props: Props) {
  const { items, lines, current, chosen, onCurrent, onChosen, onParts } = props
  const scroller = useRef<HTMLDivElement>(null)
  const [across, setAcross] = useState(1)
  const anchor = useRef(0)
  const pressed = useRef<number>(undefined)
  useEffect(() => {
    const box = scroller.current
    if (!box) return
    const measure = () => setAcross(Math.max(1, Math.floor((box.clientWidth - 40) / PICTURE.width)))
    measure()
    const observer = new ResizeObserver(measure)
    observer.observe(box)
    return () => observer.disconnect()
  }, [])
  const columns = lines ? 1 : across
  const height = lines ? LINE : PICTURE.height
  const rows = useVirtualizer({
    count: Math.ceil(items.total / columns),
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 4,
  })
  const shown = rows.getVirtualItems()
  const first = (shown[0]?.index ?? 0) * columns
  const last = Math.min(items.total, ((shown.at(-1)?.index ?? 0) + 1) * columns) - 1
  const parts: number[] = []
  for (let part = Math.floor(first / PART); part <= Math.floor(Math.max(first, last) / PART); part++)
    parts.push(part)
  const wanted = parts.join()
  // biome-ignore lint/correctness/useExhaustiveDependencies: told when the parts are others, not when the list is drawn
  useEffect(() => onParts(parts), [wanted])
  /** Which places were in view when one last scrolled; null since one went to the current one. */
  const looked = useRef<readonly [from: number, until: number] | null>(null)
  const scrolled = ({ scrollTop, clientHeight }: HTMLElement) => {
    const [top, bottom] = [scrollTop, scrollTop + clientHeight].map((at) => Math.floor(at / height))
    looked.current = [(top ?? 0) * columns, ((bottom ?? 0) + 1) * columns]
  }
  // Looked at in another way, what was looked at stays in view.
  // biome-ignore lint/correctness/useExhaustiveDependencies: rows of another height begin anew
  useLayoutEffect(() => {
    rows.measure()
    const [from, until] = looked.current ?? [current, current + 1]
    const kept = current >= from && current < until ? current : from
    if (kept) rows.scrollToIndex(Math.floor(kept / columns), { align: kept === current ? "auto" : "start" })
  }, [lines, columns])

  const numberAt = (index: number) => items.at(index)?.item.id
  const range = (from: number, to: number) => {
    const numbers = new Set(chosen)
    for (let index = Math.min(from, to); index <= Math.max(from, to); index++) {
      const number = numberAt(index)
      if (number !== undefined) numbers.add(number)
    }
    return numbers
  }
  const toggled = (index: number) => {
    const number = numberAt(index)
    const numbers = new Set(chosen)
    if (number !== undefined && !numbers.delete(number)) numbers.add(number)
    return numbers
  }
  const go = (index: number, extend: boolean) => {
    if (extend) onChosen(range(anchor.current, index))
    else anchor.current = index
    looked.current = null
    onCurrent(index)
    rows.scrollToIndex(Math.floor(index / columns))
  }
  const key = (event: KeyboardEvent) => {
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 400) / height))
    const steps: Record<string, number> = {
      ArrowDown: columns,
      ArrowUp: -columns,
      ArrowRight: 1,
      ArrowLeft: -1,
    }
    const last = items.total - 1
    const far: Record<string, number> = {
      Home: 0,
      End: last,
      PageDown: Math.min(last, current + page * columns),
      PageUp: Math.max(0, current - page * columns),
    }
    const step = steps[event.key]
    const wantedIndex = far[event.key] ?? (step === undefined ? undefined : current + step)
    if (wantedIndex !== undefined) {
      event.preventDefault()
      if (wantedIndex >= 0 && wantedIndex < items.total) go(wantedIndex, event.shiftKey)
    } else if (event.key === " ") {
      event.preventDefault()
      onChosen(toggled(current))
    } else if (event.key === "a" && (event.ctrlKey || event.metaKey)) {
      event.preventDefault()
      props.onAll()
    } else if (event.key === "Escape" && chosen.size) {
      event.preventDefault()
      onChosen(new Set())
    } else if (event.key === "Delete") {
      event.preventDefault()
      props.onDelete()
    } else if (event.key === "Enter") {
      event.preventDefault()
      props.onEnter()
    }
  }
  const press = (index: number) => (event: MouseEvent) => {
    if (event.shiftKey) onChosen(range(anchor.current, index))
    else if (event.ctrlKey || event.metaKey) {
      // What was pressed just before, and is shown beside, is meant too by whoever now adds another.
      const before = chosen.size ? undefined : pressed.current
      const numbers = toggled(index)
      if (before !== undefined) numbers.add(before)
      onChosen(numbers)
    } else {
      anchor.current = index
      pressed.current = numberAt(index)
    }
    onCurrent(index)
  }
  const drag = (entry: LibraryEntry) => (event: DragEvent) => {
    const numbers = chosen.has(entry.item.id) ? [...chosen] : [entry.item.id]
    event.dataTransfer.setData(DRAGGED, JSON.stringify(numbers))
    event.dataTransfer.effectAllowed = "move"
  }

  return (
    <Box
      ref={scroller}
      flex="1"
      minH="0"
      h={{ base: "70dvh", lg: "auto" }}
      overflowY="auto"
      px="5"
      py="2"
      onScroll={(event) => scrolled(event.currentTarget)}
    >
      <chakra.div
        role="listbox"
        aria-label={t`Items`}
        aria-multiselectable
        tabIndex={0}
        aria-activedescendant={numberAt(current) === undefined ? undefined : `entry-${numberAt(current)}`}
        position="relative"
        css={CURRENT}
        style={{ height: `${rows.getTotalSize()}px` }}
        onKeyDown={key}
      >
        {shown.map((row) => (
          <chakra.div
            key={row.key}
            role="presentation"
            position="absolute"
            left="0"
            right="0"
            display="grid"
            gap={lines ? "0" : "3"}
            style={{
              transform: `translateY(${row.start}px)`,
              height: `${row.size}px`,
              gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
            }}
          >
            {placesIn(row.index, columns).map((index) => {
              const entry = items.at(index)
              if (index >= items.total) return null
              if (!entry) return <Waiting key={`waiting ${index}`} lines={lines} />
              const option = {
                id: `entry-${entry.item.id}`,
                role: "option",
                "aria-selected": chosen.has(entry.item.id),
                "aria-setsize": items.total,
                "aria-posinset": index + 1,
                draggable: true,
                cursor: "pointer",
                onClick: press(index),
                onDragStart: drag(entry),
              }
              const state = { entry, current: index === current, chosen: chosen.has(entry.item.id), option }
              return lines ? (
                <Line key={entry.item.id} {...state} />
              ) : (
                <Picture key={entry.item.id} {...state} />
              )
            })}
          </chakra.div>
        ))}
      </chakra.div>
    </Box>
  )
}

/** The places in the list of what stands in a row. */
const placesIn = (row: number, columns: number) =>
  Array.from({ length: columns }, (_, column) => row * columns + column)

interface EntryProps {
  entry: LibraryEntry
  current: boolean
  chosen: boolean
  option: object
}

const Waiting = ({ lines }: { lines: boolean }) => (
  <Box aria-hidden h={lines ? "9" : "6.5rem"} m="1.5" borderWidth="1px" borderColor="line" />
)

/** A mark that an item is one of those chosen: a shape, so that it does not depend on colour. */
const Chosen = () => (
  <chakra.span aria-hidden fontWeight="700" color="press.fg">
    ✓{" "}
  </chakra.span>
)

function Picture({ entry, current, chosen, option }: EntryProps) {
  const { item } = entry
  return (
    <chakra.div {...option} p="1.5" bg={chosen ? "lit" : undefined} data-current={current || undefined}>
      <Face entry={entry} height="6.5rem" />
      <Text
        fontSize="sm"
        fontWeight={current ? "600" : undefined}
        lineHeight="1.3"
        mt="1"
        lineClamp="2"
        wordBreak="break-word"
      >
        {chosen && <Chosen />}
        {item.title}
      </Text>
      <Text fontSize="xs" color={wants(entry) ? "wrong" : "quiet"} truncate>
        {wants(entry) || isOf(item)}
        {item.restricted && t`, signed-in readers`}
      </Text>
    </chakra.div>
  )
}

function Line({ entry, current, chosen, option }: EntryProps) {
  const { item, added_at, uses } = entry
  return (
    <chakra.div
      {...option}
      display="grid"
      gridTemplateColumns={{ base: "3.5rem 1fr", md: "3.5rem minmax(0, 1fr) 7rem 6.5rem 7rem" }}
      alignItems="center"
      gap="3"
      px="1"
      fontSize="sm"
      borderBottomWidth="1px"
      borderColor="line"
      bg={chosen ? "lit" : undefined}
      data-current={current || undefined}
    >
      <Face entry={entry} height="2.5rem" />
      <chakra.span fontWeight={current ? "600" : undefined} truncate>
        {chosen && <Chosen />}
        {item.title}
        {wants(entry) && (
          <chakra.span color="wrong" fontWeight="400">
            {" "}
            {wants(entry)}
          </chakra.span>
        )}
        {item.restricted && (
          <chakra.span color="waits" fontWeight="400">
            <Trans> signed-in readers</Trans>
          </chakra.span>
        )}
      </chakra.span>
      {[isOf(item), day(added_at), used(uses)].map((words) => (
        <chakra.span key={words} color="quiet" display={{ base: "none", md: "inline" }} truncate>
          {words}
        </chakra.span>
      ))}
    </chakra.div>
  )
}

/** What an item looks like: the picture, the head of a document’s first page, or of what kind it is. */
function Face({ entry, height }: { entry: LibraryEntry; height: string }) {
  const { item } = entry
  const box = { h: height, w: "full", borderWidth: "1px", borderColor: "line", bg: "paper" }
  if (item.thumbnail)
    return (
      <chakra.img
        {...box}
        src={item.thumbnail}
        alt=""
        loading="lazy"
        objectFit={item.kind === "document" ? "cover" : "contain"}
        objectPosition={item.kind === "document" ? "top" : undefined}
        draggable={false}
      />
    )
  return (
    <chakra.span
      {...box}
      display="flex"
      alignItems="center"
      justifyContent="center"
      color="quiet"
      fontSize="xs"
    >
      {item.format}
    </chakra.span>
  )
}

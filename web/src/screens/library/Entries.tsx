import { Box, chakra, Text } from "@chakra-ui/react"
import { type KeyboardEvent, useEffect, useRef } from "react"
import type { LibraryEntry } from "../../api/client"
import { day, kilobytes } from "../../look/words"

interface Props {
  entries: LibraryEntry[]
  lines: boolean
  current: number | null
  onCurrent(id: number): void
  more: boolean
  /** Called when the end comes into view. */
  onMore(): void
}

const used = (count: number) =>
  count === 0 ? "used nowhere" : count === 1 ? "on 1 page" : `on ${count} pages`
const wants = ({ item }: LibraryEntry) => item.kind === "picture" && !item.alt

/** The items, as pictures or as lines: one stop for Tab, arrows within. */
export function Entries({ entries, lines, current, onCurrent, more, onMore }: Props) {
  const list = useRef<HTMLUListElement>(null)
  const end = useRef<HTMLDivElement>(null)
  const reached = useRef(onMore)
  reached.current = onMore
  useEffect(() => {
    if (!end.current || !more) return
    const observer = new IntersectionObserver(
      (seen) => seen.some((each) => each.isIntersecting) && reached.current(),
    )
    observer.observe(end.current)
    return () => observer.disconnect()
  }, [more])
  const index = entries.findIndex(({ item }) => item.id === current)
  const key = (event: KeyboardEvent) => {
    const columns = lines ? 1 : columnsOf(list.current)
    const step = { ArrowDown: columns, ArrowUp: -columns, ArrowRight: 1, ArrowLeft: -1 }[event.key]
    const wanted = event.key === "Home" ? 0 : event.key === "End" ? entries.length - 1 : index + (step ?? 0)
    const next = entries[wanted]
    if ((!step && event.key !== "Home" && event.key !== "End") || !next) return
    event.preventDefault()
    onCurrent(next.item.id)
    list.current?.querySelector(`#entry-${next.item.id}`)?.scrollIntoView({ block: "nearest" })
  }
  return (
    <Box flex="1" minH="0" overflowY="auto" px="5" py="3">
      <chakra.ul
        ref={list}
        role="listbox"
        aria-label="Items"
        tabIndex={0}
        aria-activedescendant={current === null ? undefined : `entry-${current}`}
        listStyleType="none"
        display="grid"
        gap={lines ? "0" : "4"}
        gridTemplateColumns={lines ? "1fr" : "repeat(auto-fill, minmax(9.5rem, 1fr))"}
        onKeyDown={key}
      >
        {entries.map((entry) => {
          const shown = { entry, current: entry.item.id === current, onPress: () => onCurrent(entry.item.id) }
          return lines ? <Line key={entry.item.id} {...shown} /> : <Picture key={entry.item.id} {...shown} />
        })}
      </chakra.ul>
      <Box ref={end} h="1px" />
    </Box>
  )
}

const columnsOf = (list: HTMLElement | null) =>
  list ? getComputedStyle(list).gridTemplateColumns.split(" ").length : 1

interface EntryProps {
  entry: LibraryEntry
  current: boolean
  onPress(): void
}

const optionOf = (id: number, current: boolean, onPress: () => void) => ({
  id: `entry-${id}`,
  role: "option",
  "aria-selected": current,
  onClick: onPress,
  cursor: "pointer",
})

function Picture({ entry, current, onPress }: EntryProps) {
  const { item } = entry
  return (
    <chakra.li
      {...optionOf(item.id, current, onPress)}
      p="1.5"
      outline={current ? "3px solid" : undefined}
      outlineColor="press.solid"
    >
      <Face entry={entry} height="6.5rem" />
      <Text fontSize="sm" fontWeight={current ? "600" : undefined} lineHeight="1.3" mt="1" lineClamp="2">
        {item.title}
      </Text>
      <Text fontSize="xs" color={wants(entry) ? "wrong" : "quiet"}>
        {wants(entry) ? "no alt text" : `${item.format}, ${kilobytes(item.size)}`}
      </Text>
    </chakra.li>
  )
}

function Line({ entry, current, onPress }: EntryProps) {
  const { item, added_at, uses } = entry
  return (
    <chakra.li
      {...optionOf(item.id, current, onPress)}
      display="grid"
      gridTemplateColumns={{ base: "3.5rem 1fr", md: "3.5rem minmax(0, 1fr) 6rem 7rem 7rem" }}
      alignItems="center"
      gap="3"
      py="1.5"
      px="1"
      fontSize="sm"
      borderBottomWidth="1px"
      borderColor="line"
      bg={current ? "lit" : undefined}
      outline={current ? "2px solid" : undefined}
      outlineColor="press.solid"
    >
      <Face entry={entry} height="2.25rem" />
      <chakra.span fontWeight={current ? "600" : undefined}>
        {item.title}
        {wants(entry) && (
          <chakra.span color="wrong" fontWeight="400">
            {" "}
            no alt text
          </chakra.span>
        )}
      </chakra.span>
      {[`${item.format}, ${kilobytes(item.size)}`, day(added_at), used(uses)].map((words) => (
        <chakra.span key={words} color="quiet" display={{ base: "none", md: "inline" }}>
          {words}
        </chakra.span>
      ))}
    </chakra.li>
  )
}

/** What an item looks like: the picture, or the kind of a document. */
function Face({ entry, height }: { entry: LibraryEntry; height: string }) {
  const { item } = entry
  const box = { h: height, w: "full", borderWidth: "1px", borderColor: "line", bg: "paper" }
  if (item.thumbnail)
    return <chakra.img {...box} src={item.thumbnail} alt="" loading="lazy" objectFit="contain" />
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

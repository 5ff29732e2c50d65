/** What stands in a list of the particulars, in an order of its own: moved by drag, by keys and by press, taken out. */
import { Button, chakra, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { Fragment, type Node } from "prosemirror-model"
import { type ReactNode, useEffect, useRef, useState } from "react"
import { PRESSED, pressedPart } from "../../../editor/kinds/drawn"
import type { Sheet } from "../../../editor/sheet"
import { say } from "../../../look/heard"

/** The parts of a block that is shown as a whole, and what is done to them. Each is one step of undo. */
export function useEntries(sheet: Sheet, position: number, node: Node) {
  const begun = useRef("")
  const [pressed, setPressed] = usePressed(sheet, position)
  const entries: Node[] = []
  node.forEach((each) => {
    entries.push(each)
  })
  /** What is typed in one field in one go is one step of undo. */
  const put = (made: Node, field = "") => {
    sheet.setWhole(position, made, field !== "" && field === begun.current)
    begun.current = field
  }
  const withEntries = (next: readonly Node[]) => node.copy(Fragment.from(next))
  const replace = (index: number, made: Node, field: string) =>
    put(withEntries(entries.map((each, place) => (place === index ? made : each))), `${field} ${index}`)
  const change = (index: number, attrs: Record<string, unknown>, field: string) => {
    const each = entries[index]
    if (each) replace(index, each.type.create({ ...each.attrs, ...attrs }, each.content), field)
  }
  const move = (from: number, to: number) => {
    if (to < 0 || to >= entries.length || from === to) return
    const next = entries.slice()
    const [moved] = next.splice(from, 1)
    if (!moved) return
    next.splice(to, 0, moved)
    setPressed(null)
    put(withEntries(next))
    say(t`Moved to place ${to + 1} of ${entries.length}`)
  }
  const takeOut = (index: number) => {
    setPressed(null)
    put(withEntries(entries.filter((_, place) => place !== index)))
  }
  /** Set attributes of the whole. */
  const set = (attrs: Record<string, unknown>, field = "") =>
    put(node.type.create({ ...node.attrs, ...attrs }, node.content), field)
  return { entries, pressed, put, withEntries, replace, change, move, takeOut, set }
}

/** A press on a part of the block on the sheet; each is one of its own. */
interface Pressed {
  index: number
}

function usePressed(sheet: Sheet, position: number) {
  const [pressed, setPressed] = useState<Pressed | null>(null)
  useEffect(() => {
    const block = sheet.view.nodeDOM(position)
    if (!block) return
    const read = () => {
      const index = pressedPart(block)
      if (index !== null) setPressed({ index })
    }
    read()
    block.addEventListener(PRESSED, read)
    return () => block.removeEventListener(PRESSED, read)
  }, [sheet, position])
  return [pressed, setPressed] as const
}

/** How many entries are drawn at first, and how many more at each press: each has fields of its own. */
const AT_ONCE = 60

/** The entries of a list that are drawn by now, that of a pressed part among them, and a press for more. */
export function useFew<Each>(entries: readonly Each[], pressed: Pressed | null) {
  const [asked, setMost] = useState(AT_ONCE)
  const most = Math.max(asked, pressed ? pressed.index + 1 : 0)
  const left = entries.length - most
  const more = left > 0 && (
    <Button size="xs" variant="outline" alignSelf="flex-start" onClick={() => setMost(most + AT_ONCE)}>
      {plural(left, { one: "Show the last one", other: "Show more of the # others" })}
    </Button>
  )
  return { few: entries.slice(0, most), more }
}

interface EntryProps {
  index: number
  pressed: Pressed | null
  count: number
  /** What it is called where something is done to it: “document 2”. */
  what: string
  name: string
  told?: string
  gone?: boolean
  picture?: string
  editable: boolean
  children: ReactNode
  onMove(to: number): void
  onDropOf(from: number): void
  onTakeOut(): void
}

const DRAGGED = "application/x-stillpage-entry"

export function Entry(props: EntryProps) {
  const { index, count, what, name, told, gone, picture, editable, children, onMove, onDropOf, onTakeOut } =
    props
  const line = useRef<HTMLLIElement>(null)
  const pressed = props.pressed?.index === index ? props.pressed : null
  useEffect(() => {
    if (pressed) void line.current?.scrollIntoView({ block: "nearest" })
  }, [pressed])
  return (
    <chakra.li
      ref={line}
      aria-current={pressed ? "true" : undefined}
      py="3"
      ms="-11px"
      ps="2"
      borderTopWidth="1px"
      borderTopColor="line"
      borderStartWidth="3px"
      borderStartColor={pressed ? "press.fg" : "transparent"}
      draggable={editable}
      onDragStart={(event) => event.dataTransfer.setData(DRAGGED, String(index))}
      onDragOver={(event) => event.dataTransfer.types.includes(DRAGGED) && event.preventDefault()}
      onDrop={(event) => {
        const from = event.dataTransfer.getData(DRAGGED)
        if (!from) return
        event.preventDefault()
        event.stopPropagation()
        onDropOf(Number(from))
      }}
      onKeyDown={(event) => {
        const step = { ArrowUp: -1, ArrowDown: 1 }[event.key]
        if (!editable || !step || !event.altKey) return
        event.preventDefault()
        onMove(index + step)
      }}
    >
      <Stack gap="2">
        <HStack gap="2" align="flex-start">
          {picture && (
            <chakra.img src={picture} alt="" w="3.6rem" h="2.7rem" objectFit="cover" flexShrink="0" />
          )}
          <Text fontSize="sm" fontWeight="600" wordBreak="break-word">
            {index + 1}. {name}{" "}
            {told && (
              <chakra.span color={gone ? "wrong" : "quiet"} fontWeight="400">
                {told}
              </chakra.span>
            )}
          </Text>
        </HStack>
        {children}
        {editable && (
          <HStack gap="1">
            <Button
              size="xs"
              variant="outline"
              aria-label={t`Move ${what} up`}
              title={t`Move up (Alt+↑)`}
              disabled={index === 0}
              onClick={() => onMove(index - 1)}
            >
              ↑
            </Button>
            <Button
              size="xs"
              variant="outline"
              aria-label={t`Move ${what} down`}
              title={t`Move down (Alt+↓)`}
              disabled={index === count - 1}
              onClick={() => onMove(index + 1)}
            >
              ↓
            </Button>
            <Button size="xs" variant="outline" aria-label={t`Take ${what} out`} onClick={onTakeOut}>
              <Trans>Take out</Trans>
            </Button>
          </HStack>
        )}
      </Stack>
    </chakra.li>
  )
}

interface EntryWordsProps {
  label: string
  /** What stands above it; `label` says the same with the number of the entry. */
  above: string
  value: string | null
  placeholder?: string
  maxLength: number
  disabled: boolean
  onWords(words: string | null): void
}

/** A line of words within an entry, named by what stands before it. */
export function EntryWords({ label, above, value, onWords, ...rest }: EntryWordsProps) {
  return (
    <div>
      <Text fontSize="xs" color="quiet" aria-hidden>
        {above}
      </Text>
      <Input
        size="sm"
        aria-label={label}
        _placeholder={{ color: "quiet" }}
        value={value ?? ""}
        bg="paper"
        borderColor="edge"
        onChange={(event) => onWords(event.target.value || null)}
        {...rest}
      />
    </div>
  )
}

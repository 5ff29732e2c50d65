import { Button, chakra, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { Fragment, type Node } from "prosemirror-model"
import { useRef, useState } from "react"
import { answers } from "../../../api/answers"
import { ask, client, type ItemOut } from "../../../api/client"
import { labelOf } from "../../../document/downloads"
import { longestOf } from "../../../document/rules"
import { kinds } from "../../../editor/commands"
import { say } from "../../../look/heard"
import { Tick } from "./covers"
import { Remove, Section, type ShownProps, Words } from "./parts"
import { useKnown } from "./useKnown"

/** The particulars of a list of downloads: its documents in their order, and what is said of each. */
export function DownloadsParticulars({ page, sheet, known, position, node, editable }: ShownProps) {
  useKnown(known)
  const begun = useRef("")
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
  const change = (index: number, attrs: Record<string, unknown>, field: string) =>
    put(
      withEntries(
        entries.map((each, place) =>
          place === index ? each.type.create({ ...each.attrs, ...attrs }) : each,
        ),
      ),
      `${field} ${index}`,
    )
  const move = (from: number, to: number) => {
    if (to < 0 || to >= entries.length || from === to) return
    const next = entries.slice()
    const [moved] = next.splice(from, 1)
    if (!moved) return
    next.splice(to, 0, moved)
    put(withEntries(next))
    say(t`Moved to place ${to + 1} of ${entries.length}`)
  }
  const add = (item: ItemOut) => {
    known.add([item])
    put(withEntries([...entries, kinds.download.create({ item: item.id })]))
    say(t`Put into the list: ${item.title}`)
  }
  return (
    <Section title={t`This list of downloads`}>
      <Words
        label={t`Title`}
        value={node.attrs.title ?? ""}
        help={t`Stands above the list.`}
        maxLength={longestOf("downloads", "title")}
        disabled={!editable}
        onWords={(words) =>
          put(node.type.create({ ...node.attrs, title: words || null }, node.content), "title")
        }
      />
      <chakra.ol listStyleType="none" aria-label={t`Documents of the list`}>
        {entries.map((each, index) => (
          <Entry
            // biome-ignore lint/suspicious/noArrayIndexKey: one document may stand in a list twice
            key={index}
            index={index}
            count={entries.length}
            node={each}
            item={known.item(each.attrs.item)}
            language={page.site.language}
            editable={editable}
            onChange={(attrs, field) => change(index, attrs, field)}
            onMove={(to) => move(index, to)}
            onDropOf={(from) => move(from, index)}
            onTakeOut={() => put(withEntries(entries.filter((_, place) => place !== index)))}
          />
        ))}
      </chakra.ol>
      {editable && <Adding site={page.site.id} onItem={add} />}
      {editable && (
        <Tick
          checked={node.attrs.new_window}
          onChange={(window) => put(node.type.create({ ...node.attrs, new_window: window }, node.content))}
        >
          <Trans>Each opens in a window of its own; readers are told</Trans>
        </Tick>
      )}
      {editable && <Remove sheet={sheet} position={position} node={node} />}
    </Section>
  )
}

interface EntryProps {
  index: number
  count: number
  node: Node
  item: ItemOut | undefined
  language: string
  editable: boolean
  onChange(attrs: Record<string, unknown>, field: string): void
  onMove(to: number): void
  onDropOf(from: number): void
  onTakeOut(): void
}

const DRAGGED = "application/x-stillpage-entry"

/** One document: its words and description, and its place among the others by drag, by keys and by press. */
function Entry(props: EntryProps) {
  const { index, count, node, item, language, editable, onChange, onMove, onDropOf, onTakeOut } = props
  const name = node.attrs.words || item?.title || t`A document that is gone`
  const place = index + 1
  return (
    <chakra.li
      py="3"
      borderTopWidth="1px"
      borderColor="line"
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
        <Text fontSize="sm" fontWeight="600" wordBreak="break-word">
          {place}. {name}{" "}
          <chakra.span color={item ? "quiet" : "wrong"} fontWeight="400">
            {item ? labelOf(item, language) : t`The library does not have it any more.`}
          </chakra.span>
        </Text>
        <Input
          size="sm"
          aria-label={t`Words of document ${place}`}
          placeholder={item?.title}
          _placeholder={{ color: "quiet" }}
          value={node.attrs.words ?? ""}
          maxLength={longestOf("download", "words")}
          disabled={!editable}
          bg="paper"
          borderColor="edge"
          onChange={(event) => onChange({ words: event.target.value || null }, "words")}
        />
        <Input
          size="sm"
          aria-label={t`Description of document ${place}`}
          placeholder={t`a line below it`}
          _placeholder={{ color: "quiet" }}
          value={node.attrs.description ?? ""}
          maxLength={longestOf("download", "description")}
          disabled={!editable}
          bg="paper"
          borderColor="edge"
          onChange={(event) => onChange({ description: event.target.value || null }, "description")}
        />
        {editable && (
          <HStack gap="1">
            <Button
              size="xs"
              variant="outline"
              aria-label={t`Move document ${place} up`}
              title={t`Move up (Alt+↑)`}
              disabled={index === 0}
              onClick={() => onMove(index - 1)}
            >
              ↑
            </Button>
            <Button
              size="xs"
              variant="outline"
              aria-label={t`Move document ${place} down`}
              title={t`Move down (Alt+↓)`}
              disabled={index === count - 1}
              onClick={() => onMove(index + 1)}
            >
              ↓
            </Button>
            <Button
              size="xs"
              variant="outline"
              aria-label={t`Take document ${place} out`}
              onClick={onTakeOut}
            >
              <Trans>Take out</Trans>
            </Button>
          </HStack>
        )}
      </Stack>
    </chakra.li>
  )
}

/** Documents of the library by their words. */
function Adding({ site, onItem }: { site: number; onItem(item: ItemOut): void }) {
  const [words, setWords] = useState("")
  const found = useQuery({
    queryKey: answers.found(site, words),
    queryFn: () => ask(client.GET("/api/shelf", { params: { query: { q: words, site } } })),
    placeholderData: (before) => before,
  })
  const documents = found.data?.documents.filter(({ kind }) => kind === "document").slice(0, 8) ?? []
  return (
    <Stack gap="1" role="group" aria-label={t`Another document`}>
      <Input
        size="sm"
        aria-label={t`Find a document for the list`}
        placeholder={t`words of a document`}
        _placeholder={{ color: "quiet" }}
        bg="paper"
        borderColor="edge"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      {documents.map((item) => (
        <Button
          key={item.id}
          size="xs"
          variant="outline"
          h="auto"
          py="1"
          justifyContent="flex-start"
          whiteSpace="normal"
          textAlign="start"
          aria-label={t`Put into the list: ${item.title}`}
          onClick={() => onItem(item)}
        >
          {item.title} {labelOf(item, "")}
        </Button>
      ))}
      <Text role="status" fontSize="xs" color="quiet">
        {found.data && documents.length === 0 ? t`No document has these words.` : ""}
      </Text>
    </Stack>
  )
}

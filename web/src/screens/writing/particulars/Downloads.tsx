import { Button, chakra, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { useState } from "react"
import { answers } from "../../../api/answers"
import { ask, client, type ItemOut } from "../../../api/client"
import { labelOf } from "../../../document/downloads"
import { longestOf } from "../../../document/rules"
import { kinds } from "../../../editor/commands"
import { say } from "../../../look/heard"
import { Tick } from "../../../look/Tick"
import { Entry, EntryWords, useEntries, useFew } from "./entries"
import { Remove, Section, type ShownProps, Words } from "./parts"
import { useKnown } from "./useKnown"

/** The particulars of a list of downloads: its documents in their order, and what is said of each. */
export function DownloadsParticulars({ page, sheet, known, position, node, editable }: ShownProps) {
  useKnown(known)
  const { entries, pressed, put, withEntries, change, move, takeOut } = useEntries(sheet, position, node)
  const { few, more } = useFew(entries, pressed)
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
        {few.map((each, index) => {
          const item = known.item(each.attrs.item)
          const place = index + 1
          return (
            <Entry
              // biome-ignore lint/suspicious/noArrayIndexKey: one document may stand in a list twice
              key={index}
              index={index}
              pressed={pressed}
              count={entries.length}
              what={t`document ${place}`}
              name={each.attrs.words || item?.title || t`A document that is gone`}
              told={item ? labelOf(item, page.site.language) : t`The library does not have it any more.`}
              gone={!item}
              editable={editable}
              onMove={(to) => move(index, to)}
              onDropOf={(from) => move(from, index)}
              onTakeOut={() => takeOut(index)}
            >
              <EntryWords
                label={t`Words of document ${place}`}
                above={t`Words`}
                placeholder={item?.title}
                value={each.attrs.words}
                maxLength={longestOf("download", "words")}
                disabled={!editable}
                onWords={(words) => change(index, { words }, "words")}
              />
              <EntryWords
                label={t`Description of document ${place}`}
                above={t`Description`}
                placeholder={t`a line below it`}
                value={each.attrs.description}
                maxLength={longestOf("download", "description")}
                disabled={!editable}
                onWords={(description) => change(index, { description }, "description")}
              />
            </Entry>
          )
        })}
      </chakra.ol>
      {more}
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

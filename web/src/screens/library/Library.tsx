/** The media library: one screen, looked at as pictures or as lines. */

import { Box, Button, chakra, Heading, HStack, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQueryClient } from "@tanstack/react-query"
import { type ClipboardEvent, useEffect, useRef, useState } from "react"
import { after, forget } from "../../api/answers"
import { ask, client, type Session } from "../../api/client"
import { Act } from "../../look/Act"
import { useChoice } from "../../look/choices"
import { say } from "../../look/heard"
import { Sentence } from "../../look/Sentence"
import { To, Top } from "../../look/Top"
import { useDrop } from "../../look/useDrop"
import { useSending } from "../../look/useSending"
import { useUndoKey } from "../../look/useUndoKey"
import { Adding } from "./Adding"
import { Beside } from "./Beside"
import { Entries } from "./Entries"
import { count, Finder } from "./Finder"
import { Folders, useFolders } from "./Folders"
import { useActs } from "./useActs"
import { useEntry } from "./useEntry"
import { type Asked, useItems } from "./useItems"

export function Library({ session }: { session: Session }) {
  const [asked, setAsked] = useState<Asked>({ q: "", show: "all", order: "newest" })
  const [view, setView] = useChoice("library")
  const lines = view === "lines"
  const [current, setCurrent] = useState(0)
  /** The item whose particulars are shown: it is followed when the list changes, until it leaves it. */
  const [pinned, setPinned] = useState<number | null>(null)
  const followed = useRef<number>(undefined)
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set())
  const [parts, setParts] = useState<number[]>([0])
  const [beside, setBeside] = useState<"commons" | "describing" | null>(null)
  const [deleting, setDeleting] = useState(0)
  const [sideOpen, setSideOpen] = useState(false)
  const aside = useRef<HTMLElement>(null)
  const queries = useQueryClient()
  const acts = useActs()
  const folders = useFolders()
  const items = useItems(asked, parts)
  const limits = { picture: session.upload_limit, document: session.document_limit, film: session.film_limit }
  const { list, dismiss, send, sendAll, fetchFrom, take } = useSending(limits)

  const narrow = (part: Partial<Asked>) => {
    setAsked((before) => ({ ...before, ...part }))
    setCurrent(0)
    setPinned(null)
    setChosen(new Set())
    setParts([0])
  }
  const folder = asked.folder ?? null
  const to = { folder: folder || null }
  const arrived = (item: { id: number } | null) => {
    if (!item) return
    // Whoever is writing beside the items goes on there.
    if (!aside.current?.contains(document.activeElement)) setPinned(item.id)
    void forget(queries, after.library)
  }
  const add = (files: File[]) => void sendAll(files, arrived, to)
  const { over, takes } = useDrop((files) => files.length && add(files))
  useEffect(() => {
    document.title = t`Media library, Still Page`
  }, [])
  const look = (asLines: boolean) => setView(asLines ? "lines" : "pictures")
  useUndoKey(acts.undo)
  const choose = (numbers: ReadonlySet<number>) => {
    setChosen(numbers)
    say(
      numbers.size ? t`${plural(numbers.size, { one: "# item", other: "# items" })} chosen` : t`None chosen`,
    )
  }
  const there = items.at(current)
  const shown = pinned ?? there?.item.id
  const entry = useEntry(shown)
  const brief = there?.item.id === shown ? there : undefined
  const place = shown === undefined ? -1 : items.placeOf(shown)
  const isGone = place < 0 && there !== undefined
  useEffect(() => {
    if (shown === undefined || items.isFormer) return
    if (place >= 0) {
      followed.current = shown
      setCurrent(place)
      setPinned(shown)
    } else if (isGone && followed.current === shown) setPinned(null)
  }, [shown, place, isGone, items.isFormer])
  const go = (index: number) => {
    setCurrent(index)
    setPinned(items.at(index)?.item.id ?? null)
    if (beside) setBeside(null)
    if (matchMedia("(max-width: 61.9em)").matches) aside.current?.scrollIntoView({ block: "start" })
  }
  const all = async () => {
    const numbers = await ask(client.GET("/api/library/numbers", { params: { query: asked } }))
    setChosen(new Set(numbers))
  }
  const paste = (event: ClipboardEvent) => {
    const files = [...event.clipboardData.files]
    if (!files.length || (event.target as Element).matches("input, textarea")) return
    event.preventDefault()
    add(files)
  }
  if (items.error && items.pending)
    return <Sentence title={t`The library cannot be shown`} text={items.error.message} again={items.again} />
  const many = chosen.size > 1 || (chosen.size === 1 && ![...chosen].includes(shown ?? 0))
  return (
    <Box
      display="grid"
      gridTemplateRows="auto minmax(0, 1fr)"
      h={{ base: "auto", lg: "100dvh" }}
      onPaste={paste}
    >
      <Top />
      <chakra.main
        display="grid"
        id="main"
        gridTemplateColumns={{ base: "minmax(0, 1fr)", lg: "14rem minmax(0, 1fr) 21rem" }}
        minH="0"
        bg={over ? "lit" : undefined}
        {...takes}
      >
        <Stack
          as="section"
          aria-label={t`What to show`}
          gap="1"
          p="4"
          borderRightWidth={{ lg: "1px" }}
          borderColor="line"
          overflowY="auto"
        >
          <Heading as="h1" size="2xl" fontWeight="450" mb="3">
            <Trans>Media library</Trans>
          </Heading>
          <Button
            size="sm"
            variant="outline"
            display={{ base: "inline-flex", lg: "none" }}
            aria-expanded={sideOpen}
            onClick={() => setSideOpen(!sideOpen)}
          >
            <Trans>Folders, and adding</Trans>
          </Button>
          <Box display={{ base: sideOpen ? "block" : "none", lg: "block" }}>
            <Folders
              folders={folders}
              folder={folder}
              onFolder={(to) => narrow({ folder: to ?? undefined })}
              acts={acts}
              mayArrange={session.may_arrange}
            />
            <Adding
              uploads={{ list, dismiss }}
              onFiles={add}
              onRecorded={async (file) => {
                const item = await send(file, to)
                arrived(item)
                return item !== null
              }}
              onAddress={(address) => void fetchFrom(address, to).then(arrived)}
              onCommons={session.commons ? () => setBeside("commons") : undefined}
            />
          </Box>
        </Stack>
        <Box display="flex" flexDirection="column" minH="0" minW="0">
          <Finder asked={asked} lines={lines} onNarrow={narrow} onLook={look} />
          <HStack px="5" pt="2" minH="9" justifyContent="space-between" flexWrap="wrap">
            <Text role="status" fontSize="sm" color="quiet">
              {items.pending ? "" : count(items.total, asked)}
            </Text>
            {asked.show === "without alt text" && items.total > 0 && (
              <Act onPress={() => setBeside("describing")}>
                <Trans>Go through them, one after another</Trans>
              </Act>
            )}
          </HStack>
          {!items.pending && items.total === 0 ? (
            <Nothing asked={asked} />
          ) : (
            <Entries
              items={items}
              lines={lines}
              current={Math.min(current, Math.max(0, items.total - 1))}
              chosen={chosen}
              onCurrent={go}
              onChosen={choose}
              onAll={() => void all()}
              onDelete={() => setDeleting((before) => before + 1)}
              onEnter={() => aside.current?.querySelector<HTMLElement>("input, textarea, button")?.focus()}
              onParts={setParts}
            />
          )}
          {(acts.told || acts.wrong) && (
            <HStack px="5" py="2" borderTopWidth="1px" borderColor="line" justifyContent="space-between">
              <Text
                role={acts.wrong ? "alert" : "status"}
                fontSize="sm"
                color={acts.wrong ? "wrong" : undefined}
              >
                {acts.wrong || acts.told?.sentence}
              </Text>
              {!acts.wrong && acts.told?.undo && (
                <Act onPress={() => void acts.undo()}>
                  <Trans>Undo</Trans>
                </Act>
              )}
            </HStack>
          )}
        </Box>
        <Box
          ref={aside}
          as="aside"
          aria-label={t`Particulars`}
          p="4"
          overflowY="auto"
          borderLeftWidth={{ lg: "1px" }}
          borderTopWidth={{ base: "1px", lg: "0" }}
          borderColor="line"
        >
          <Beside
            {...{ beside, chosen, many, folders, acts, entry, brief, limits, session }}
            folder={folders.find(({ id }) => id === folder)}
            deleting={deleting}
            bin={asked.show === "bin"}
            onTake={(id, title) => void take(id, title, to).then(arrived)}
            onClose={() => setBeside(null)}
            onDone={() => setChosen(new Set())}
            onFolder={(to) => narrow({ folder: to ?? undefined })}
          />
        </Box>
      </chakra.main>
    </Box>
  )
}

function Nothing({ asked }: { asked: Asked }) {
  const narrowed = asked.q || asked.show !== "all" || asked.folder !== undefined || asked.tag || asked.site
  return (
    <Text px="5" py="6" color="quiet" maxW="30rem" flex="1">
      {asked.show === "bin" ? (
        t`The bin is empty.`
      ) : narrowed ? (
        t`Nothing in the library is like that.`
      ) : (
        <Trans>
          The library is empty. Drop pictures and documents here, or go to the <To to="/">Contents</To> and
          drop them onto a page.
        </Trans>
      )}
    </Text>
  )
}

/** The media library: one screen, looked at as pictures or as lines. */
import { Box, Button, chakra, Field, Heading, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { useQuery, useQueryClient } from "@tanstack/react-query"
import { type ClipboardEvent, useEffect, useRef, useState } from "react"
import { after, answers, forget, sitesAsked } from "../../api/answers"
import { ask, client, type LibraryEntry, type Session } from "../../api/client"
import { Act } from "../../look/Act"
import { Choice } from "../../look/Choice"
import { Sentence } from "../../look/Sentence"
import { To, Top } from "../../look/Top"
import { useDrop } from "../../look/useDrop"
import { useSending } from "../../look/useSending"
import { Adding } from "./Adding"
import { ChosenItems } from "./Chosen"
import { Commons } from "./Commons"
import { Describing } from "./Describing"
import { Entries } from "./Entries"
import { Folders, OneFolder, useFolders } from "./Folders"
import { ItemParticulars } from "./ItemParticulars"
import { useActs } from "./useActs"
import { type Asked, useItems } from "./useItems"

type Show = NonNullable<Asked["show"]>
type Order = NonNullable<Asked["order"]>

const SHOWS: [Show, string][] = [
  ["all", "Everything"],
  ["pictures", "Pictures"],
  ["documents", "Documents"],
  ["without alt text", "Without alt text"],
  ["used nowhere", "Used nowhere"],
  ["too heavy", "Too heavy"],
  ["for signed-in readers", "For signed-in readers"],
  ["mine", "Added by me"],
  ["recent", "Of the last two weeks"],
  ["bin", "The bin"],
]
const ORDERS: [Order, string][] = [
  ["newest", "newest first"],
  ["title", "by title"],
  ["largest", "largest first"],
]

/** What is kept of how somebody likes to look at it. */
const LOOK = "library:look"

export function Library({ session }: { session: Session }) {
  const [typed, setTyped] = useState("")
  const [asked, setAsked] = useState<Asked>({ q: "", show: "all", order: "newest" })
  const [lines, setLines] = useState(() => localStorage.getItem(LOOK) === "lines")
  const [current, setCurrent] = useState(0)
  const [pinned, setPinned] = useState<number | null>(null)
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set())
  const [parts, setParts] = useState<number[]>([0])
  const [beside, setBeside] = useState<"commons" | "describing" | null>(null)
  const [deleting, setDeleting] = useState(0)
  const [sideOpen, setSideOpen] = useState(false)
  const aside = useRef<HTMLElement>(null)
  const queries = useQueryClient()
  const acts = useActs()
  const folders = useFolders()
  const sites = useQuery(sitesAsked)
  const tags = useQuery({ queryKey: answers.tags, queryFn: () => ask(client.GET("/api/library/tags")) })
  const items = useItems(asked, parts)
  const limits = { picture: session.upload_limit, document: session.document_limit }
  const { list, dismiss, sendAll, fetchFrom, take } = useSending(limits)
  const { may_arrange: mayArrange, may_keep: mayKeep } = session

  const narrow = (part: Partial<Asked>) => {
    setAsked((before) => ({ ...before, ...part }))
    setCurrent(0)
    setPinned(null)
    setChosen(new Set())
    setParts([0])
  }
  const folder = asked.folder ?? null
  const place = { folder: folder || null }
  const arrived = (item: { id: number } | null) => {
    if (!item) return
    setPinned(item.id)
    void forget(queries, after.library)
  }
  const add = (files: File[]) => void sendAll(files, arrived, place)
  const { over, takes } = useDrop((files) => files.length && add(files))
  useEffect(() => {
    document.title = "Media library, Still Page"
  }, [])
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked a moment after the last key
  useEffect(() => {
    if (typed === asked.q) return
    const timer = window.setTimeout(() => narrow({ q: typed }), 150)
    return () => window.clearTimeout(timer)
  }, [typed])

  const look = (asLines: boolean) => {
    setLines(asLines)
    localStorage.setItem(LOOK, asLines ? "lines" : "pictures")
  }
  const shown = pinned ?? items.at(current)?.item.id
  const pin = useQuery({
    queryKey: answers.entry(shown),
    queryFn: () =>
      ask(client.GET("/api/items/{item_id}/entry", { params: { path: { item_id: shown ?? 0 } } })),
    enabled: shown !== undefined,
  })
  const entry = shown === undefined ? undefined : pin.data
  const brief = pinned === null ? items.at(current) : undefined
  const making = entry !== undefined && !entry.item.ready && !entry.item.problem
  useEffect(() => {
    if (!making) return
    const timer = window.setInterval(() => void forget(queries, after.making), 2000)
    return () => window.clearInterval(timer)
  }, [making, queries])
  const go = (index: number) => {
    setCurrent(index)
    setPinned(null)
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
    return <Sentence title="The library cannot be shown" text={items.error.message} again={items.again} />
  const one = folders.find(({ id }) => id === folder)
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
        gridTemplateColumns={{ base: "minmax(0, 1fr)", lg: "14rem minmax(0, 1fr) 21rem" }}
        minH="0"
        bg={over ? "lit" : undefined}
        {...takes}
      >
        <Stack
          as="section"
          aria-label="What to show"
          gap="1"
          p="4"
          borderRightWidth={{ lg: "1px" }}
          borderColor="line"
          overflowY="auto"
        >
          <Heading as="h1" size="2xl" fontWeight="450" mb="3">
            Media library
          </Heading>
          <Button
            size="sm"
            variant="outline"
            display={{ base: "inline-flex", lg: "none" }}
            aria-expanded={sideOpen}
            onClick={() => setSideOpen(!sideOpen)}
          >
            Folders, and adding
          </Button>
          <Box display={{ base: sideOpen ? "block" : "none", lg: "block" }}>
            <Folders
              folders={folders}
              folder={folder}
              onFolder={(to) => narrow({ folder: to ?? undefined })}
              acts={acts}
              mayArrange={mayArrange}
            />
            <Adding
              uploads={{ list, dismiss }}
              onFiles={add}
              onAddress={(address) => void fetchFrom(address, place).then(arrived)}
              onCommons={session.commons ? () => setBeside("commons") : undefined}
            />
          </Box>
        </Stack>
        <Box display="flex" flexDirection="column" minH="0" minW="0">
          <Stack px="5" py="3" gap="2" borderBottomWidth="1px" borderColor="line">
            <HStack gap="3" alignItems="flex-end" flexWrap="wrap">
              <Field.Root flex="1 1 12rem" w="auto">
                <Field.Label fontWeight="600">Find</Field.Label>
                <Input
                  type="search"
                  size="sm"
                  value={typed}
                  placeholder="any word of an item, or in a document"
                  _placeholder={{ color: "quiet" }}
                  bg="paper"
                  borderColor="edge"
                  onChange={(event) => setTyped(event.target.value)}
                />
              </Field.Root>
              <HStack role="group" aria-label="Look at them as" gap="0">
                {[false, true].map((asLines) => (
                  <Button
                    key={String(asLines)}
                    size="sm"
                    variant="outline"
                    aria-pressed={lines === asLines}
                    bg={lines === asLines ? "lit" : undefined}
                    onClick={() => look(asLines)}
                  >
                    {asLines ? "Lines" : "Pictures"}
                  </Button>
                ))}
              </HStack>
            </HStack>
            <HStack gap="3" alignItems="flex-end" flexWrap="wrap">
              <Box w="10.5rem">
                <Choice
                  label="Show"
                  value={asked.show ?? "all"}
                  options={SHOWS}
                  onChoice={(show) => narrow({ show: show as Show })}
                />
              </Box>
              <Box w="7.5rem">
                <Choice
                  label="Order"
                  value={asked.order ?? "newest"}
                  options={ORDERS}
                  onChoice={(order) => narrow({ order: order as Order })}
                />
              </Box>
              {(sites.data?.length ?? 0) > 1 && (
                <Box w="9rem">
                  <Choice
                    label="May be used on"
                    value={String(asked.site ?? "")}
                    options={[
                      ["", "any site"],
                      ...(sites.data ?? []).map(({ id, name }): [string, string] => [String(id), name]),
                    ]}
                    onChoice={(site) => narrow({ site: site ? Number(site) : undefined })}
                  />
                </Box>
              )}
              {(tags.data?.length ?? 0) > 0 && (
                <Box w="7.5rem">
                  <Choice
                    label="Tag"
                    value={asked.tag ?? ""}
                    options={[["", "any"], ...(tags.data ?? []).map((tag): [string, string] => [tag, tag])]}
                    onChoice={(tag) => narrow({ tag: tag || undefined })}
                  />
                </Box>
              )}
            </HStack>
          </Stack>
          <HStack px="5" pt="2" minH="9" justifyContent="space-between" flexWrap="wrap">
            <Text role="status" fontSize="sm" color="quiet">
              {items.pending ? "" : count(items.total, asked)}
            </Text>
            {asked.show === "without alt text" && items.total > 0 && (
              <Act onPress={() => setBeside("describing")}>Go through them, one after another</Act>
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
              onChosen={setChosen}
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
              {!acts.wrong && acts.told?.undo && <Act onPress={() => void acts.undo()}>Undo</Act>}
            </HStack>
          )}
        </Box>
        <Box
          ref={aside}
          as="aside"
          aria-label="Particulars"
          p="4"
          overflowY="auto"
          borderLeftWidth={{ lg: "1px" }}
          borderTopWidth={{ base: "1px", lg: "0" }}
          borderColor="line"
        >
          {beside === "commons" ? (
            <Commons
              onTake={({ id, title }) => void take(id, title, place).then(arrived)}
              onClose={() => setBeside(null)}
            />
          ) : beside === "describing" ? (
            <Describing acts={acts} onClose={() => setBeside(null)} />
          ) : many ? (
            <ChosenItems
              key={deleting}
              numbers={[...chosen]}
              folders={folders}
              acts={acts}
              bin={asked.show === "bin"}
              mayArrange={mayArrange}
              mayKeep={mayKeep}
              onDone={() => setChosen(new Set())}
            />
          ) : (
            <>
              {one && mayArrange && (
                <OneFolder
                  key={`${one.id} ${one.name}`}
                  folder={one}
                  folders={folders}
                  sites={sites.data ?? []}
                  acts={acts}
                  mayKeep={mayKeep}
                  onFolder={(to) => narrow({ folder: to ?? undefined })}
                />
              )}
              {!entry && brief && <Coming entry={brief} />}
              {entry && (
                <ItemParticulars
                  key={entry.item.id}
                  entry={entry}
                  folders={folders}
                  acts={acts}
                  limits={limits}
                  mayArrange={mayArrange}
                  mayKeep={mayKeep}
                />
              )}
            </>
          )}
        </Box>
      </chakra.main>
    </Box>
  )
}

/** What stands where the particulars will be, while they are on their way. */
function Coming({ entry: { item } }: { entry: LibraryEntry }) {
  return (
    <Stack gap="3">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body" wordBreak="break-word">
        {item.title}
      </Heading>
      {item.thumbnail && (
        <chakra.img src={item.thumbnail} alt="" maxH="10rem" objectFit="contain" objectPosition="left" />
      )}
    </Stack>
  )
}

function count(total: number, { q, show }: Asked): string {
  const things = total === 1 ? "1 item" : `${total.toLocaleString("en-GB")} items`
  const which = show === "all" ? "" : `, ${SHOWS.find(([each]) => each === show)?.[1].toLowerCase()}`
  return `${things}${which}${q ? `, with “${q}”` : ""}`
}

function Nothing({ asked }: { asked: Asked }) {
  const narrowed = asked.q || asked.show !== "all" || asked.folder !== undefined || asked.tag || asked.site
  return (
    <Text px="5" py="6" color="quiet" maxW="30rem" flex="1">
      {asked.show === "bin" ? (
        "The bin is empty."
      ) : narrowed ? (
        "Nothing in the library is like that."
      ) : (
        <>
          The library is empty. Drop pictures and documents here, or go to the <To to="/">Contents</To> and
          drop them onto a page.
        </>
      )}
    </Text>
  )
}

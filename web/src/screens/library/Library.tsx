/** The media library: one screen, looked at as pictures or as lines. */
import { Box, Button, chakra, Field, Heading, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { useInfiniteQuery, useQueryClient } from "@tanstack/react-query"
import { useEffect, useState } from "react"
import { ask, client } from "../../api/client"
import { Choice } from "../../look/Choice"
import { Sentence } from "../../look/Sentence"
import { To, Top } from "../../look/Top"
import { useDrop } from "../../look/useDrop"
import { useSending } from "../../look/useSending"
import { Adding } from "./Adding"
import { Entries } from "./Entries"
import { ItemParticulars } from "./ItemParticulars"

const SHOWS = ["all", "pictures", "documents", "without alt text", "used nowhere", "mine"] as const
type Show = (typeof SHOWS)[number]
const ORDERS = ["newest", "title", "largest"] as const
type Order = (typeof ORDERS)[number]

const NAMES: Record<Show, string> = {
  all: "Everything",
  pictures: "Pictures",
  documents: "Documents",
  "without alt text": "Without alt text",
  "used nowhere": "Used nowhere",
  mine: "Added by me",
}

/** What is kept of how somebody likes to look at it. */
const LOOK = "library:look"

export function Library({ uploadLimit }: { uploadLimit: number }) {
  const [typed, setTyped] = useState("")
  const [q, setQ] = useState("")
  const [show, setShow] = useState<Show>("all")
  const [order, setOrder] = useState<Order>("newest")
  const [lines, setLines] = useState(() => localStorage.getItem(LOOK) === "lines")
  const [chosen, setChosen] = useState<number | null>(null)
  const queries = useQueryClient()
  const { list, dismiss, send } = useSending(uploadLimit)
  const add = async (files: File[]) => {
    for (const file of files) {
      const item = await send(file)
      if (!item) continue
      setChosen(item.id)
      queries.invalidateQueries({ queryKey: ["library"] })
    }
  }
  const { over, takes } = useDrop((files) => void add(files))
  useEffect(() => {
    document.title = "Media library, Still Page"
  }, [])
  useEffect(() => {
    const timer = window.setTimeout(() => setQ(typed), 150)
    return () => window.clearTimeout(timer)
  }, [typed])
  const answer = useInfiniteQuery({
    queryKey: ["library", q, show, order],
    queryFn: ({ pageParam }) =>
      ask(client.GET("/api/library", { params: { query: { q, show, order, skip: pageParam } } })),
    initialPageParam: 0,
    getNextPageParam: (last, all) => {
      const shown = all.reduce((sum, part) => sum + part.entries.length, 0)
      return shown < last.total && last.entries.length ? shown : undefined
    },
    placeholderData: (before) => before,
  })
  const entries = answer.data?.pages.flatMap((part) => part.entries) ?? []
  const total = answer.data?.pages.at(-1)?.total ?? 0
  const entry = entries.find(({ item }) => item.id === chosen) ?? entries[0]
  const look = (asLines: boolean) => {
    setLines(asLines)
    localStorage.setItem(LOOK, asLines ? "lines" : "pictures")
  }
  if (answer.error && !answer.data)
    return (
      <Sentence
        title="The library cannot be shown"
        text={answer.error.message}
        again={() => answer.refetch()}
      />
    )
  return (
    <Box display="grid" gridTemplateRows="auto minmax(0, 1fr)" h={{ base: "auto", lg: "100dvh" }}>
      <Top />
      <chakra.main
        display="grid"
        gridTemplateColumns={{ base: "1fr", lg: "13rem minmax(0, 1fr) 20rem" }}
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
          {SHOWS.map((each) => (
            <Button
              key={each}
              variant="plain"
              size="sm"
              px="2"
              justifyContent="flex-start"
              aria-pressed={show === each}
              bg={show === each ? "lit" : undefined}
              fontWeight={show === each ? "600" : "400"}
              textDecoration={show === each ? "underline" : undefined}
              textUnderlineOffset="5px"
              onClick={() => setShow(each)}
            >
              {NAMES[each]}
            </Button>
          ))}
          <Adding uploads={{ list, dismiss }} onFiles={(files) => void add(files)} />
        </Stack>
        <Box display="flex" flexDirection="column" minH="0" minW="0">
          <HStack
            px="5"
            py="3"
            gap="4"
            alignItems="flex-end"
            flexWrap="wrap"
            borderBottomWidth="1px"
            borderColor="line"
          >
            <Field.Root flex="1 1 14rem" w="auto">
              <Field.Label>Find</Field.Label>
              <Input
                type="search"
                size="sm"
                value={typed}
                placeholder="words of a title, an alt text, a credit …"
                _placeholder={{ color: "quiet" }}
                bg="paper"
                borderColor="edge"
                onChange={(event) => setTyped(event.target.value)}
              />
            </Field.Root>
            <Box w="9rem">
              <Choice
                label="Order"
                value={order}
                options={[
                  ["newest", "newest first"],
                  ["title", "by title"],
                  ["largest", "largest first"],
                ]}
                onChoice={(choice) => setOrder(ORDERS.find((each) => each === choice) ?? "newest")}
              />
            </Box>
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
          <Text role="status" px="5" pt="2" fontSize="sm" color="quiet">
            {answer.isPending ? "" : count(total, q, show)}
          </Text>
          {!answer.isPending && total === 0 ? (
            <Nothing narrowed={q !== "" || show !== "all"} />
          ) : (
            <Entries
              entries={entries}
              lines={lines}
              current={entry?.item.id ?? null}
              onCurrent={setChosen}
              more={answer.hasNextPage}
              onMore={() => {
                if (!answer.isFetchingNextPage) void answer.fetchNextPage()
              }}
            />
          )}
        </Box>
        <Box
          as="aside"
          aria-label="Particulars"
          p="4"
          overflowY="auto"
          borderLeftWidth={{ lg: "1px" }}
          borderTopWidth={{ base: "1px", lg: "0" }}
          borderColor="line"
        >
          {entry && <ItemParticulars key={entry.item.id} entry={entry} />}
        </Box>
      </chakra.main>
    </Box>
  )
}

function count(total: number, q: string, show: Show): string {
  const things = total === 1 ? "1 item" : `${total.toLocaleString("en-GB")} items`
  const which = show === "all" ? "" : `, ${NAMES[show].toLowerCase()}`
  return `${things}${which}${q ? `, with “${q}”` : ""}`
}

function Nothing({ narrowed }: { narrowed: boolean }) {
  return (
    <Text px="5" py="6" color="quiet" maxW="30rem">
      {narrowed ? (
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

/** What of the library is shown: by words, by what it is or lacks, in an order; as pictures or as lines. */
import { Box, Field, HStack, Input, Stack } from "@chakra-ui/react"
import { useQuery } from "@tanstack/react-query"
import { useEffect, useState } from "react"
import { answers, sitesAsked } from "../../api/answers"
import { ask, client } from "../../api/client"
import { Act } from "../../look/Act"
import { Choice } from "../../look/Choice"
import { Toolbar } from "../../look/Toolbar"
import type { Asked } from "./useItems"

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

/** How many there are, and which. */
export function count(total: number, { q, show }: Asked): string {
  const things = total === 1 ? "1 item" : `${total.toLocaleString("en-GB")} items`
  const which = show === "all" ? "" : `, ${SHOWS.find(([each]) => each === show)?.[1].toLowerCase()}`
  return `${things}${which}${q ? `, with “${q}”` : ""}`
}

interface Props {
  asked: Asked
  lines: boolean
  onNarrow(part: Partial<Asked>): void
  onLook(asLines: boolean): void
}

export function Finder({ asked, lines, onNarrow, onLook }: Props) {
  const [typed, setTyped] = useState(asked.q ?? "")
  const sites = useQuery(sitesAsked)
  const tags = useQuery({ queryKey: answers.tags, queryFn: () => ask(client.GET("/api/library/tags")) })
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked a moment after the last key
  useEffect(() => {
    if (typed === asked.q) return
    const timer = window.setTimeout(() => onNarrow({ q: typed }), 150)
    return () => window.clearTimeout(timer)
  }, [typed])

  return (
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
        <Toolbar aria-label="View as" gap="1">
          {[false, true].map((asLines) => (
            <Act key={String(asLines)} pressed={lines === asLines} onPress={() => onLook(asLines)}>
              {asLines ? "Lines" : "Pictures"}
            </Act>
          ))}
        </Toolbar>
      </HStack>
      <HStack gap="3" alignItems="flex-end" flexWrap="wrap">
        <Box w="10.5rem">
          <Choice
            label="Show"
            value={asked.show ?? "all"}
            options={SHOWS}
            onChoice={(show) => onNarrow({ show: show as Show })}
          />
        </Box>
        <Box w="7.5rem">
          <Choice
            label="Order"
            value={asked.order ?? "newest"}
            options={ORDERS}
            onChoice={(order) => onNarrow({ order: order as Order })}
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
              onChoice={(site) => onNarrow({ site: site ? Number(site) : undefined })}
            />
          </Box>
        )}
        {(tags.data?.length ?? 0) > 0 && (
          <Box w="7.5rem">
            <Choice
              label="Tag"
              value={asked.tag ?? ""}
              options={[["", "any"], ...(tags.data ?? []).map((tag): [string, string] => [tag, tag])]}
              onChoice={(tag) => onNarrow({ tag: tag || undefined })}
            />
          </Box>
        )}
      </HStack>
    </Stack>
  )
}

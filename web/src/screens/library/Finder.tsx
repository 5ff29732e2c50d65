/** What of the library is shown: by words, by what it is or lacks, in an order; as pictures or as lines. */

import { Box, Field, HStack, Input, Stack } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
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
  ["all", t`Everything`],
  ["pictures", t`Pictures`],
  ["documents", t`Documents`],
  ["films and sounds", t`Films and sounds`],
  ["animations", t`Animations`],
  ["posts", t`Posts`],
  ["without alt text", t`Without alt text`],
  ["used nowhere", t`Used nowhere`],
  ["too heavy", t`Too heavy`],
  ["for signed-in readers", t`For signed-in readers`],
  ["mine", t`Added by me`],
  ["recent", t`Of the last two weeks`],
  ["bin", t`The bin`],
]
const ORDERS: [Order, string][] = [
  ["newest", t`newest first`],
  ["title", t`by title`],
  ["largest", t`largest first`],
]

/** How many there are, and which. */
export function count(total: number, { q, show }: Asked): string {
  const things = plural(total, { one: "# item", other: "# items" })
  const which = show === "all" ? "" : `, ${SHOWS.find(([each]) => each === show)?.[1].toLowerCase()}`
  return `${things}${which}${q ? t`, with “${q}”` : ""}`
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
          <Field.Label fontWeight="600">
            <Trans>Find</Trans>
          </Field.Label>
          <Input
            type="search"
            size="sm"
            value={typed}
            placeholder={t`any word of an item, or in a document`}
            _placeholder={{ color: "quiet" }}
            bg="paper"
            borderColor="edge"
            onChange={(event) => setTyped(event.target.value)}
          />
        </Field.Root>
        <Toolbar aria-label={t`View as`} gap="1">
          {[false, true].map((asLines) => (
            <Act key={String(asLines)} pressed={lines === asLines} onPress={() => onLook(asLines)}>
              {asLines ? t`Lines` : t`Pictures`}
            </Act>
          ))}
        </Toolbar>
      </HStack>
      <HStack gap="3" alignItems="flex-end" flexWrap="wrap">
        <Box w="10.5rem">
          <Choice
            label={t`Show`}
            value={asked.show ?? "all"}
            options={SHOWS}
            onChoice={(show) => onNarrow({ show: show as Show })}
          />
        </Box>
        <Box w="7.5rem">
          <Choice
            label={t`Order`}
            value={asked.order ?? "newest"}
            options={ORDERS}
            onChoice={(order) => onNarrow({ order: order as Order })}
          />
        </Box>
        {(sites.data?.length ?? 0) > 1 && (
          <Box w="9rem">
            <Choice
              label={t`May be used on`}
              value={String(asked.site ?? "")}
              options={[
                ["", t`any site`],
                ...(sites.data ?? []).map(({ id, name }): [string, string] => [String(id), name]),
              ]}
              onChoice={(site) => onNarrow({ site: site ? Number(site) : undefined })}
            />
          </Box>
        )}
        {(tags.data?.length ?? 0) > 0 && (
          <Box w="7.5rem">
            <Choice
              label={t`Tag`}
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

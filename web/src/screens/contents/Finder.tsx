/** Looking for pages: by words of title and text, by address, by state, by who changed them and when. */
import { Button, chakra, Field, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useInfiniteQuery } from "@tanstack/react-query"
import { answers } from "../../api/answers"
import { ask, client, type FoundPage } from "../../api/client"
import { Choice } from "../../look/Choice"
import { Folded } from "../../look/Folded"
import { Gauge, STATE_WORDS } from "../../look/Gauge"
import { To } from "../../look/Top"
import { moment } from "../../look/words"

export interface Asked {
  q: string
  state: "" | "unpublished" | "live" | "changed" | "hidden"
  sort: "" | "page" | "link"
  by: string
  since: string
}

export const NOTHING: Asked = { q: "", state: "", sort: "", by: "", since: "" }
export const isAsked = (asked: Asked) => Object.values(asked).some((each) => each.trim() !== "")

const STATES: [Asked["state"], string][] = [
  ["", t`any state`],
  ["unpublished", STATE_WORDS.unpublished],
  ["live", STATE_WORDS.live],
  ["changed", STATE_WORDS.changed],
  ["hidden", t`Hidden`],
]
const SORTS: [Asked["sort"], string][] = [
  ["", t`pages and links`],
  ["page", t`pages`],
  ["link", t`links elsewhere`],
]
const DAYS: [string, string][] = [
  ["", t`at any time`],
  ["1", t`since yesterday`],
  ["7", t`in the last week`],
  ["30", t`in the last month`],
  ["365", t`in the last year`],
]

export function Finder({ asked, onAsk }: { asked: Asked; onAsk(part: Partial<Asked>): void }) {
  return (
    <Stack as="search" aria-label={t`Find pages`} gap="2" mb="4">
      <HStack gap="2" align="flex-end" flexWrap="wrap">
        <Field.Root flex="1 1 16rem" w="auto">
          <Field.Label srOnly>
            <Trans>Find pages by words or address</Trans>
          </Field.Label>
          <Input
            type="search"
            size="sm"
            placeholder={t`Find pages by words, or by an address that begins with /`}
            _placeholder={{ color: "quiet" }}
            bg="paper"
            borderColor="edge"
            value={asked.q}
            maxLength={200}
            onChange={(event) => onAsk({ q: event.target.value })}
            onKeyDown={(event) => {
              if (event.key === "Escape") onAsk(NOTHING)
            }}
          />
        </Field.Root>
        {isAsked(asked) && (
          <Button size="sm" variant="outline" onClick={() => onAsk(NOTHING)}>
            <Trans>Show the Contents</Trans>
          </Button>
        )}
      </HStack>
      <Folded label={t`Narrow by state, sort, person or time`} open={isAsked({ ...asked, q: "" })}>
        <HStack gap="3" align="flex-end" flexWrap="wrap">
          <Choice
            label={t`State`}
            value={asked.state}
            options={STATES}
            onChoice={(state) => onAsk({ state: state as Asked["state"] })}
          />
          <Choice
            label={t`Sort of entry`}
            value={asked.sort}
            options={SORTS}
            onChoice={(sort) => onAsk({ sort: sort as Asked["sort"] })}
          />
          <Field.Root w="11rem">
            <Field.Label>
              <Trans>Changed by</Trans>
            </Field.Label>
            <Input
              size="sm"
              value={asked.by}
              placeholder={t`anybody`}
              _placeholder={{ color: "quiet" }}
              bg="paper"
              borderColor="edge"
              onChange={(event) => onAsk({ by: event.target.value })}
            />
          </Field.Root>
          <Choice
            label={t`Changed`}
            value={asked.since}
            options={DAYS}
            onChoice={(since) => onAsk({ since })}
          />
        </HStack>
      </Folded>
    </Stack>
  )
}

interface FoundProps {
  site: number
  asked: Asked
  onChoose(page: FoundPage): void
  current: number | null
}

/** The pages that were found, each with those above it. */
export function FoundPages({ site, asked, onChoose, current }: FoundProps) {
  const since = asked.since
    ? new Date(Math.floor(Date.now() / 60_000) * 60_000 - Number(asked.since) * 86_400_000).toISOString()
    : undefined
  const found = useInfiniteQuery({
    queryKey: answers.foundPages(site, asked),
    queryFn: ({ pageParam: skip }) =>
      ask(
        client.GET("/api/sites/{site_id}/find", {
          params: { path: { site_id: site }, query: { ...asked, since, skip } },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last, all) => (last.more ? all.flatMap(({ pages }) => pages).length : undefined),
    placeholderData: (before) => before,
    staleTime: 0,
  })
  const pages = found.data?.pages.flatMap((part) => part.pages) ?? []
  return (
    <section aria-label={t`Pages found`}>
      <Text role="status" color="quiet" fontSize="sm" mb="2">
        {found.error?.message ??
          (found.data && !pages.length
            ? t`No page is like that. Try fewer words, or another state.`
            : found.data && !found.hasNextPage
              ? t`${pages.length} found.`
              : "")}
      </Text>
      <chakra.ul listStyleType="none">
        {pages.map((page) => (
          <chakra.li
            key={page.id}
            py="2"
            ps="2"
            borderTopWidth="1px"
            borderTopColor="line"
            borderLeftWidth="3px"
            borderLeftColor={page.id === current ? "press.solid" : "transparent"}
          >
            <HStack gap="3" align="baseline" flexWrap="wrap">
              <Button
                variant="plain"
                h="auto"
                p="0"
                fontFamily="heading"
                fontSize="lg"
                fontWeight="400"
                whiteSpace="normal"
                overflowWrap="anywhere"
                textAlign="start"
                aria-current={page.id === current || undefined}
                onClick={() => onChoose(page)}
              >
                {page.title}
              </Button>
              <HStack gap="2" fontSize="sm">
                <Gauge state={page.state} />
                {STATE_WORDS[page.state]}
              </HStack>
              {!page.elsewhere && <To to={`/pages/${page.id}`}>{t`Open`}</To>}
            </HStack>
            <Text fontSize="sm" color="quiet">
              {[...page.trail.map(({ title }) => title), page.path].join(" / ")}
            </Text>
            <Text fontSize="sm" color="quiet">
              <Trans>
                Changed by {page.changed_by}, {moment(page.changed_at)}
              </Trans>
            </Text>
          </chakra.li>
        ))}
      </chakra.ul>
      {found.hasNextPage && (
        <Button size="sm" variant="outline" mt="3" onClick={() => void found.fetchNextPage()}>
          <Trans>Show more</Trans>
        </Button>
      )}
    </section>
  )
}

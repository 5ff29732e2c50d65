/** What stands beside the tree of the page that is chosen there: its state, where it shows, what leads to it, and what
 * can be done. */
import { Button, chakra, Heading, HStack, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { Link } from "react-router"
import { answers } from "../../api/answers"
import { ask, type ContentsEntry, client, type PageFacts } from "../../api/client"
import { Act } from "../../look/Act"
import { Folded } from "../../look/Folded"
import { Gauge, STATE_WORDS } from "../../look/Gauge"
import { To } from "../../look/Top"
import { moment } from "../../look/words"
import { AddressPart, LeadsElsewhere, Names } from "./Named"
import { Previews } from "./Previews"
import type { Arranging } from "./useArranging"

interface Props {
  entry: ContentsEntry
  site: number
  writes: boolean
  arranging: Arranging
}

export function OnePage({ entry, site, writes, arranging }: Props) {
  const params = { path: { page_id: entry.id } }
  const facts = useQuery({
    queryKey: answers.facts(entry.id),
    queryFn: () => ask(client.GET("/api/pages/{page_id}/facts", { params })),
    staleTime: 0,
  })
  const found = facts.data
  const state = found?.state ?? entry.state
  return (
    <Stack as="section" aria-label={entry.title} gap="4">
      <div>
        <Heading as="h2" size="xl" fontWeight="450" wordBreak="break-word">
          {entry.title}
        </Heading>
        <HStack gap="2" fontSize="sm" mt="1">
          <Gauge state={state} />
          {STATE_WORDS[state]}
        </HStack>
        {found && (
          <Text fontSize="sm" color="quiet" mt="1">
            <Trans>
              Written by {found.saved_by}, {moment(found.saved_at)}.
            </Trans>{" "}
            {found.published_at && t`Published by ${found.published_by}, ${moment(found.published_at)}.`}
          </Text>
        )}
      </div>
      <HStack gap="2" flexWrap="wrap">
        {!entry.elsewhere && (
          <Button asChild size="sm">
            <Link to={`/pages/${entry.id}`}>{writes ? t`Write on it` : t`Open it`}</Link>
          </Button>
        )}
        {found && state !== "unpublished" && (
          <chakra.a
            href={found.elsewhere || found.address}
            target="_blank"
            rel="noopener"
            fontSize="sm"
            color="press.fg"
            textDecoration="underline"
            textUnderlineOffset="3px"
          >
            <Trans>As readers have it (new window)</Trans>
          </chakra.a>
        )}
      </HStack>
      {writes && <Doing entry={entry} site={site} arranging={arranging} facts={found} />}
      {found && <Shows facts={found} writes={writes} arranging={arranging} />}
      {found && writes && (
        <Stack gap="2" key={`${found.id} ${found.revision} ${found.slug} ${found.elsewhere}`}>
          <Folded label={t`What it is called`}>
            <Names facts={found} arranging={arranging} />
          </Folded>
          {found.path !== "/" && !found.elsewhere && (
            <Folded label={t`Its address`}>
              <AddressPart facts={found} arranging={arranging} />
            </Folded>
          )}
          {found.elsewhere && (
            <Folded label={t`Where it leads`} open>
              <LeadsElsewhere facts={found} arranging={arranging} />
            </Folded>
          )}
          {!found.elsewhere && (
            <Folded label={t`Preview addresses`}>
              <Previews page={found.id} arranging={arranging} />
            </Folded>
          )}
        </Stack>
      )}
      {found && <LeadsHere facts={found} />}
      <Text role="alert" color="wrong" fontSize="sm">
        {arranging.wrong || facts.error?.message}
      </Text>
    </Stack>
  )
}

interface DoingProps {
  entry: ContentsEntry
  site: number
  arranging: Arranging
  facts: PageFacts | undefined
}

/** What can be done to it, in words. */
function Doing({ entry, site, arranging, facts }: DoingProps) {
  const { setMode, run } = arranging
  const home = entry.path === "/"
  const publish = () =>
    void run(
      () =>
        ask(
          client.POST("/api/pages/{page_id}/publish", {
            params: { path: { page_id: entry.id } },
            body: { revision: facts?.revision ?? 0 },
          }),
        ),
      () => t`“${entry.title}” is published.`,
    )
  return (
    <HStack gap="1" flexWrap="wrap" role="group" aria-label={t`What can be done`}>
      {!entry.elsewhere && (
        <Act onPress={() => setMode({ mode: "new", target: { site, parent: entry.id } })}>
          {t`New page under this`}
        </Act>
      )}
      <Act
        onPress={() => setMode({ mode: "new", target: { site, parent: entry.parent, after: entry.id } })}
      >{t`New page after this`}</Act>
      <Act onPress={() => setMode({ mode: "copying", page: entry.id })}>{t`Duplicate`}</Act>
      {!home && (
        <Act
          onPress={() =>
            setMode({
              mode: "moving",
              pages: [entry.id],
              target: { site, parent: entry.parent, after: entry.id },
            })
          }
        >{t`Move`}</Act>
      )}
      {facts?.site.may_publish && entry.state !== "live" && (
        <Act onPress={publish}>{entry.state === "changed" ? t`Publish the changes` : t`Publish`}</Act>
      )}
      {facts?.site.may_publish && entry.state !== "unpublished" && (
        <Act onPress={() => setMode({ mode: "withdrawing", page: entry.id })}>{t`Unpublish`}</Act>
      )}
      {!home && (
        <Act onPress={() => setMode({ mode: "binning", pages: [entry.id] })}>{t`Put into the bin`}</Act>
      )}
    </HStack>
  )
}

const SHOWN = [
  ["navigation", t`In the navigation`],
  ["found", t`Not in the navigation`],
  ["hidden", t`Hidden`],
] as const
const MEANS = {
  navigation: t`Readers are led to it from the navigation or the page above it.`,
  found: t`It is in no navigation and no list of pages; searches and links lead to it.`,
  hidden: t`Only who has its address finds it: no navigation, no list, no search, no sitemap.`,
}

function Shows({ facts, writes, arranging }: { facts: PageFacts; writes: boolean; arranging: Arranging }) {
  const shown = facts.hidden ? "hidden" : facts.in_navigation ? "navigation" : "found"
  const show = (where: string) => {
    const body = {
      pages: [facts.id],
      in_navigation: where === "navigation",
      hidden: where === "hidden",
    }
    void arranging.run(
      () => ask(client.POST("/api/tree/show", { body })),
      (act) => act,
    )
  }
  if (facts.path === "/") return null
  return (
    <Stack gap="1" role="group" aria-label={t`Where it shows`}>
      <Text fontSize="sm" fontWeight="600">
        <Trans>Where it shows</Trans>
      </Text>
      {writes && (
        <HStack gap="1" flexWrap="wrap">
          {SHOWN.map(([where, name]) => (
            <Act key={where} pressed={where === shown} onPress={() => where !== shown && show(where)}>
              {name}
            </Act>
          ))}
        </HStack>
      )}
      <Text fontSize="sm" color="quiet">
        {MEANS[shown]}
      </Text>
    </Stack>
  )
}

function LeadsHere({ facts }: { facts: PageFacts }) {
  const { links, linked_from: linking, redirects, site, id } = facts
  const more = links - linking.length
  return (
    <Stack as="section" gap="1" aria-label={t`What leads to it`} fontSize="sm">
      <Text fontWeight="600">
        <Trans>What leads to it</Trans>
      </Text>
      {links === 0 && (
        <Text color={facts.in_navigation && !facts.hidden ? "quiet" : "waits"}>
          {facts.in_navigation && !facts.hidden
            ? t`No page links to it in its text; the navigation leads to it.`
            : t`No page links to it, and no navigation leads to it: nobody finds it who does not have its address.`}
        </Text>
      )}
      <chakra.ul listStyleType="none">
        {linking.map((page) => (
          <chakra.li key={page.id}>
            <To to={`/pages/${page.id}`}>{page.title}</To>
          </chakra.li>
        ))}
      </chakra.ul>
      {more > 0 && <Text color="quiet">{t`and ${plural(more, { one: "# more", other: "# more" })}`}</Text>}
      {redirects > 0 && (
        <To to={`/sites/${site.id}/redirects?page=${id}`}>
          {plural(redirects, {
            one: "One earlier address leads here",
            other: "# earlier addresses lead here",
          })}
        </To>
      )}
    </Stack>
  )
}

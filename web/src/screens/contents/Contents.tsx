/** The pages of a site, and beside them what is chosen, with all that can be done to it. */
import { Box, Button, chakra, Heading, HStack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery, useQueryClient } from "@tanstack/react-query"
import { useEffect, useState } from "react"
import { useParams } from "react-router"
import { answers, contentsAsked, sitesAsked } from "../../api/answers"
import type { ContentsEntry, Contents as ContentsOut } from "../../api/client"
import { Folded } from "../../look/Folded"
import { Gauge, STATE_WORDS, type State } from "../../look/Gauge"
import { Sentence } from "../../look/Sentence"
import { To, Top } from "../../look/Top"
import { useSession } from "../../look/useSession"
import { useUndoKey } from "../../look/useUndoKey"
import { BinList } from "./BinList"
import { Binning, Withdrawing } from "./Binning"
import { BringIn } from "./BringIn"
import { Copying } from "./Copying"
import { type Asked, Finder, FoundPages, isAsked, NOTHING } from "./Finder"
import { ManyPages } from "./ManyPages"
import { Moving } from "./Moving"
import { NavigationBar, NavigationTold } from "./NavigationBar"
import { NewPage } from "./NewPage"
import { OnePage } from "./OnePage"
import { Tree } from "./Tree"
import { type Arranging, useArranging } from "./useArranging"

export function Contents() {
  const sites = useQuery(sitesAsked)
  const params = useParams()
  const open = sites.data?.find((each) => !each.closed) ?? sites.data?.[0]
  const siteId = Number(params.siteId ?? open?.id ?? 0)
  const contents = useQuery({
    ...contentsAsked(siteId),
    enabled: siteId > 0,
    refetchOnMount: "always",
    refetchInterval: ({ state }) => (state.data?.out_of_date ? 2000 : false),
  })
  const site = contents.data?.site
  useEffect(() => {
    document.title = site ? t`Contents, ${site.name}` : t`Still Page`
  }, [site])

  const error = sites.error ?? contents.error
  if (error)
    return (
      <Sentence
        title={t`The Contents cannot be shown`}
        text={error.message}
        again={() => (sites.error ? sites.refetch() : contents.refetch())}
      />
    )
  return (
    <>
      <Top>
        <HStack as="nav" aria-label={t`Sites`} gap="5" flexWrap="wrap">
          {sites.data?.map((each) =>
            each.id === siteId ? (
              <Text key={each.id} as="span" aria-current="true" fontWeight="600">
                {each.name}
              </Text>
            ) : (
              <To key={each.id} to={`/sites/${each.id}`}>
                {each.name}
              </To>
            ),
          )}
        </HStack>
      </Top>
      {contents.data && <OfSite key={siteId} contents={contents.data} />}
    </>
  )
}

function OfSite({ contents }: { contents: ContentsOut }) {
  const { site } = contents
  const arranging = useArranging(site.id)
  const [asked, setAsked] = useState<Asked>(NOTHING)
  const [current, setCurrent] = useState<ContentsEntry | null>(null)
  useUndoKey(arranging.undo)
  const stamp = contents.pages
    .filter(({ parent }) => parent === null)
    .map(({ id, title, in_navigation, hidden, below }) => [id, title, in_navigation, hidden, below].join())
    .join(";")
  return (
    <chakra.main maxW="90rem" mx="auto" px={{ base: "4", md: "8" }} py="8">
      <Heading as="h1" size="4xl" fontWeight="450" lineHeight="1.2" mb="1">
        <Trans>Contents</Trans>
      </Heading>
      <Text color="quiet" mb="4">
        <Trans>
          {site.name}, {plural(contents.all, { one: "# page", other: "# pages" })}
          <chakra.span role="status">{beingRendered(contents.out_of_date)}</chakra.span>
        </Trans>
        {site.closed && (
          <chakra.span color="waits">{t`. The site is closed: readers get nothing of it.`}</chakra.span>
        )}
      </Text>
      <Box
        display="grid"
        gap={{ base: "8", lg: "10" }}
        gridTemplateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 2fr) minmax(18rem, 1fr)" }}
      >
        <div>
          <Finder asked={asked} onAsk={(part) => setAsked({ ...asked, ...part })} />
          <Told arranging={arranging} />
          {isAsked(asked) ? (
            <FoundPages
              site={site.id}
              asked={asked}
              current={current?.id ?? null}
              onChoose={(page) => {
                setCurrent(page)
                arranging.setMode({ mode: "facts" })
              }}
            />
          ) : (
            <Tree contents={contents} arranging={arranging} onCurrent={setCurrent} />
          )}
        </div>
        <chakra.aside
          aria-label={t`Beside the Contents`}
          borderLeftWidth={{ base: "0", lg: "1px" }}
          borderTopWidth={{ base: "1px", lg: "0" }}
          borderColor="line"
          ps={{ base: "0", lg: "8" }}
          pt={{ base: "6", lg: "0" }}
          alignSelf="start"
          position={{ base: "static", lg: "sticky" }}
          top="4"
          // As much as a page's particulars take: what stands below does not move when they come.
          minH={{ lg: "26rem" }}
          maxH={{ lg: "calc(100dvh - 2rem)" }}
          overflowY={{ lg: "auto" }}
        >
          <Beside contents={contents} arranging={arranging} current={current} />
        </chakra.aside>
      </Box>
      <States />
      <Box mt="4" position="relative" overflow="hidden">
        <NavigationTold site={site.id} stamp={stamp} />
        <Folded label={t`How the navigation looks`}>
          <NavigationBar site={site.id} stamp={stamp} />
        </Folded>
      </Box>
      <Further site={site.id} />
    </chakra.main>
  )
}

interface BesideProps {
  contents: ContentsOut
  arranging: Arranging
  current: ContentsEntry | null
}

function Beside({ contents: { site, pages }, arranging, current }: BesideProps) {
  const queries = useQueryClient()
  const { mode, setMode, ticked } = arranging
  // What was asked for branch by branch stands with the answers that are kept.
  const branches = queries.getQueriesData<ContentsOut>({ queryKey: answers.contents(site.id) })
  const known = [...pages, ...branches.flatMap(([, branch]) => branch?.pages ?? [])]
  const done = () => setMode({ mode: "facts" })
  const panel = () => {
    switch (mode.mode) {
      case "new":
        return <NewPage arranging={arranging} target={mode.target} current={current} />
      case "moving":
        return (
          <Moving
            arranging={arranging}
            pages={mode.pages}
            target={mode.target}
            site={site.id}
            known={known}
            current={current}
          />
        )
      case "copying":
        return <Copying key={mode.page} arranging={arranging} page={mode.page} />
      case "binning":
        return <Binning key={mode.pages.join()} arranging={arranging} pages={mode.pages} />
      case "withdrawing":
        return <Withdrawing arranging={arranging} page={mode.page} />
      case "bin":
        return <BinList site={site} arranging={arranging} />
      case "import":
        return <BringIn site={site} current={current} onDone={done} />
      default:
        if (ticked.size > 0) return <ManyPages site={site.id} arranging={arranging} />
        return current ? (
          <OnePage
            key={current.id}
            entry={current}
            site={site.id}
            writes={site.may_write}
            arranging={arranging}
          />
        ) : (
          <Text color="quiet">
            <Trans>Choose a page to see what can be done to it.</Trans>
          </Text>
        )
    }
  }
  return panel()
}

/** What was done last, and the way back. */
function Told({ arranging }: { arranging: Arranging }) {
  const { told, undo } = arranging
  return (
    <HStack gap="3" minH="6" fontSize="sm" flexWrap="wrap">
      <Text role="status">{told?.sentence}</Text>
      {told?.undo && (
        <Button size="xs" variant="outline" title={t`Ctrl+Z`} onClick={() => void undo()}>
          <Trans>Undo</Trans>
        </Button>
      )}
    </HStack>
  )
}

function Further({ site }: { site: number }) {
  const session = useSession()
  return (
    <>
      <HStack mt="6" gap="5" fontSize="sm" flexWrap="wrap">
        <To to={`/sites/${site}/redirects`}>
          <Trans>Redirects</Trans>
        </To>
        <To to={`/sites/${site}/results`}>
          <Trans>What the page check found</Trans>
        </To>
        <To to={`/sites/${site}/checks`}>
          <Trans>What the page check asks for</Trans>
        </To>
        <To to={`/sites/${site}/outside-links`}>
          <Trans>Outside links</Trans>
        </To>
        {session.data?.may_keep_sites && (
          <To to="/sites">
            <Trans>Sites</Trans>
          </To>
        )}
        <chakra.a
          href={`/api/sites/${site}/export`}
          download
          color="press.fg"
          textDecoration="underline"
          textUnderlineOffset="3px"
        >
          <Trans>Export the whole site as files (ZIP of HTML)</Trans>
        </chakra.a>
      </HStack>
      <Text mt="1" fontSize="sm" color="quiet">
        <Trans>What is for signed-in readers stays behind; a list in the ZIP says what that is.</Trans>
      </Text>
    </>
  )
}

/** What is said while live pages show something that has just changed, and are not all brought up to it. */
function beingRendered(number: number): string {
  if (!number) return ""
  return plural(number, {
    one: "; one live page is being brought up to date",
    other: "; # live pages are being brought up to date",
  })
}

function States() {
  return (
    <HStack
      as="p"
      mt="8"
      pt="3"
      borderTopWidth="1px"
      borderColor="line"
      gap="5"
      fontSize="sm"
      color="quiet"
      flexWrap="wrap"
    >
      {(Object.keys(STATE_WORDS) as State[]).map((state) => (
        <HStack as="span" key={state} gap="2">
          <Gauge state={state} />
          {STATE_WORDS[state]}
        </HStack>
      ))}
    </HStack>
  )
}

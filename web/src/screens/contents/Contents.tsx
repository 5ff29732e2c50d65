import { chakra, Heading, HStack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { useEffect } from "react"
import { useParams } from "react-router"
import { contentsAsked, sitesAsked } from "../../api/answers"
import { Gauge, STATE_WORDS, type State } from "../../look/Gauge"
import { Sentence } from "../../look/Sentence"
import { To, Top } from "../../look/Top"
import { Tree } from "./Tree"

export function Contents() {
  const sites = useQuery(sitesAsked)
  const params = useParams()
  const siteId = Number(params.siteId ?? sites.data?.[0]?.id ?? 0)
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
      <chakra.main maxW="58rem" mx="auto" px={{ base: "4", md: "8" }} py="8">
        {contents.data && (
          <>
            <Heading as="h1" size="4xl" fontWeight="450" lineHeight="1.2" mb="1">
              <Trans>Contents</Trans>
            </Heading>
            <Text color="quiet" mb="6">
              <Trans>
                {contents.data.site.name}, {plural(contents.data.all, { one: "# page", other: "# pages" })}
                <chakra.span role="status">{beingRendered(contents.data.out_of_date)}</chakra.span>
              </Trans>
            </Text>
            <Tree key={siteId} contents={contents.data} />
            <States />
            <HStack mt="3" gap="5" fontSize="sm" flexWrap="wrap">
              <To to={`/sites/${siteId}/results`}>
                <Trans>What the page check found</Trans>
              </To>
              <To to={`/sites/${siteId}/checks`}>
                <Trans>What the page check asks for</Trans>
              </To>
              <To to={`/sites/${siteId}/outside-links`}>
                <Trans>Outside links</Trans>
              </To>
              <chakra.a
                href={`/api/sites/${siteId}/export`}
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
        )}
      </chakra.main>
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

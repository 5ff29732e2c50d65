/** What the page check found last on each page of a site, those with the most to do first. */

import { Button, chakra, Heading, HStack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query"
import { useEffect, useRef, useState } from "react"
import { useParams } from "react-router"
import { answers, forget, sitesAsked } from "../../api/answers"
import { ask, client, Problem, type Result } from "../../api/client"
import { Sentence } from "../../look/Sentence"
import { To, TopOfSite } from "../../look/Top"
import { moment, number } from "../../look/words"
import { SEVERITY } from "../writing/Notes"

const SORTS = ["blocks", "mend", "look"] as const
const PART = 200

export function Results() {
  const siteId = Number(useParams().siteId)
  const path = { site_id: siteId }
  const sites = useQuery(sitesAsked)
  const found = useInfiniteQuery({
    queryKey: answers.results(siteId),
    queryFn: ({ pageParam }) =>
      ask(client.GET("/api/sites/{site_id}/results", { params: { path, query: { start: pageParam } } })),
    initialPageParam: 0,
    getNextPageParam: (last, all) => (last.results.length < PART ? undefined : all.length * PART),
    staleTime: 0,
  })
  const site = sites.data?.find((each) => each.id === siteId)
  useEffect(() => {
    document.title = site ? t`What the page check found, ${site.name}` : t`Still Page`
  }, [site])
  const error = found.error ?? sites.error
  if (error)
    return (
      <Sentence title={t`The results cannot be shown`} text={error.message} again={() => found.refetch()} />
    )
  const parts = found.data?.pages ?? []
  const rows = parts.flatMap(({ results }) => results)
  const { pages = 0, checked = 0 } = parts[0] ?? {}
  return (
    <>
      <TopOfSite site={site} />
      <chakra.main maxW="64rem" mx="auto" px={{ base: "2", md: "8" }} py="8">
        <Heading as="h1" size="3xl" fontWeight="450" mb="2">
          <Trans>What the page check found</Trans>
        </Heading>
        {found.data && (
          <>
            <Text color="quiet" mb="4">
              {checked === pages
                ? t`Each of the ${plural(pages, { one: "# page", other: "# pages" })} has been checked. A page is checked whenever somebody writes on it.`
                : t`${plural(checked, { one: "# page", other: "# pages" })} of ${number(pages)} have been checked. A page is checked whenever somebody writes on it, or from here.`}
            </Text>
            <Renewing site={siteId} pages={pages} />
            <Table rows={rows} />
            {found.hasNextPage && (
              <Button size="sm" variant="outline" mt="3" onClick={() => void found.fetchNextPage()}>
                <Trans>Show more</Trans>
              </Button>
            )}
          </>
        )}
      </chakra.main>
    </>
  )
}

const PAUSE = 5000

/** Have some pages checked; where that was asked for too often, wait, and ask again. */
async function some(site: number, after: number): Promise<{ after: number; left: number }> {
  const params = { path: { site_id: site } }
  try {
    return await ask(client.POST("/api/sites/{site_id}/results", { params, body: { after } }))
  } catch (error) {
    if (!(error instanceof Problem && error.status === 429)) throw error
    await new Promise((resolve) => setTimeout(resolve, PAUSE))
    return some(site, after)
  }
}

/** Has every page checked, some at a time, so that it can be broken off at any moment and keeps what it has. */
function Renewing({ site, pages }: { site: number; pages: number }) {
  const [left, setLeft] = useState<number | null>(null)
  const [told, setTold] = useState("")
  const going = useRef(false)
  const queries = useQueryClient()
  useEffect(
    () => () => {
      going.current = false
    },
    [],
  )
  const run = async () => {
    going.current = true
    setTold("")
    setLeft(pages)
    let after = 0
    try {
      for (let remaining = 1; remaining && going.current; ) {
        const done = await some(site, after)
        after = done.after
        remaining = done.left
        setLeft(remaining)
      }
      setTold(going.current ? t`All pages are checked.` : t`Cancelled. What was checked so far is kept.`)
    } catch (error) {
      setTold((error as Error).message)
    }
    going.current = false
    setLeft(null)
    await forget(queries, [answers.results(site)])
  }
  return (
    <HStack mb="4" gap="3" flexWrap="wrap">
      {left === null ? (
        <Button size="sm" variant="outline" disabled={!pages} onClick={() => void run()}>
          <Trans>Check every page now</Trans>
        </Button>
      ) : (
        <>
          <chakra.progress aria-label={t`Pages checked`} w="14rem" max={pages} value={pages - left} />
          <Text fontSize="sm">
            <Trans>{plural(left, { one: "# page", other: "# pages" })} left</Trans>
          </Text>
          <Button
            size="sm"
            variant="outline"
            onClick={() => {
              going.current = false
            }}
          >
            <Trans>Cancel</Trans>
          </Button>
        </>
      )}
      <Text role="status" fontSize="sm">
        {told}
      </Text>
    </HStack>
  )
}

function Table({ rows }: { rows: Result[] }) {
  if (!rows.length)
    return (
      <Text color="quiet">
        <Trans>No page has been checked yet.</Trans>
      </Text>
    )
  return (
    <chakra.div overflowX="auto" tabIndex={0} role="region" aria-label={t`Results, page by page`}>
      <chakra.table
        w="full"
        fontSize="sm"
        css={{ "& th, & td": { padding: "6px 8px", textAlign: "start", verticalAlign: "top" } }}
      >
        <thead>
          <tr>
            <th scope="col">
              <Trans>Page</Trans>
            </th>
            {SORTS.map((sort) => (
              <th key={sort} scope="col">
                {SEVERITY[sort][1]}
              </th>
            ))}
            <th scope="col">
              <Trans>First of all</Trans>
            </th>
            <th scope="col">
              <Trans>Checked</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ page, first, checked_at, changed, ...numbers }) => (
            <chakra.tr key={page.id} borderTopWidth="1px" borderColor="line">
              <th scope="row">
                <To to={`/pages/${page.id}`}>{page.title}</To>
                <chakra.span display="block" color="quiet" fontWeight="400">
                  {page.path}
                </chakra.span>
              </th>
              {SORTS.map((sort) => (
                <td key={sort}>
                  {numbers[sort] > 0 && <span aria-hidden="true">{SEVERITY[sort][0]} </span>}
                  {numbers[sort]}
                </td>
              ))}
              <td>{first}</td>
              <td>
                {moment(checked_at)}
                {changed && (
                  <chakra.span display="block" color="waits">
                    <Trans>changed since</Trans>
                  </chakra.span>
                )}
              </td>
            </chakra.tr>
          ))}
        </tbody>
      </chakra.table>
    </chakra.div>
  )
}

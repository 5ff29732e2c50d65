/** What the page check found last on each page of a site, those with the most to do first. */
import { Button, chakra, Heading, HStack, Text } from "@chakra-ui/react"
import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query"
import { useEffect, useRef, useState } from "react"
import { useParams } from "react-router"
import { answers, forget, sitesAsked } from "../../api/answers"
import { ask, client, Problem, type Result } from "../../api/client"
import { Sentence } from "../../look/Sentence"
import { To, Top } from "../../look/Top"
import { counted, moment } from "../../look/words"
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
    document.title = site ? `What the page check found, ${site.name}` : "Still Page"
  }, [site])
  const error = found.error ?? sites.error
  if (error)
    return <Sentence title="The results cannot be shown" text={error.message} again={() => found.refetch()} />
  const parts = found.data?.pages ?? []
  const rows = parts.flatMap(({ results }) => results)
  const { pages = 0, checked = 0 } = parts[0] ?? {}
  return (
    <>
      <Top>{site && <To to={`/sites/${siteId}`}>Contents of {site.name}</To>}</Top>
      <chakra.main maxW="64rem" mx="auto" px={{ base: "2", md: "8" }} py="8">
        <Heading as="h1" size="3xl" fontWeight="450" mb="2">
          What the page check found
        </Heading>
        {found.data && (
          <>
            <Text color="quiet" mb="4">
              {checked === pages
                ? `Each of the ${counted(pages, "page")} has been checked. A page is checked whenever somebody writes on it.`
                : `${counted(checked, "page")} of ${pages.toLocaleString("en-GB")} have been checked. A page is checked whenever somebody writes on it, or from here.`}
            </Text>
            <Renewing site={siteId} pages={pages} />
            <Table rows={rows} />
            {found.hasNextPage && (
              <Button size="sm" variant="outline" mt="3" onClick={() => void found.fetchNextPage()}>
                Show more
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
      setTold(going.current ? "All pages are checked." : "Cancelled. What was checked so far is kept.")
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
          Check every page now
        </Button>
      ) : (
        <>
          <chakra.progress aria-label="Pages checked" w="14rem" max={pages} value={pages - left} />
          <Text fontSize="sm">{counted(left, "page")} left</Text>
          <Button
            size="sm"
            variant="outline"
            onClick={() => {
              going.current = false
            }}
          >
            Cancel
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
  if (!rows.length) return <Text color="quiet">No page has been checked yet.</Text>
  return (
    <chakra.div overflowX="auto" tabIndex={0} role="region" aria-label="Results, page by page">
      <chakra.table
        w="full"
        fontSize="sm"
        css={{ "& th, & td": { padding: "6px 8px", textAlign: "start", verticalAlign: "top" } }}
      >
        <thead>
          <tr>
            <th scope="col">Page</th>
            {SORTS.map((sort) => (
              <th key={sort} scope="col">
                {SEVERITY[sort][1]}
              </th>
            ))}
            <th scope="col">First of all</th>
            <th scope="col">Checked</th>
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
                    changed since
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

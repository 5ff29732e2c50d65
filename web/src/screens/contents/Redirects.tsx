/** Where the earlier addresses of a site lead: why, since when, and when somebody was led on last. */
import { Button, chakra, Field, Heading, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query"
import { type FormEvent, useEffect, useRef, useState } from "react"
import { useParams, useSearchParams } from "react-router"
import { after, answers, forget, sitesAsked } from "../../api/answers"
import { ask, client, type RedirectRow, readRedirects } from "../../api/client"
import { Act } from "../../look/Act"
import { Sentence } from "../../look/Sentence"
import { To, TopOfSite } from "../../look/Top"
import { day } from "../../look/words"

export function Redirects() {
  const siteId = Number(useParams().siteId)
  const [search] = useSearchParams()
  const page = Number(search.get("page")) || undefined
  const [q, setQ] = useState("")
  const [told, setTold] = useState("")
  const [wrong, setWrong] = useState<string[]>([])
  const queries = useQueryClient()
  const path = { site_id: siteId }
  const sites = useQuery(sitesAsked)
  const site = sites.data?.find((each) => each.id === siteId)
  const found = useInfiniteQuery({
    queryKey: answers.redirects(siteId, { q, page }),
    queryFn: ({ pageParam: skip }) =>
      ask(client.GET("/api/sites/{site_id}/redirects", { params: { path, query: { q, page, skip } } })),
    initialPageParam: 0,
    getNextPageParam: (last, all) => {
      const count = all.reduce((sum, part) => sum + part.redirects.length, 0)
      return count < last.total ? count : undefined
    },
    placeholderData: (before) => before,
    staleTime: 0,
  })
  useEffect(() => {
    document.title = site ? t`Redirects, ${site.name}` : t`Still Page`
  }, [site])
  const run = async (act: () => Promise<string>) => {
    let done = true
    try {
      setTold(await act())
      setWrong([])
    } catch (error) {
      done = false
      setTold("")
      setWrong([(error as Error).message])
    }
    await forget(queries, after.tree)
    return done
  }
  if (found.error)
    return (
      <Sentence
        title={t`The redirects cannot be shown`}
        text={found.error.message}
        again={() => found.refetch()}
      />
    )
  const rows = found.data?.pages.flatMap(({ redirects }) => redirects) ?? []
  const total = found.data?.pages[0]?.total ?? 0
  return (
    <>
      <TopOfSite site={site} />
      <chakra.main maxW="72rem" mx="auto" px={{ base: "4", md: "8" }} py="8">
        <Heading as="h1" size="3xl" fontWeight="450" mb="2">
          <Trans>Redirects</Trans>
        </Heading>
        <Text color="quiet" mb="4" maxW="44rem">
          <Trans>
            When a live page gets another address, its readers are led on from the earlier one: to the page,
            wherever it is by now. Here you see these addresses, and make others by hand.
          </Trans>
        </Text>
        <HStack gap="3" align="flex-end" flexWrap="wrap" mb="3">
          <Field.Root w="20rem">
            <Field.Label>
              <Trans>Find an address</Trans>
            </Field.Label>
            <Input
              size="sm"
              type="search"
              value={q}
              bg="paper"
              borderColor="edge"
              onChange={(event) => setQ(event.target.value)}
            />
          </Field.Root>
          <chakra.a
            href={`/api/sites/${siteId}/redirects.csv`}
            download
            fontSize="sm"
            color="press.fg"
            textDecoration="underline"
            textUnderlineOffset="3px"
            pb="1.5"
          >
            <Trans>Export as CSV</Trans>
          </chakra.a>
          {site?.may_publish && (
            <FromFile
              onFile={(file) =>
                void run(async () => {
                  const { made, refused } = await readRedirects(siteId, file)
                  window.setTimeout(() => setWrong(refused))
                  return plural(made, { one: "# redirect was read.", other: "# redirects were read." })
                })
              }
            />
          )}
        </HStack>
        {page && (
          <Text fontSize="sm" mb="2">
            <Trans>Those that lead to one page.</Trans>{" "}
            <To to={`/sites/${siteId}/redirects`}>{t`Show all`}</To>
          </Text>
        )}
        <Text role="status" fontSize="sm" minH="1.5em">
          {told || (found.data ? plural(total, { one: "# redirect", other: "# redirects" }) : "")}
        </Text>
        <chakra.ul role="alert" listStyleType="none" color="wrong" fontSize="sm">
          {wrong.map((each) => (
            <li key={each}>{each}</li>
          ))}
        </chakra.ul>
        {site?.may_publish && (
          <ByHand
            site={siteId}
            onMake={(body) =>
              run(async () => {
                const made = await ask(
                  client.POST("/api/sites/{site_id}/redirects", { params: { path }, body }),
                )
                return made.gone
                  ? t`${made.path} answers that it is gone for good.`
                  : t`${made.path} leads on now.`
              })
            }
          />
        )}
        {rows.length > 0 && (
          <Rows
            rows={rows}
            mayForget={Boolean(site?.may_publish)}
            onForget={(row) =>
              void run(async () => {
                const params = { path: { redirect_id: row.id } }
                await ask(client.DELETE("/api/redirects/{redirect_id}", { params }))
                return t`${row.path} leads nowhere any more.`
              })
            }
          />
        )}
        {found.hasNextPage && (
          <Button size="sm" variant="outline" mt="3" onClick={() => void found.fetchNextPage()}>
            <Trans>Show more</Trans>
          </Button>
        )}
      </chakra.main>
    </>
  )
}

function FromFile({ onFile }: { onFile(file: File): void }) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <>
      <input
        ref={input}
        type="file"
        accept=".csv,text/csv"
        hidden
        aria-label={t`A CSV file of redirects`}
        onChange={(event) => {
          const file = event.target.files?.[0]
          event.target.value = ""
          if (file) onFile(file)
        }}
      />
      <Button size="sm" variant="outline" onClick={() => input.current?.click()}>
        <Trans>Import from CSV</Trans>
      </Button>
    </>
  )
}

interface ByHandProps {
  site: number
  /** Says whether it is made; what was typed stays otherwise. */
  onMake(body: { path: string; address: string; page: number | null }): Promise<boolean>
}

/** An address that is to lead on: to a page, elsewhere, or that is gone. */
function ByHand({ site, onMake }: ByHandProps) {
  const [gone, setGone] = useState(false)
  const [to, setTo] = useState("")
  const [from, setFrom] = useState("")
  const [page, setPage] = useState<{ id: number; title: string } | null>(null)
  const words = page || /^https?:|^\//.test(to) ? "" : to
  const found = useQuery({
    queryKey: answers.foundPages(site, { q: words, by: "hand" }),
    queryFn: () =>
      ask(
        client.GET("/api/sites/{site_id}/find", {
          params: { path: { site_id: site }, query: { q: words, sort: "page" } },
        }),
      ),
    enabled: words.trim() !== "",
  })
  const make = async (event: FormEvent) => {
    event.preventDefault()
    const address = gone || page ? "" : to
    if (!(await onMake({ path: from, address, page: gone ? null : (page?.id ?? null) }))) return
    setFrom("")
    setTo("")
    setPage(null)
  }
  return (
    <chakra.form
      aria-label={t`A redirect by hand`}
      onSubmit={make}
      my="4"
      py="4"
      borderYWidth="1px"
      borderColor="line"
    >
      <HStack gap="3" align="flex-start" flexWrap="wrap">
        <Field.Root required w="18rem">
          <Field.Label>
            <Trans>From this address of the site</Trans>
          </Field.Label>
          <Input
            size="sm"
            value={from}
            placeholder="/summer/regatta"
            _placeholder={{ color: "quiet" }}
            bg="paper"
            borderColor="edge"
            onChange={(event) => setFrom(event.target.value)}
          />
        </Field.Root>
        {!gone && (
          <Field.Root required w="22rem">
            <Field.Label>
              <Trans>To a page or an address elsewhere</Trans>
            </Field.Label>
            <Input
              size="sm"
              value={page ? page.title : to}
              placeholder={t`words of a page, or https://`}
              _placeholder={{ color: "quiet" }}
              bg="paper"
              borderColor="edge"
              onChange={(event) => {
                setPage(null)
                setTo(event.target.value)
              }}
            />
            {words && !page && (
              <Stack gap="1" mt="1">
                {found.data?.pages.slice(0, 5).map((each) => (
                  <Button
                    key={each.id}
                    size="xs"
                    variant="outline"
                    justifyContent="flex-start"
                    onClick={() => setPage({ id: each.id, title: each.title })}
                  >
                    {each.title}
                  </Button>
                ))}
              </Stack>
            )}
          </Field.Root>
        )}
        <HStack pt={{ base: "0", md: "6" }} gap="1">
          <Act pressed={!gone} onPress={() => setGone(false)}>{t`Leads on`}</Act>
          <Act pressed={gone} onPress={() => setGone(true)}>{t`Is gone for good`}</Act>
          <Button type="submit" size="sm">
            <Trans>Keep</Trans>
          </Button>
        </HStack>
      </HStack>
    </chakra.form>
  )
}

interface RowsProps {
  rows: RedirectRow[]
  mayForget: boolean
  onForget(row: RedirectRow): void
}

function Rows({ rows, mayForget, onForget }: RowsProps) {
  const heads = [t`From`, t`To`, t`Why`, t`Since`, t`Used last`]
  return (
    <chakra.div position="relative" overflowX="auto" tabIndex={0} role="region" aria-label={t`Redirects`}>
      <chakra.table
        w="full"
        minW="46rem"
        fontSize="sm"
        css={{ "& th, & td": { textAlign: "start", py: "2", pe: "4" } }}
      >
        <thead>
          <tr>
            {heads.map((head) => (
              <th key={head} scope="col">
                {head}
              </th>
            ))}
            {mayForget && (
              <th scope="col">
                <chakra.span srOnly>{t`What can be done`}</chakra.span>
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <chakra.tr key={row.id} borderTopWidth="1px" borderColor="line">
              <chakra.th scope="row" fontWeight="400" wordBreak="break-all">
                {row.path}
              </chakra.th>
              <chakra.td wordBreak="break-word">
                {row.page ? (
                  <To to={`/pages/${row.page.id}`}>{row.page.title}</To>
                ) : row.gone ? (
                  <chakra.span color="waits">{t`gone for good (410)`}</chakra.span>
                ) : (
                  row.address || <chakra.span color="quiet">{t`a page in the bin`}</chakra.span>
                )}
              </chakra.td>
              <td>{row.why}</td>
              <chakra.td whiteSpace="nowrap">{day(row.made_at)}</chakra.td>
              <chakra.td whiteSpace="nowrap">{row.used_on ? day(row.used_on) : t`never`}</chakra.td>
              {mayForget && (
                <td>
                  <Button
                    size="xs"
                    variant="outline"
                    aria-label={t`Have ${row.path} lead nowhere`}
                    onClick={() => onForget(row)}
                  >
                    <Trans>Take away</Trans>
                  </Button>
                </td>
              )}
            </chakra.tr>
          ))}
        </tbody>
      </chakra.table>
    </chakra.div>
  )
}

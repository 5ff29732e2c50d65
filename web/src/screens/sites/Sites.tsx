/** The sites of this installation, for administrators: made, changed, duplicated, closed with everything kept. */
import { Box, Button, chakra, Field, Heading, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery, useQueryClient } from "@tanstack/react-query"
import { type FormEvent, useEffect, useState } from "react"
import { after, answers, forget } from "../../api/answers"
import { ask, client, type SiteFull } from "../../api/client"
import { Choice } from "../../look/Choice"
import { Folded } from "../../look/Folded"
import { NotKept, useNotKept } from "../../look/NotKept"
import { Sentence } from "../../look/Sentence"
import { To, TopNamed } from "../../look/Top"
import { Pictures } from "../writing/particulars/covers"

type Run = (act: () => Promise<string>) => Promise<boolean>

export function Sites() {
  const queries = useQueryClient()
  const every = useQuery({
    queryKey: answers.allSites,
    queryFn: () => ask(client.GET("/api/all-sites")),
    staleTime: 0,
  })
  const [told, setTold] = useState("")
  const [wrong, setWrong] = useState("")
  useEffect(() => {
    document.title = t`Sites`
  }, [])
  const run: Run = async (act) => {
    try {
      setTold(await act())
      setWrong("")
      await forget(queries, after.sites)
      return true
    } catch (error) {
      setTold("")
      setWrong((error as Error).message)
      return false
    }
  }
  if (every.error)
    return <Sentence title={t`The sites cannot be shown`} text={every.error.message} again={every.refetch} />
  const { sites = [], themes = [] } = every.data ?? {}
  return (
    <>
      <TopNamed name={t`Sites`} />
      <chakra.main maxW="60rem" mx="auto" px={{ base: "4", md: "8" }} py="8">
        <Heading as="h1" size="3xl" fontWeight="450" mb="2">
          <Trans>Sites</Trans>
        </Heading>
        <Text color="quiet" mb="4">
          <Trans>
            All of them share one media library. Each has a host of its own, a theme and its pages.
          </Trans>
        </Text>
        <Text role="status" minH="1.5em">
          {told}
        </Text>
        <Text role="alert" color="wrong">
          {wrong}
        </Text>
        {sites.map((site) => (
          <OneSite key={site.id} site={site} themes={themes} run={run} />
        ))}
        <Box mt="6">
          <Folded keeps label={t`Make a new site`}>
            <Facts
              label={t`A new site`}
              themes={themes}
              onKeep={(facts) =>
                run(async () => {
                  const body = { ...EMPTY, ...facts }
                  const made = await ask(client.POST("/api/all-sites", { body }))
                  return t`“${made.name}” is made. Its first page waits to be written.`
                })
              }
            />
          </Folded>
        </Box>
      </chakra.main>
      <NotKept />
    </>
  )
}

const EMPTY = {
  name: "",
  host: "",
  language: "en",
  theme: "canal",
  description: "",
  footer: "",
  picture: null as number | null,
}
type FactsOf = typeof EMPTY

function OneSite({ site, themes, run }: { site: SiteFull; themes: string[]; run: Run }) {
  const path = { site_id: site.id }
  const [open, setOpen] = useState<"facts" | "copy" | null>(null)
  /** Which forms were opened: what is typed in them stays while another is shown. */
  const [begun, setBegun] = useState<readonly string[]>([])
  const acts = [
    ["facts", t`Change`],
    ["copy", t`Duplicate as a starting point`],
  ] as const
  return (
    <chakra.section aria-label={site.name} py="5" borderTopWidth="1px" borderColor="line">
      <HStack gap="4" align="flex-start">
        {site.thumbnail && (
          <chakra.img src={site.thumbnail} alt="" w="7rem" h="5rem" objectFit="cover" flexShrink="0" />
        )}
        <div>
          <Heading as="h2" size="xl" fontWeight="450">
            {site.name}
          </Heading>
          <Text fontSize="sm" color="quiet">
            {site.origin} · {plural(site.pages, { one: "# page", other: "# pages" })},{" "}
            {plural(site.live, { one: "# live", other: "# live" })}
          </Text>
          {site.description && <Text fontSize="sm">{site.description}</Text>}
          {site.closed && (
            <Text color="waits">
              <Trans>Closed: readers get nothing of it, and all of it is kept.</Trans>
            </Text>
          )}
          <HStack gap="2" mt="3" fontSize="sm" flexWrap="wrap">
            <chakra.span me="2">
              <To to={`/sites/${site.id}`}>
                <Trans>Contents</Trans>
              </To>
            </chakra.span>
            {acts.map(([name, label]) => (
              <Button
                key={name}
                size="xs"
                variant="outline"
                aria-expanded={open === name}
                onClick={() => {
                  setOpen(open === name ? null : name)
                  setBegun([...begun, name])
                }}
              >
                {label}
              </Button>
            ))}
            <Closing site={site} run={run} />
          </HStack>
        </div>
      </HStack>
      <Box mt={open ? "4" : "0"} ps={{ base: "0", md: site.thumbnail ? "8rem" : "0" }}>
        {begun.includes("copy") && (
          <Box hidden={open !== "copy"}>
            <CopyOf site={site} run={run} />
          </Box>
        )}
        {begun.includes("facts") && (
          <Box hidden={open !== "facts"}>
            <Facts
              label={t`What is known of ${site.name}`}
              site={site}
              themes={themes}
              onKeep={(facts) =>
                run(async () => {
                  await ask(client.PATCH("/api/all-sites/{site_id}", { params: { path }, body: facts }))
                  return t`“${facts.name ?? site.name}” is changed.`
                })
              }
            />
          </Box>
        )}
      </Box>
    </chakra.section>
  )
}

interface FactsProps {
  label: string
  site?: SiteFull
  themes: string[]
  onKeep(facts: Partial<FactsOf> & { first_page?: number }): Promise<boolean>
}

function Facts({ label, site, themes, onKeep }: FactsProps) {
  const known: FactsOf = { ...EMPTY, ...(site ?? {}) }
  const [facts, setFacts] = useState<Partial<FactsOf> & { first_page?: number }>({})
  useNotKept(Object.keys(facts).length > 0)
  const set = (part: typeof facts) => setFacts({ ...facts, ...part })
  const value = (name: keyof FactsOf) => String(facts[name] ?? known[name] ?? "")
  const fields = [
    ["name", t`Name`, 120],
    ["host", t`Host: the name that readers ask for`, 200],
    ["language", t`Language of its pages, as in en or cy`, 35],
    ["description", t`What it is about`, 500],
    ["footer", t`What stands at the foot of every page`, 500],
  ] as const
  const keep = async (event: FormEvent) => {
    event.preventDefault()
    if (await onKeep(site ? facts : { ...EMPTY, ...facts })) setFacts({})
  }
  return (
    <chakra.form aria-label={label} onSubmit={keep}>
      <Stack gap="3" maxW="32rem">
        {fields.map(([name, title, most]) => (
          <Field.Root key={name} required={name !== "description" && name !== "footer"}>
            <Field.Label>{title}</Field.Label>
            <Input
              size="sm"
              value={value(name)}
              maxLength={most}
              bg="paper"
              borderColor="edge"
              onChange={(event) => set({ [name]: event.target.value })}
            />
          </Field.Root>
        ))}
        <Choice
          label={t`Theme`}
          value={value("theme")}
          options={themes.map((each) => [each, each])}
          onChoice={(theme) => set({ theme })}
        />
        {site && (
          <FirstPage site={site} chosen={facts.first_page} onChoose={(page) => set({ first_page: page })} />
        )}
        {site && (
          <Folded label={t`Its picture`}>
            <Pictures
              site={site.id}
              label={t`Find a picture of the site`}
              onPicture={(item) => set({ picture: item.id })}
            />
            <Text role="status" fontSize="sm" color="quiet">
              {facts.picture ? t`Chosen. It holds once you keep these facts.` : ""}
            </Text>
          </Folded>
        )}
        <Button type="submit" size="sm" alignSelf="flex-start" disabled={!Object.keys(facts).length}>
          {site ? t`Keep these facts` : t`Make the site`}
        </Button>
      </Stack>
    </chakra.form>
  )
}

interface FirstPageProps {
  site: SiteFull
  chosen: number | undefined
  onChoose(page: number): void
}

/** Which page readers find first: one at the top of the Contents without pages under it. */
function FirstPage({ site, chosen, onChoose }: FirstPageProps) {
  const contents = useQuery({
    queryKey: answers.contents(site.id, null, 0),
    queryFn: () =>
      ask(client.GET("/api/sites/{site_id}/contents", { params: { path: { site_id: site.id } } })),
  })
  const possible = (contents.data?.pages ?? []).filter(
    ({ parent, below, elsewhere, path }) => parent === null && !elsewhere && (path === "/" || below === 0),
  )
  if (possible.length < 2) return null
  return (
    <Choice
      label={t`First page`}
      value={String(chosen ?? site.first_page ?? "")}
      options={possible.map(({ id, title }) => [String(id), title])}
      onChoice={(page) => onChoose(Number(page))}
    />
  )
}

function CopyOf({ site, run }: { site: SiteFull; run: Run }) {
  const [isTyped, setIsTyped] = useState(false)
  useNotKept(isTyped)
  const copy = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const { currentTarget } = event
    const form = new FormData(currentTarget)
    const body = { name: String(form.get("name")), host: String(form.get("host")) }
    const params = { path: { site_id: site.id } }
    void run(async () => {
      const made = await ask(client.POST("/api/all-sites/{site_id}/duplicate", { params, body }))
      currentTarget.reset()
      setIsTyped(false)
      return t`“${made.name}” is made of “${site.name}”: ${plural(made.pages, { one: "# page", other: "# pages" })}, none of them live.`
    })
  }
  return (
    <chakra.form aria-label={t`A copy of ${site.name}`} onInput={() => setIsTyped(true)} onSubmit={copy}>
      <Stack gap="3" maxW="32rem">
        <Field.Root required>
          <Field.Label>
            <Trans>Name</Trans>
          </Field.Label>
          <Input name="name" size="sm" bg="paper" borderColor="edge" maxLength={120} />
        </Field.Root>
        <Field.Root required>
          <Field.Label>
            <Trans>Host: the name that readers ask for</Trans>
          </Field.Label>
          <Input name="host" size="sm" bg="paper" borderColor="edge" maxLength={200} />
        </Field.Root>
        <Button type="submit" size="sm" alignSelf="flex-start">
          <Trans>Duplicate the site</Trans>
        </Button>
      </Stack>
    </chakra.form>
  )
}

function Closing({ site, run }: { site: SiteFull; run: Run }) {
  const [sure, setSure] = useState(false)
  const params = { path: { site_id: site.id } }
  if (site.closed)
    return (
      <Button
        size="xs"
        variant="outline"
        alignSelf="flex-start"
        onClick={() =>
          void run(async () => {
            await ask(client.POST("/api/all-sites/{site_id}/open", { params }))
            return t`Readers have “${site.name}” again.`
          })
        }
      >
        <Trans>Open it again</Trans>
      </Button>
    )
  return (
    <Button
      size="xs"
      variant="outline"
      alignSelf="flex-start"
      color={sure ? "wrong" : undefined}
      onBlur={() => setSure(false)}
      onClick={() => {
        if (!sure) {
          setSure(true)
          return
        }
        setSure(false)
        void run(async () => {
          await ask(client.POST("/api/all-sites/{site_id}/close", { params }))
          return t`“${site.name}” is closed.`
        })
      }}
    >
      {sure
        ? t`Really close it: readers get none of ${plural(site.live, { one: "# live page", other: "# live pages" })} until it is opened again`
        : t`Close this site …`}
    </Button>
  )
}

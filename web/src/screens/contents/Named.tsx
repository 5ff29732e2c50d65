/** What a page is called here and there, each following the title until it is set; and its address. */
import { Button, chakra, Field, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { type FormEvent, useState } from "react"
import { ask, client, type PageFacts } from "../../api/client"
import { longestOf } from "../../document/rules"
import { Consequences } from "./Consequences"
import { type Arranging, useConsequences } from "./useArranging"

interface Props {
  facts: PageFacts
  arranging: Arranging
}

const FIELDS = [
  ["title", t`Title`, 200],
  ["label", t`Name in the navigation`, longestOf("doc", "label")],
  ["search_title", t`Title in search results`, longestOf("doc", "search_title")],
] as const

export function Names({ facts, arranging }: Props) {
  const [said, setSaid] = useState<Record<string, string>>({})
  const keep = (event: FormEvent) => {
    event.preventDefault()
    const params = { path: { page_id: facts.id } }
    void arranging.run(
      async () => {
        const body = { revision: facts.revision, ...said }
        const answer = await ask(client.PUT("/api/pages/{page_id}/names", { params, body }))
        setSaid({})
        return answer
      },
      () =>
        facts.state === "unpublished"
          ? t`The names are kept.`
          : t`The names are kept; readers have them once the page is published again.`,
    )
  }
  const title = said.title ?? facts.title
  return (
    <chakra.form aria-label={t`What it is called`} onSubmit={keep}>
      <Stack gap="3">
        {FIELDS.map(([name, label, most]) => {
          const value = said[name] ?? facts[name]
          const follows = name !== "title" && !value
          return (
            <Field.Root key={name} required={name === "title"}>
              <Field.Label>{label}</Field.Label>
              <Input
                size="sm"
                value={value}
                maxLength={most}
                placeholder={name === "title" ? undefined : title}
                _placeholder={{ color: "quiet" }}
                bg="paper"
                borderColor="edge"
                onChange={(event) => setSaid({ ...said, [name]: event.target.value })}
              />
              {name !== "title" && (
                <Field.HelperText color="quiet">
                  {follows ? t`Follows the title.` : t`Its own. Empty, it follows the title again.`}
                </Field.HelperText>
              )}
            </Field.Root>
          )
        })}
        <Button
          type="submit"
          size="sm"
          variant="outline"
          alignSelf="flex-start"
          disabled={!Object.keys(said).length || !title.trim()}
        >
          <Trans>Keep these names</Trans>
        </Button>
      </Stack>
    </chakra.form>
  )
}

export function AddressPart({ facts, arranging }: Props) {
  const [slug, setSlug] = useState<string | null>(null)
  const changed = slug !== null && slug !== facts.slug
  const told = useConsequences(changed && slug ? { pages: [facts.id], act: "slug", slug } : null)
  const params = { path: { page_id: facts.id } }
  const set = async (to: string | null) => {
    const done = await arranging.run(
      () => ask(client.PUT("/api/pages/{page_id}/slug", { params, body: { slug: to } })),
      (act) => act,
    )
    if (done) setSlug(null)
  }
  const follows = facts.slug_follows
    ? t`Follows the title until the page is published.`
    : t`Stays as it is when the title changes.`
  return (
    <chakra.form
      aria-label={t`Its address`}
      onSubmit={(event) => {
        event.preventDefault()
        void set(slug)
      }}
    >
      <Stack gap="3">
        <Field.Root>
          <Field.Label>
            <Trans>Last part of the address</Trans>
          </Field.Label>
          <Input
            size="sm"
            value={slug ?? facts.slug}
            maxLength={80}
            bg="paper"
            borderColor="edge"
            onChange={(event) => setSlug(event.target.value)}
          />
          <Field.HelperText color="quiet">{follows}</Field.HelperText>
        </Field.Root>
        {changed && <Consequences {...told} />}
        <HStack gap="2" flexWrap="wrap">
          <Button type="submit" size="sm" variant="outline" disabled={!changed || Boolean(told.wrong)}>
            <Trans>Give it this address</Trans>
          </Button>
          {!facts.slug_follows && facts.state === "unpublished" && (
            <Button size="sm" variant="outline" onClick={() => void set(null)}>
              <Trans>Follow the title</Trans>
            </Button>
          )}
        </HStack>
        <Text fontSize="xs" color="quiet" wordBreak="break-all">
          {facts.address}
        </Text>
      </Stack>
    </chakra.form>
  )
}

export function LeadsElsewhere({ facts, arranging }: Props) {
  const [address, setAddress] = useState(facts.elsewhere)
  const params = { path: { page_id: facts.id } }
  return (
    <chakra.form
      aria-label={t`Where it leads`}
      onSubmit={(event) => {
        event.preventDefault()
        void arranging.run(
          () => ask(client.PUT("/api/pages/{page_id}/elsewhere", { params, body: { address } })),
          (act) => act,
        )
      }}
    >
      <Stack gap="3">
        <Field.Root required>
          <Field.Label>
            <Trans>Address elsewhere</Trans>
          </Field.Label>
          <Input
            size="sm"
            value={address}
            bg="paper"
            borderColor="edge"
            onChange={(event) => setAddress(event.target.value)}
          />
        </Field.Root>
        <Button
          type="submit"
          size="sm"
          variant="outline"
          alignSelf="flex-start"
          disabled={address === facts.elsewhere}
        >
          <Trans>Lead there</Trans>
        </Button>
      </Stack>
    </chakra.form>
  )
}

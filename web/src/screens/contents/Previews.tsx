/** Addresses at which whoever has them reads a page as it is being written. */
import { Button, chakra, Field, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { type FormEvent, useState } from "react"
import { answers } from "../../api/answers"
import { ask, client, type Preview } from "../../api/client"
import { say } from "../../look/heard"
import { day, moment } from "../../look/words"
import type { Arranging } from "./useArranging"

const inDays = (count: number) => new Date(Date.now() + count * 24 * 3600 * 1000).toISOString().slice(0, 10)

export function Previews({ page, arranging }: { page: number; arranging: Arranging }) {
  const params = { path: { page_id: page } }
  const previews = useQuery({
    queryKey: answers.previews(page),
    queryFn: () => ask(client.GET("/api/pages/{page_id}/previews", { params })),
    staleTime: 0,
  })
  const [until, setUntil] = useState(inDays(14))
  const make = (event: FormEvent) => {
    event.preventDefault()
    void arranging.run(
      () => ask(client.POST("/api/pages/{page_id}/previews", { params, body: { until } })),
      () => t`A preview address is made.`,
    )
  }
  const holding = (previews.data ?? []).filter(({ ended }) => !ended)
  return (
    <Stack as="section" aria-label={t`Preview addresses`} gap="3">
      <Text fontSize="sm" color="quiet">
        <Trans>
          Whoever has such an address reads this page as it is being written, until the day you choose. Search
          engines are told to leave it.
        </Trans>
      </Text>
      <chakra.ul listStyleType="none">
        {holding.map((each) => (
          <One
            key={each.id}
            preview={each}
            onEnd={() =>
              void arranging.run(
                async () => {
                  const path = { preview_id: each.id }
                  await ask(client.DELETE("/api/previews/{preview_id}", { params: { path } }))
                },
                () => t`The preview address is ended.`,
              )
            }
          />
        ))}
      </chakra.ul>
      <chakra.form onSubmit={make}>
        <HStack gap="2" align="flex-end" flexWrap="wrap">
          <Field.Root w="11rem" required>
            <Field.Label>
              <Trans>Until</Trans>
            </Field.Label>
            <Input
              size="sm"
              type="date"
              min={inDays(0)}
              max={inDays(365)}
              value={until}
              bg="paper"
              borderColor="edge"
              onChange={(event) => setUntil(event.target.value)}
            />
          </Field.Root>
          <Button type="submit" size="sm" variant="outline">
            <Trans>Make a preview address</Trans>
          </Button>
        </HStack>
      </chakra.form>
      <Text role="alert" fontSize="sm" color="wrong">
        {previews.error?.message}
      </Text>
    </Stack>
  )
}

function One({ preview, onEnd }: { preview: Preview; onEnd(): void }) {
  const { address, until, visits, seen_at: seen, made_by: by } = preview
  return (
    <chakra.li py="2" borderTopWidth="1px" borderColor="line" fontSize="sm">
      <Input
        readOnly
        size="sm"
        aria-label={t`Preview address`}
        value={address}
        bg="paper"
        borderColor="edge"
        onFocus={(event) => event.target.select()}
      />
      <Text color="quiet" mt="1">
        <Trans>
          Until {day(until)}, made by {by}.
        </Trans>{" "}
        {visits
          ? t`${plural(visits, { one: "# visit", other: "# visits" })}, the last ${moment(seen ?? until)}.`
          : t`No visits yet.`}
      </Text>
      <HStack gap="2" mt="1">
        <Button
          size="xs"
          variant="outline"
          onClick={() => {
            void navigator.clipboard?.writeText(address)
            say(t`Copied`)
          }}
        >
          <Trans>Copy</Trans>
        </Button>
        <Button size="xs" variant="outline" onClick={onEnd}>
          <Trans>End it now</Trans>
        </Button>
      </HStack>
    </chakra.li>
  )
}

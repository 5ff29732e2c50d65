/** What waits in the bin of a site: taken back to where it was, or removed for good. */
import { Button, chakra, Heading, HStack, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { useState } from "react"
import { answers } from "../../api/answers"
import { ask, type Binned, client, type SiteOut } from "../../api/client"
import { moment } from "../../look/words"
import type { Arranging } from "./useArranging"

export function BinList({ site, arranging }: { site: SiteOut; arranging: Arranging }) {
  const { setMode, run, wrong } = arranging
  const bin = useQuery({
    queryKey: answers.bin(site.id),
    queryFn: () => ask(client.GET("/api/sites/{site_id}/bin", { params: { path: { site_id: site.id } } })),
    staleTime: 0,
  })
  const rows = bin.data?.binned ?? []
  return (
    <Stack as="section" aria-label={t`The bin`} gap="4">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        <Trans>The bin</Trans>
      </Heading>
      {bin.data && rows.length === 0 && (
        <Text color="quiet">
          <Trans>
            Nothing is in the bin. Pages that are put there wait until somebody removes them for good.
          </Trans>
        </Text>
      )}
      <chakra.ul listStyleType="none" aria-label={t`Pages in the bin`}>
        {rows.map((each) => (
          <Entry
            key={each.id}
            binned={each}
            mayRemove={site.may_publish}
            onRestore={() =>
              void run(
                () => ask(client.POST("/api/tree/restore", { body: { pages: [each.id] } })),
                ({ act }) => act,
              )
            }
            onRemove={() =>
              void run(
                () => ask(client.POST("/api/tree/remove", { body: { pages: [each.id] } })),
                () => t`“${each.title}” is removed for good.`,
              )
            }
          />
        ))}
      </chakra.ul>
      {bin.data?.more && (
        <Text fontSize="sm" color="quiet">
          <Trans>The latest hundred are shown.</Trans>
        </Text>
      )}
      <Button variant="outline" size="sm" alignSelf="flex-start" onClick={() => setMode({ mode: "facts" })}>
        <Trans>Close the bin</Trans>
      </Button>
      <Text role="alert" color="wrong">
        {wrong || bin.error?.message}
      </Text>
    </Stack>
  )
}

interface EntryProps {
  binned: Binned
  mayRemove: boolean
  onRestore(): void
  onRemove(): void
}

function Entry({ binned, mayRemove, onRestore, onRemove }: EntryProps) {
  const [sure, setSure] = useState(false)
  const { title, pages, was_live: live, at, by } = binned
  return (
    <chakra.li py="3" borderTopWidth="1px" borderColor="line">
      <Text fontFamily="heading" fontSize="lg" wordBreak="break-word">
        {title}
      </Text>
      <Text fontSize="sm" color="quiet">
        {by}, {moment(at)}
        {pages > 1 && t`; ${plural(pages - 1, { one: "# page", other: "# pages" })} under it`}
        {live > 0 && t`; readers had ${plural(live, { one: "# page", other: "# pages" })} of it`}
      </Text>
      <HStack gap="2" mt="2" flexWrap="wrap">
        <Button size="xs" variant="outline" aria-label={t`Take “${title}” back`} onClick={onRestore}>
          <Trans>Take back</Trans>
        </Button>
        {mayRemove &&
          (sure ? (
            <Button size="xs" variant="outline" color="wrong" autoFocus onClick={onRemove}>
              {plural(pages, {
                one: "Really remove it for good: there is no way back",
                other: "Really remove all # for good: there is no way back",
              })}
            </Button>
          ) : (
            <Button
              size="xs"
              variant="outline"
              aria-label={t`Remove “${title}” for good …`}
              onClick={() => setSure(true)}
            >
              <Trans>Remove for good …</Trans>
            </Button>
          ))}
      </HStack>
    </chakra.li>
  )
}

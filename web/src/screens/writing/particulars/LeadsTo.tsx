import { Button, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { useState } from "react"
import { answers } from "../../../api/answers"
import { ask, client } from "../../../api/client"
import type { Known } from "../../../editor/known"
import { addressFrom } from "../offers"
import { Destination } from "./Link"

interface Props {
  label: string
  href: string | null
  site: number
  known: Known
  editable: boolean
  onHref(href: string | null): void
}

/** Where something leads: a page by its words, or an address. */
export function LeadsTo({ label, href, site, known, editable, onHref }: Props) {
  const [words, setWords] = useState("")
  const found = useQuery({
    queryKey: answers.found(site, words),
    queryFn: () => ask(client.GET("/api/shelf", { params: { query: { q: words, site } } })),
    placeholderData: (before) => before,
    enabled: words !== "",
  })
  const address = addressFrom(words)
  const choose = (chosen: string) => {
    setWords("")
    onHref(chosen)
  }
  if (href)
    return (
      <HStack gap="2" justifyContent="space-between" align="flex-start" fontSize="sm">
        <Destination href={href} known={known} />
        {editable && (
          <Button size="xs" variant="outline" onClick={() => onHref(null)}>
            <Trans>Lead nowhere</Trans>
          </Button>
        )}
      </HStack>
    )
  if (!editable) return null
  return (
    <Stack gap="0" role="group" aria-label={label}>
      <Text fontSize="xs" color="quiet" aria-hidden>
        <Trans>Leads to</Trans>
      </Text>
      <Input
        size="sm"
        aria-label={label}
        placeholder={t`words of a page, or an address`}
        _placeholder={{ color: "quiet" }}
        bg="paper"
        borderColor="edge"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      {words &&
        found.data?.pages.slice(0, 5).map((page) => (
          <Button
            key={page.id}
            size="xs"
            variant="outline"
            h="auto"
            py="1"
            justifyContent="flex-start"
            whiteSpace="normal"
            textAlign="start"
            onClick={() => {
              known.add([], [page])
              choose(`page:${page.id}`)
            }}
          >
            {page.title}
          </Button>
        ))}
      {words && address && (
        <Button size="xs" variant="outline" justifyContent="flex-start" onClick={() => choose(address)}>
          {address}
        </Button>
      )}
      <Text role="status" fontSize="xs" color="quiet">
        {words && found.data && !found.data.pages.length && !address ? t`No page has these words.` : ""}
      </Text>
    </Stack>
  )
}

import { chakra, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import type { ItemOut } from "../api/client"

/** What is known of a film at another host, and the way to it there. `titled`: with its title. */
export function HostedFacts({ item, titled = false }: { item: ItemOut; titled?: boolean }) {
  const { hosted } = item
  if (!hosted) return null
  return (
    <Stack gap="1" fontSize="sm">
      {titled && <Text wordBreak="break-word">{item.title}</Text>}
      <Text color="quiet">
        {hosted.told}
        {hosted.author && t`, by ${hosted.author}`}
      </Text>
      {hosted.gone ? (
        <Text color="wrong">{hosted.gone}</Text>
      ) : (
        !hosted.plays && (
          <Text color="waits">
            <Trans>Its host has not been asked yet; until then readers get a link to it.</Trans>
          </Text>
        )
      )}
      <chakra.a
        href={hosted.address}
        color="press.fg"
        textDecoration="underline"
        target="_blank"
        rel="noopener noreferrer"
      >
        <Trans>Look at it there, in a new window</Trans>
      </chakra.a>
    </Stack>
  )
}

/** What can be done to many pages that are chosen. */
import { Button, Heading, HStack, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { ask, client } from "../../api/client"
import { Act } from "../../look/Act"
import type { Arranging } from "./useArranging"

export function ManyPages({ site, arranging }: { site: number; arranging: Arranging }) {
  const { ticked, tick, setMode, run, wrong } = arranging
  const pages = [...ticked]
  const show = (in_navigation: boolean, hidden: boolean) =>
    void run(
      () => ask(client.POST("/api/tree/show", { body: { pages, in_navigation, hidden } })),
      (act) => act,
    )
  return (
    <Stack as="section" aria-label={t`What is chosen`} gap="4">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        {plural(pages.length, { one: "# page chosen", other: "# pages chosen" })}
      </Heading>
      <Button size="xs" variant="ghost" alignSelf="flex-start" onClick={() => tick(pages, false)}>
        <Trans>Clear the selection</Trans>
      </Button>
      <HStack gap="1" flexWrap="wrap" role="group" aria-label={t`What can be done`}>
        <Act
          onPress={() => setMode({ mode: "moving", pages, target: { site, parent: null, after: pages[0] } })}
        >{t`Move`}</Act>
        <Act onPress={() => setMode({ mode: "binning", pages })}>{t`Put into the bin`}</Act>
      </HStack>
      <Stack gap="1" role="group" aria-label={t`Where they show`}>
        <Text fontSize="sm" fontWeight="600">
          <Trans>Where they show</Trans>
        </Text>
        <HStack gap="1" flexWrap="wrap">
          <Act onPress={() => show(true, false)}>{t`In the navigation`}</Act>
          <Act onPress={() => show(false, false)}>{t`Not in the navigation`}</Act>
          <Act onPress={() => show(false, true)}>{t`Hidden`}</Act>
        </HStack>
      </Stack>
      <Text fontSize="sm" color="quiet">
        <Trans>Pages that stand under these go along when they are moved or put into the bin.</Trans>
      </Text>
      <Text role="alert" color="wrong">
        {wrong}
      </Text>
    </Stack>
  )
}

/** Before pages go into the bin, or are taken from readers: what would follow. */
import { Heading, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { ask, client } from "../../api/client"
import { Consequences, Deciding } from "./Consequences"
import { type Arranging, useConsequences } from "./useArranging"

export function Binning({ arranging, pages }: { arranging: Arranging; pages: number[] }) {
  const { setMode, run, tick, wrong } = arranging
  const told = useConsequences({ pages, act: "bin" })
  const bin = async () => {
    const done = await run(
      () => ask(client.POST("/api/tree/bin", { body: { pages } })),
      (act) => act,
    )
    if (!done) return
    tick(pages, false)
    setMode({ mode: "facts" })
  }
  return (
    <Stack as="section" aria-label={t`Put into the bin`} gap="4">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        {plural(pages.length, { one: "Put this page into the bin?", other: "Put # pages into the bin?" })}
      </Heading>
      <Consequences {...told} />
      <Text fontSize="sm" color="quiet">
        <Trans>From the bin it comes back to where it was.</Trans>
      </Text>
      <Deciding
        act={t`Put into the bin`}
        first
        disabled={Boolean(told.wrong)}
        wrong={wrong}
        onAct={() => void bin()}
        onLeave={() => setMode({ mode: "facts" })}
      />
    </Stack>
  )
}

export function Withdrawing({ arranging, page }: { arranging: Arranging; page: number }) {
  const { setMode, run, wrong } = arranging
  const told = useConsequences({ pages: [page], act: "withdraw" })
  const withdraw = async () => {
    const params = { path: { page_id: page } }
    const done = await run(
      async () => {
        await ask(client.DELETE("/api/pages/{page_id}/publish", { params }))
        return true
      },
      () => t`Readers no longer have it. Its text stays.`,
    )
    if (done) setMode({ mode: "facts" })
  }
  return (
    <Stack as="section" aria-label={t`Unpublish`} gap="4">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        <Trans>Take this page from readers?</Trans>
      </Heading>
      <Consequences {...told} />
      <Deciding
        act={t`Unpublish`}
        first
        wrong={wrong}
        onAct={() => void withdraw()}
        onLeave={() => setMode({ mode: "facts" })}
      />
    </Stack>
  )
}

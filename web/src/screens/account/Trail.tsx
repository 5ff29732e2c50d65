/** The audit trail: who did what, when, from where. For administrators; nothing in it can be changed. */

import { Button, chakra, Field, Heading, HStack, Input, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useInfiniteQuery } from "@tanstack/react-query"
import { useDeferredValue, useEffect, useState } from "react"
import { answers } from "../../api/answers"
import { ask, client, type NotedEntry } from "../../api/client"
import { Choice } from "../../look/Choice"
import { Sentence } from "../../look/Sentence"
import { Top } from "../../look/Top"
import { moment } from "../../look/words"

const sentenceCase = (words: string) => words.charAt(0).toUpperCase() + words.slice(1)

export function Trail() {
  const [act, setAct] = useState("")
  const [typed, setTyped] = useState("")
  const name = useDeferredValue(typed.trim())
  const trail = useInfiniteQuery({
    queryKey: answers.trail(act, name),
    queryFn: ({ pageParam }) =>
      ask(client.GET("/api/trail", { params: { query: { act, name, before: pageParam } } })),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (last) => (last.more ? last.entries.at(-1)?.id : undefined),
    staleTime: 0,
  })
  useEffect(() => {
    document.title = t`Audit trail, Still Page`
  }, [])
  if (trail.error)
    return (
      <Sentence
        title={t`The audit trail cannot be shown`}
        text={trail.error.message}
        again={() => trail.refetch()}
      />
    )
  const entries = trail.data?.pages.flatMap((part) => part.entries)
  const acts = trail.data?.pages[0]?.acts ?? []
  return (
    <>
      <Top />
      <chakra.main maxW="58rem" mx="auto" px={{ base: "4", md: "8" }} py="8">
        <Heading as="h1" size="3xl" fontWeight="450" lineHeight="1.2" mb="1">
          <Trans>Audit trail</Trans>
        </Heading>
        <Text color="quiet" mb="6">
          <Trans>Who did what, when, and from where. It is only ever added to.</Trans>
        </Text>
        <HStack gap="4" alignItems="flex-end" flexWrap="wrap" mb="4">
          <Choice
            label={t`What was done`}
            value={act}
            options={[
              ["", t`Everything`],
              ...acts.map((each): [string, string] => [each, sentenceCase(each)]),
            ]}
            onChoice={setAct}
          />
          <Field.Root w="14rem">
            <Field.Label>
              <Trans>By whom</Trans>
            </Field.Label>
            <Input
              size="sm"
              value={typed}
              placeholder={t`name to sign in with`}
              onChange={(event) => setTyped(event.target.value)}
              bg="paper"
              borderColor="edge"
            />
          </Field.Root>
        </HStack>
        {entries?.length === 0 && (
          <Text role="status">
            <Trans>Nothing of this sort is noted.</Trans>
          </Text>
        )}
        <chakra.ol listStyleType="none" aria-label={t`What was done, the latest first`}>
          {entries?.map((each) => (
            <Line key={each.id} entry={each} />
          ))}
        </chakra.ol>
        {trail.hasNextPage && (
          <Button mt="4" size="sm" variant="outline" onClick={() => void trail.fetchNextPage()}>
            <Trans>Show earlier ones</Trans>
          </Button>
        )}
      </chakra.main>
    </>
  )
}

function Line({ entry }: { entry: NotedEntry }) {
  return (
    <chakra.li
      py="2"
      borderTopWidth="1px"
      borderColor="line"
      display="grid"
      gridTemplateColumns={{ base: "1fr", md: "12rem 1fr" }}
      gap="0 4"
    >
      <chakra.time dateTime={entry.at} color="quiet" fontSize="sm" pt="0.5">
        {moment(entry.at)}
      </chakra.time>
      <div>
        {entry.sentence}
        <chakra.span color="quiet" display="block" fontSize="sm" wordBreak="break-word">
          {entry.name || t`nobody signed in`}
          {entry.address && t`, from ${entry.address}`}
        </chakra.span>
      </div>
    </chakra.li>
  )
}

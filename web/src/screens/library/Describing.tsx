/** Going through the pictures that lack an alt text, one after another, by keyboard. */

import { Button, chakra, Field, Heading, HStack, Stack, Text, Textarea } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { type FormEvent, type KeyboardEvent, useRef, useState } from "react"
import { answers } from "../../api/answers"
import { ask, client, type ItemChange } from "../../api/client"
import { Act } from "../../look/Act"
import type { Acts } from "./useActs"

export function Describing({ acts, onClose }: { acts: Acts; onClose(): void }) {
  const [place, setPlace] = useState(0)
  const numbers = useQuery({
    queryKey: answers.describing,
    queryFn: () =>
      ask(client.GET("/api/library/numbers", { params: { query: { show: "without alt text" } } })),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  })
  const number = numbers.data?.[place]
  const item = useQuery({
    queryKey: answers.item(number),
    queryFn: () => ask(client.GET("/api/items/{item_id}", { params: { path: { item_id: number ?? 0 } } })),
    enabled: number !== undefined,
  })
  const form = useRef<HTMLFormElement>(null)
  const say = (body: ItemChange) => {
    const params = { path: { item_id: number ?? 0 } }
    return acts.run(async () => {
      await ask(client.PATCH("/api/items/{item_id}", { params, body }))
      return (await ask(client.GET("/api/acts/last"))) ?? null
    })
  }
  /** Go on once what was typed is saved; where it cannot be, it stays to be seen. */
  const leave = async (go: () => void) => {
    const alt = form.current ? String(new FormData(form.current).get("alt")).trim() : ""
    if (!alt || (await say({ alt }))) go()
  }
  const to = (wanted: number) => () => setPlace(wanted)
  const keep = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    if (String(new FormData(event.currentTarget).get("alt")).trim()) void leave(to(place + 1))
  }
  const key = (event: KeyboardEvent<HTMLFormElement>) => {
    if (event.key === "Enter" && !event.shiftKey && (event.target as Element).matches("textarea")) {
      event.preventDefault()
      event.currentTarget.requestSubmit()
    }
    if (event.key === "Escape") void leave(onClose)
  }
  if (!numbers.data) return null
  const many = numbers.data.length
  if (number === undefined)
    return (
      <Stack gap="3" role="status">
        <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
          {many === 0 ? t`Every picture has its words` : t`That was the last`}
        </Heading>
        <Button size="sm" variant="outline" alignSelf="flex-start" autoFocus onClick={onClose}>
          <Trans>Back to the library</Trans>
        </Button>
      </Stack>
    )
  return (
    <chakra.form ref={form} key={number} onSubmit={keep} onKeyDown={key} aria-label={t`Words for pictures`}>
      <Stack gap="3">
        <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
          <Trans>
            Picture {place + 1} of {many} without alt text
          </Trans>
        </Heading>
        {item.data && (
          <>
            <chakra.img
              src={item.data.thumbnail}
              alt=""
              w="full"
              maxH="18rem"
              objectFit="contain"
              bg="paper"
            />
            <Text fontSize="sm" color="quiet" wordBreak="break-word">
              {item.data.title}
              {item.data.description && `: ${item.data.description}`}
            </Text>
          </>
        )}
        <Field.Root>
          <Field.Label>
            <Trans>Alt text</Trans>
          </Field.Label>
          <Textarea
            name="alt"
            rows={4}
            maxLength={1000}
            autoFocus
            bg="paper"
            borderColor="edge"
            placeholder={t`What does it show?`}
            _placeholder={{ color: "quiet" }}
          />
          <Field.HelperText color="quiet">
            <Trans>Enter keeps it and goes on, Escape leaves.</Trans>
          </Field.HelperText>
        </Field.Root>
        <HStack gap="1" flexWrap="wrap">
          <Button type="submit" size="sm">
            <Trans>Save and go on</Trans>
          </Button>
          <Act onPress={() => void say({ decorative: true }).then((done) => done && setPlace(place + 1))}>
            <Trans>It is decorative</Trans>
          </Act>
          <Act disabled={place === 0} onPress={() => void leave(to(place - 1))}>
            <Trans>One back</Trans>
          </Act>
          <Act onPress={() => void leave(to(place + 1))}>
            <Trans>Skip it</Trans>
          </Act>
          <Act onPress={() => void leave(onClose)}>
            <Trans>Close</Trans>
          </Act>
        </HStack>
      </Stack>
    </chakra.form>
  )
}

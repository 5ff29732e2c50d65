/** Freely licensed pictures: found by words, and taken with their licence and credit. */

import { Button, chakra, Field, Heading, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useInfiniteQuery } from "@tanstack/react-query"
import { useEffect, useState } from "react"
import { answers } from "../../api/answers"
import { ask, type CommonsPicture, client } from "../../api/client"
import { Act } from "../../look/Act"

interface Props {
  onTake(picture: CommonsPicture): void
  onClose(): void
}

export function Commons({ onTake, onClose }: Props) {
  const [typed, setTyped] = useState("")
  const [q, setQ] = useState("")
  useEffect(() => {
    const timer = window.setTimeout(() => setQ(typed), 300)
    return () => window.clearTimeout(timer)
  }, [typed])
  const answer = useInfiniteQuery({
    queryKey: answers.allCommons(q),
    queryFn: ({ pageParam }) =>
      ask(client.GET("/api/commons", { params: { query: { q, page: pageParam } } })),
    initialPageParam: 1,
    getNextPageParam: (last, all) => (last.more ? all.length + 1 : undefined),
  })
  const pictures = answer.data?.pages.flatMap((page) => page.pictures) ?? []
  return (
    <Stack as="section" aria-label={t`The commons`} gap="3">
      <HStack justifyContent="space-between">
        <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
          <Trans>Free to use</Trans>
        </Heading>
        <Act onPress={onClose}>
          <Trans>Close</Trans>
        </Act>
      </HStack>
      <Field.Root>
        <Field.Label>
          <Trans>Find in the commons</Trans>
        </Field.Label>
        <Input
          size="sm"
          type="search"
          autoFocus
          value={typed}
          bg="paper"
          borderColor="edge"
          onChange={(event) => setTyped(event.target.value)}
        />
      </Field.Root>
      <Text role="status" fontSize="sm" color={answer.error ? "wrong" : "quiet"}>
        {answer.isFetching
          ? t`Looking …`
          : (answer.error?.message ?? (pictures.length === 0 ? t`Nothing there is like that.` : ""))}
      </Text>
      {answer.error && (
        <Act onPress={() => void answer.refetch()}>
          <Trans>Try again</Trans>
        </Act>
      )}
      <chakra.ul listStyleType="none" display="flex" flexDirection="column" gap="3">
        {pictures.map((picture) => (
          <chakra.li key={picture.id}>
            <chakra.img
              src={picture.preview}
              alt={picture.alt}
              w="full"
              h="9rem"
              objectFit="cover"
              loading="lazy"
            />
            <HStack justifyContent="space-between" align="flex-start" mt="1">
              <Text fontSize="sm">
                {picture.title}
                <chakra.span display="block" color="quiet" fontSize="xs">
                  {picture.author}, {picture.licence}, {picture.width} × {picture.height}
                </chakra.span>
              </Text>
              <Button
                size="xs"
                variant="outline"
                aria-label={t`Take ${picture.title}`}
                onClick={() => onTake(picture)}
              >
                <Trans>Take</Trans>
              </Button>
            </HStack>
          </chakra.li>
        ))}
      </chakra.ul>
      {answer.hasNextPage && (
        <Act onPress={() => void answer.fetchNextPage()}>
          <Trans>More</Trans>
        </Act>
      )}
    </Stack>
  )
}

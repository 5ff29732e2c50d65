/** Freely licensed pictures: found by words, and taken with their licence and credit. */
import { Button, chakra, Field, Heading, HStack, Input, Stack, Text } from "@chakra-ui/react"
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
    <Stack as="section" aria-label="The commons" gap="3">
      <HStack justifyContent="space-between">
        <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
          Free to use
        </Heading>
        <Act onPress={onClose}>Close</Act>
      </HStack>
      <Field.Root>
        <Field.Label>Find in the commons</Field.Label>
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
          ? "Looking …"
          : (answer.error?.message ?? (pictures.length === 0 ? "Nothing there is like that." : ""))}
      </Text>
      {answer.error && <Act onPress={() => void answer.refetch()}>Try again</Act>}
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
                aria-label={`Take ${picture.title}`}
                onClick={() => onTake(picture)}
              >
                Take
              </Button>
            </HStack>
          </chakra.li>
        ))}
      </chakra.ul>
      {answer.hasNextPage && <Act onPress={() => void answer.fetchNextPage()}>More</Act>}
    </Stack>
  )
}

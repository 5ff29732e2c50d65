/** What the particulars of films have in common: pictures to choose a cover from, and a box to tick. */
import { chakra, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { useQuery } from "@tanstack/react-query"
import { useState } from "react"
import { answers } from "../../../api/answers"
import { ask, client, type ItemOut } from "../../../api/client"
import type { Known } from "../../../editor/known"
import { Folded } from "../../../look/Folded"
import type { SetAttrs } from "./Standing"

interface StillProps {
  name: string
  src: string
  pressed: boolean
  onPress(): void
}

export function Still({ name, src, pressed, onPress }: StillProps) {
  return (
    <chakra.button
      type="button"
      aria-label={name}
      aria-pressed={pressed}
      title={name}
      borderWidth="3px"
      borderColor={pressed ? "press.solid" : "transparent"}
      cursor="pointer"
      onClick={onPress}
    >
      <chakra.img src={src} alt="" w="5rem" h="3.2rem" objectFit="cover" display="block" />
    </chakra.button>
  )
}

interface FromLibraryProps {
  site: number
  known: Known
  set: SetAttrs
}

/** A picture of the library as the cover. */
export function FromLibrary({ site, known, set }: FromLibraryProps) {
  return (
    <Folded label={t`A picture of the library`}>
      <Pictures
        site={site}
        label={t`Find a picture for the cover`}
        onPicture={(found) => {
          known.add([found])
          set({ cover: `item-${found.id}` })
        }}
      />
    </Folded>
  )
}

interface PicturesProps {
  site: number
  label: string
  onPicture(item: ItemOut): void
}

/** Pictures of the library by their words. */
export function Pictures({ site, label, onPicture }: PicturesProps) {
  const [words, setWords] = useState("")
  const found = useQuery({
    queryKey: answers.found(site, words),
    queryFn: () => ask(client.GET("/api/shelf", { params: { query: { q: words, site } } })),
    placeholderData: (before) => before,
  })
  return (
    <Stack gap="1">
      <Input
        size="sm"
        aria-label={label}
        placeholder={t`words of a picture`}
        _placeholder={{ color: "quiet" }}
        bg="paper"
        borderColor="edge"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      <HStack gap="1" flexWrap="wrap" maxH="12rem" overflowY="auto">
        {found.data?.pictures.map((each) => (
          <Still
            key={each.id}
            name={each.title}
            src={each.thumbnail}
            pressed={false}
            onPress={() => onPicture(each)}
          />
        ))}
      </HStack>
      <Text role="status" fontSize="xs" color="quiet">
        {found.data?.pictures.length === 0 ? t`No picture has these words.` : ""}
      </Text>
    </Stack>
  )
}

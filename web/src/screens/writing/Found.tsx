/** How a page will be found: as a search result, with its width in pixels, and as a card where its address is shared. */
import { Box, chakra, Heading, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useEffect, useState } from "react"
import type { PageOut } from "../../api/client"
import { cutOf, keyOf, NO_EDITS } from "../../document/pictures"
import { CARD_RATIO, RESULT_WIDTH } from "../../document/rules"
import { previewOf } from "../../editor/kinds/picture"
import type { Sheet } from "../../editor/sheet"
import { useOfSheet } from "./useSheetState"

interface Props {
  page: PageOut
  sheet: Sheet | null
  title: string
  /** As it stands in the head of the page. */
  whole: string
  description: string
}

export function Found(props: Props) {
  return (
    <Stack as="section" aria-label={t`How it will be found`} gap="2" flex="1 1 18rem" minW="0">
      <Heading as="h2" size="sm" fontFamily="body">
        <Trans>As a search result</Trans>
      </Heading>
      <Result {...props} />
      <Heading as="h2" size="sm" fontFamily="body">
        <Trans>As a card, where somebody shares its address</Trans>
      </Heading>
      <Card {...props} />
    </Stack>
  )
}

const FACE = "Arial, Arimo, 'Liberation Sans', sans-serif"

/** How wide a line is in the face and size of a search result. */
function useWidth(words: string): number {
  const [width, setWidth] = useState(0)
  useEffect(() => {
    const context = document.createElement("canvas").getContext("2d")
    if (!context) return
    context.font = `20px ${FACE}`
    setWidth(Math.round(context.measureText(words).width))
  }, [words])
  return width
}

export function Result({ page, whole, description }: Props) {
  const width = useWidth(whole)
  const says = description || t`No description yet: search engines take words from the text.`
  return (
    <>
      <Box fontFamily={FACE} maxW={RESULT_WIDTH} lineHeight="1.4">
        <Text fontSize="12px" color="quiet" truncate>
          {page.address}
        </Text>
        <Text fontSize="20px" truncate title={whole}>
          {whole}
        </Text>
        <Text fontSize="14px" lineClamp="2" color={description ? "ink" : "waits"}>
          {says}
        </Text>
      </Box>
      <Text fontSize="xs" color={width > RESULT_WIDTH ? "waits" : "quiet"}>
        {width > RESULT_WIDTH
          ? t`The title is ${width} px wide; about ${RESULT_WIDTH} are shown.`
          : t`The title is ${width} of about ${RESULT_WIDTH} px wide.`}
      </Text>
    </>
  )
}

export function Card({ page, sheet, title, description }: Props) {
  const item = useOfSheet(sheet, ({ doc }) => doc.attrs.share as number | null)
  const focus = useOfSheet(sheet, ({ doc }) => doc.attrs.share_focus as string | null)
  const searched = useOfSheet(sheet, ({ doc }) => doc.attrs.search_title as string | null)
  const picture = item ? sheet?.options.known.item(item) : undefined
  const own = { ...NO_EDITS, ...picture?.edits }
  const cut = picture && cutOf({ ...NO_EDITS, ratio: CARD_RATIO, focus }, own, picture.width, picture.height)
  return (
    <Box borderWidth="1px" borderColor="edge" maxW="28rem">
      {picture && cut && (
        <chakra.img
          src={previewOf(picture.id, keyOf(cut), 896)}
          alt=""
          w="full"
          display="block"
          objectFit="cover"
          style={{ aspectRatio: CARD_RATIO.replace(":", " / ") }}
        />
      )}
      <Box p="2">
        <Text fontSize="xs" color="quiet">
          {new URL(page.address).host}
        </Text>
        <Text fontWeight="600" lineClamp="2">
          {searched || title}
        </Text>
        <Text fontSize="sm" lineClamp="2" color={description ? "ink" : "waits"}>
          {description ||
            (picture
              ? t`No description yet: the card will show title and picture alone.`
              : t`No description yet: the card will show the title alone.`)}
        </Text>
      </Box>
    </Box>
  )
}

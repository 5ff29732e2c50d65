/** A newer file in the place of the present one, seen first as each page will show it; and the files it had before. */

import { Button, chakra, HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { useEffect, useRef, useState } from "react"
import { answers } from "../../api/answers"
import { ask, client, type ItemOut } from "../../api/client"
import { cutOf, type Edits, NO_EDITS, rounded, sizeAfter, UNIT } from "../../document/pictures"
import { Act } from "../../look/Act"
import { UploadList } from "../../look/UploadList"
import { type Limits, useSending } from "../../look/useSending"
import { day, kilobytes } from "../../look/words"
import type { Acts } from "./useActs"

interface Props {
  item: ItemOut
  acts: Acts
  limits: Limits
}

export function Replacing({ item, acts, limits }: Props) {
  const choose = useRef<HTMLInputElement>(null)
  const [file, setFile] = useState<File | null>(null)
  const { list, dismiss, send } = useSending(limits)
  const versions = useQuery({
    queryKey: answers.itemVersions(item.id),
    queryFn: () =>
      ask(client.GET("/api/items/{item_id}/versions", { params: { path: { item_id: item.id } } })),
    staleTime: 0,
  })
  const replace = async () => {
    if (!file) return
    const done = await send(file, { replaces: item.id })
    if (!done) return
    setFile(null)
    acts.say(t`“${item.title}” has a newer file. The earlier one is kept.`)
  }
  return (
    <Stack gap="3" role="group" aria-label={t`Replace the file`}>
      <Button size="sm" variant="outline" alignSelf="flex-start" onClick={() => choose.current?.click()}>
        <Trans>Choose a newer file</Trans>
      </Button>
      <input
        ref={choose}
        type="file"
        hidden
        aria-label={t`A newer file for ${item.title}`}
        onChange={(event) => setFile(event.target.files?.[0] ?? null)}
      />
      {file && (
        <Stack gap="2" p="3" borderWidth="1px" borderColor="edge">
          <Text fontSize="sm" wordBreak="break-word">
            {file.name}, {kilobytes(file.size)}
          </Text>
          <Coming item={item} file={file} />
          <HStack gap="1" flexWrap="wrap">
            <Act onPress={() => void replace()}>
              <Trans>Put it in the place of the present file, everywhere</Trans>
            </Act>
            <Act onPress={() => setFile(null)}>
              <Trans>Cancel</Trans>
            </Act>
          </HStack>
        </Stack>
      )}
      <UploadList uploads={{ list, dismiss }} />
      {(versions.data?.length ?? 0) > 1 && (
        <chakra.ul listStyleType="none" aria-label={t`Earlier files`} fontSize="sm">
          {versions.data?.map((each) => (
            <chakra.li key={each.version} py="1" borderTopWidth="1px" borderColor="line">
              <chakra.a
                href={each.address}
                target="_blank"
                rel="noopener"
                color="press.fg"
                textDecoration="underline"
              >
                {each.came_as || t`File ${each.version}`}
              </chakra.a>
              <chakra.span color="quiet">
                , {each.format}, {each.width > 0 && `${each.width} × ${each.height}, `}
                {kilobytes(each.size)}, {day(each.made_at)}
              </chakra.span>{" "}
              {each.present ? (
                t`shown now`
              ) : (
                <Act
                  onPress={async () => {
                    const path = { item_id: item.id, version: each.version }
                    const done = await acts.run(async () => {
                      await ask(client.POST("/api/items/{item_id}/versions/{version}", { params: { path } }))
                      return null
                    })
                    if (done) acts.say(t`“${item.title}” has its earlier file again.`)
                  }}
                >
                  <Trans>Show this one again</Trans>
                </Act>
              )}
            </chakra.li>
          ))}
        </chakra.ul>
      )}
    </Stack>
  )
}

/** What each page that uses the item will show of the newer file. */
function Coming({ item, file }: { item: ItemOut; file: File }) {
  const [image, setImage] = useState<HTMLImageElement | null>(null)
  useEffect(() => {
    if (item.kind !== "picture") return
    const address = URL.createObjectURL(file)
    const loaded = new Image()
    loaded.onload = () => setImage(loaded)
    loaded.onerror = () => setImage(null)
    loaded.src = address
    return () => URL.revokeObjectURL(address)
  }, [item.kind, file])
  const uses = useQuery({
    queryKey: answers.uses(item.id),
    queryFn: () => ask(client.GET("/api/items/{item_id}/uses", { params: { path: { item_id: item.id } } })),
    staleTime: 0,
  })
  const found = uses.data ?? []
  const smaller = image && image.naturalWidth < item.width
  return (
    <>
      {smaller && (
        <Text fontSize="sm" color="waits">
          <Trans>
            It is smaller than the present one ({image.naturalWidth} × {image.naturalHeight} instead of{" "}
            {item.width} × {item.height} pixels). Pages that show it larger will show it at its own size.
          </Trans>
        </Text>
      )}
      <Text fontSize="sm">
        {found.length === 0
          ? t`No page uses the item yet.`
          : t`As the pages that use it will show it, the live ones at once:`}
      </Text>
      <chakra.ul listStyleType="none" aria-label={t`What will be seen where`}>
        {found.map(({ page, framings }) => (
          <chakra.li key={page.id} py="1">
            <HStack align="flex-start" gap="3">
              {image &&
                (framings?.length ? framings : [NO_EDITS]).map((framing) => (
                  <Framed
                    key={JSON.stringify(framing)}
                    image={image}
                    framing={{ ...NO_EDITS, ...framing }}
                    own={item}
                  />
                ))}
              <Text fontSize="sm">
                {page.title}
                <chakra.span color="quiet">, {page.site}</chakra.span>
              </Text>
            </HStack>
          </chakra.li>
        ))}
      </chakra.ul>
    </>
  )
}

const SIDE = 96

/** A picture cut as a page has it, drawn small. */
function Framed({ image, framing, own }: { image: HTMLImageElement; framing: Edits; own: ItemOut }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const cut = cutOf(framing, { ...NO_EDITS, ...own.edits }, image.naturalWidth, image.naturalHeight)
  const [width, height] = sizeAfter(cut, image.naturalWidth, image.naturalHeight)
  const shownHeight = Math.max(1, rounded((SIDE * height) / width))
  useEffect(() => {
    const pen = canvas.current?.getContext("2d")
    if (!pen) return
    const turned =
      cut.turn % 2 ? [image.naturalHeight, image.naturalWidth] : [image.naturalWidth, image.naturalHeight]
    const scale = SIDE / width
    const [x, y, wide, high] = cut.crop
    pen.resetTransform()
    pen.clearRect(0, 0, SIDE, shownHeight)
    // The middle of what is left of the upright picture stands in the middle of the canvas.
    pen.translate(SIDE / 2, shownHeight / 2)
    const [fullWidth, fullHeight] = [(width * UNIT) / wide, (height * UNIT) / high]
    pen.translate(
      -((x + wide / 2) / UNIT - 0.5) * fullWidth * scale,
      -((y + high / 2) / UNIT - 0.5) * fullHeight * scale,
    )
    pen.rotate(((cut.straighten / 10) * Math.PI) / 180 + (cut.turn * Math.PI) / 2)
    const [across, down] = cut.turn % 2 ? [turned[1] ?? 1, turned[0] ?? 1] : [turned[0] ?? 1, turned[1] ?? 1]
    pen.drawImage(image, (-across / 2) * scale, (-down / 2) * scale, across * scale, down * scale)
  })
  return <canvas ref={canvas} width={SIDE} height={shownHeight} aria-hidden />
}

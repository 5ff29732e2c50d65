import { Button, Field, HStack, Input, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useState } from "react"
import type { ItemOut } from "../../../api/client"
import { isDrawn, type PictureAttrs, type Room, shown, widths } from "../../../document/pictures"
import { rangeOf } from "../../../document/rules"
import { lastStanding, type Standing } from "../../../editor/standing"
import { Act } from "../../../look/Act"
import { Acts, OneOf } from "./parts"

const PLACES = [
  [null, t`in the text`],
  ["start", t`left`],
  ["centre", t`centre`],
  ["end", t`right`],
  ["wide", t`wide`],
] as const
const SPACES = [
  ["none", t`none`],
  ["little", t`a little`],
  [null, t`as usual`],
  ["much", t`much`],
] as const
const BORDERS = [
  [null, t`none`],
  ["line", t`a line`],
  ["frame", t`a frame`],
] as const
const SHARES = [
  [t`a quarter`, 25],
  [t`a third`, 33.333],
  [t`half`, 50],
] as const

/** What may be said of a picture or film, its attributes; `goesOn` belongs to the step of undo before. */
export type SetAttrs = (attrs: Record<string, unknown>, goesOn?: boolean) => void

interface StandingProps {
  kind: "picture" | "film" | "hosted" | "animation"
  item: ItemOut
  attrs: PictureAttrs
  /** How it stands, beside its size. */
  given: Pick<Standing, "space" | "border">
  set: SetAttrs
  of: Room
}

/** How large a picture or film is, where it stands, and what is round it. */
export function StandingOf({ kind, item, attrs, given, set, of }: StandingProps) {
  const [LEAST, MOST] = rangeOf(kind, "width")
  const { natural, room, most } = widths(item, attrs, of)
  const { width, height } = shown(item, attrs, of)
  const [typed, setTyped] = useState<string | null>(null)
  const [share, setShare] = useState<string | null>(null)
  const [limited, setLimited] = useState("")
  const last = lastStanding(kind)
  const column = attrs.place === "wide" ? room : of.column
  const to = (wanted: number, goesOn = false) => {
    const next = Math.max(LEAST, Math.min(MOST, Math.round(wanted)))
    const why =
      room < natural[0] || isDrawn(item)
        ? t`At this place it is ${room} px wide at most.`
        : t`It is ${natural[0]} px wide itself; larger it would only be blurred.`
    setLimited(next > most ? why : "")
    set({ width: Math.min(next, most) }, goesOn)
  }
  const unset = [attrs.width, attrs.place, given.space, given.border].every((each) => each === null)
  return (
    <>
      {last && unset && (
        <Button
          size="xs"
          variant="outline"
          alignSelf="flex-start"
          h="auto"
          py="1"
          whiteSpace="normal"
          onClick={() => set({ ...last })}
        >
          <Trans>As the last one: {said(last)}</Trans>
        </Button>
      )}
      <Acts label={t`Size: ${width} × ${height} px`}>
        <Act pressed={attrs.width === null} onPress={() => set({ width: null })}>
          {natural[0] > most ? t`full width` : t`original size`}
        </Act>
        {SHARES.map(([name, percent]) => (
          <Act
            key={name}
            title={t`${name} of the column`}
            pressed={attrs.width === Math.min(most, Math.round((column * percent) / 100))}
            onPress={() => to((column * percent) / 100)}
          >
            {name}
          </Act>
        ))}
      </Acts>
      <HStack gap="3" align="flex-end">
        <Field.Root w="7rem">
          <Field.Label>
            <Trans>Width in px</Trans>
          </Field.Label>
          <Input
            size="sm"
            type="number"
            min={16}
            max={most}
            value={typed ?? width}
            bg="paper"
            borderColor="edge"
            onChange={(event) => {
              setTyped(event.target.value)
              const value = Number(event.target.value)
              if (value >= 16) to(value, true)
            }}
            onBlur={() => setTyped(null)}
          />
        </Field.Root>
        <Field.Root w="7rem">
          <Field.Label>
            <Trans>% of the original</Trans>
          </Field.Label>
          <Input
            size="sm"
            type="number"
            min={2}
            max={100}
            value={share ?? Math.round((width / natural[0]) * 100)}
            bg="paper"
            borderColor="edge"
            onChange={(event) => {
              setShare(event.target.value)
              const value = Number(event.target.value)
              if (value > 1) to((natural[0] * value) / 100, true)
            }}
            onBlur={() => setShare(null)}
          />
        </Field.Root>
      </HStack>
      <Text role="status" fontSize="xs" color="waits" display={limited ? "block" : "none"}>
        {limited}
      </Text>
      <OneOf label={t`Position`} ways={PLACES} value={attrs.place} onValue={(place) => set({ place })} />
      <OneOf label={t`Space around`} ways={SPACES} value={given.space} onValue={(space) => set({ space })} />
      <OneOf label={t`Border`} ways={BORDERS} value={given.border} onValue={(border) => set({ border })} />
    </>
  )
}

function said({ width, place, space, border }: Standing): string {
  const parts = [
    width === null ? t`full width` : t`${width} px`,
    PLACES.find(([each]) => each === place)?.[1] ?? "",
    space === null ? "" : t`space: ${SPACES.find(([each]) => each === space)?.[1] ?? ""}`,
    border === null ? "" : BORDERS.find(([each]) => each === border)?.[1],
  ]
  return parts.filter(Boolean).join(", ")
}

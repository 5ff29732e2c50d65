import { Button, chakra, Field, Heading, HStack, Input, Stack, Text, Textarea } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import type { Node } from "prosemirror-model"
import { useRef, useState } from "react"
import { ask, client, type ItemOut } from "../../../api/client"
import {
  type Edits,
  isDrawn,
  NO_EDITS,
  type PictureAttrs,
  type Room,
  shown,
  widths,
} from "../../../document/pictures"
import { longestOf, rangeOf } from "../../../document/rules"
import type { Known } from "../../../editor/known"
import { regionAt } from "../../../editor/regions"
import type { Sheet } from "../../../editor/sheet"
import { lastStanding, type Standing } from "../../../editor/standing"
import { Act } from "../../../look/Act"
import { Cutting } from "../../../look/Cutting"
import { Folded } from "../../../look/Folded"
import { Uses } from "../../../look/Uses"
import { kilobytes } from "../../../look/words"
import { Acts, Words } from "./parts"

interface Props {
  /** The number of the page being written. */
  page: number
  sheet: Sheet
  known: Known
  position: number
  node: Node
  editable: boolean
}

type Set = (attrs: Record<string, unknown>, goesOn?: boolean) => void

/** The particulars of a picture on the sheet. */
export function PictureParticulars({ page, sheet, known, position, node, editable }: Props) {
  const item = known.item(node.attrs.item)
  const [told, setTold] = useState("")
  // What is typed in one go is one step of undo; anything else is a step of its own.
  const begun = useRef(true)
  const set: Set = (attrs, goesOn = false) => {
    sheet.setPicture(position, attrs, goesOn && !begun.current)
    begun.current = !goesOn
    setTold("")
  }
  const alt: string = node.attrs.alt ?? item?.alt ?? ""
  const own = node.attrs.alt !== null && node.attrs.alt !== item?.alt

  const keepForAll = async (body: { alt?: string; edits?: Edits }, here: Record<string, unknown>) => {
    if (!item) return
    try {
      const params = { path: { item_id: item.id } }
      known.add([await ask(client.PATCH("/api/items/{item_id}", { params, body }))])
      set(here)
      setTold(t`Saved in the media library: every page that uses the picture has it.`)
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  const edits: Edits = {
    turn: node.attrs.turn,
    straighten: node.attrs.straighten,
    crop: node.attrs.crop,
    ratio: node.attrs.ratio,
    focus: node.attrs.focus,
  }
  const room = known.room(regionAt(sheet.state.doc, position))
  const edited = Object.values(edits).some((each) => each !== null)

  return (
    <Stack gap="4" pt="1">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        <Trans>This picture</Trans>
      </Heading>
      {item && (
        <HStack gap="3" align="flex-start">
          <chakra.img src={item.thumbnail} alt="" maxW="6rem" maxH="5rem" objectFit="contain" />
          <Text fontSize="sm">
            {item.title}
            <chakra.span display="block" color="quiet">
              <Trans>
                {item.width} × {item.height} pixels, {kilobytes(item.size)}
                {item.credit && `, ${item.credit}`}
              </Trans>
            </chakra.span>
          </Text>
        </HStack>
      )}
      <Field.Root disabled={!editable || node.attrs.decorative}>
        <Field.Label>
          <Trans>Alt text</Trans>
        </Field.Label>
        <Textarea
          value={alt}
          rows={3}
          maxLength={longestOf("picture", "alt")}
          bg="paper"
          borderColor="edge"
          placeholder={t`What does it show that the text does not say?`}
          _placeholder={{ color: "quiet" }}
          onFocus={() => {
            begun.current = true
          }}
          onChange={(event) => set({ alt: event.target.value || null }, true)}
        />
        <Field.HelperText color="quiet">{altHelp(item, own)}</Field.HelperText>
      </Field.Root>
      {own && editable && !node.attrs.decorative && (
        <Button
          size="xs"
          variant="outline"
          alignSelf="flex-start"
          onClick={() => keepForAll({ alt }, { alt: null })}
        >
          {item?.alt
            ? t`Save these words in the library too`
            : t`The library has none: save these words there too`}
        </Button>
      )}
      <chakra.label display="flex" gap="2" alignItems="baseline" fontSize="sm">
        <Trans>
          <input
            type="checkbox"
            checked={node.attrs.decorative}
            disabled={!editable}
            onChange={(event) => set({ decorative: event.target.checked })}
          />
          Decorative: it says nothing that a reader would miss
        </Trans>
      </chakra.label>
      <Words
        label={t`Caption`}
        value={node.attrs.caption ?? ""}
        help={t`Stands below the picture for everybody; the alt text is for who cannot see it.`}
        maxLength={longestOf("picture", "caption")}
        disabled={!editable}
        onWords={(words, goesOn) => {
          begun.current = !goesOn
          set({ caption: words || null }, true)
        }}
      />
      {item && editable && <StandingOf item={item} attrs={node.attrs as PictureAttrs} set={set} of={room} />}
      {item && editable && !isDrawn(item) && (
        <Folded label={t`Crop, turn, straighten`} open={edited}>
          <Cutting
            item={item}
            edits={edits}
            own={{ ...NO_EDITS, ...item.edits }}
            onEdits={(part, goesOn) => set(part, goesOn)}
          >
            {edited && (
              <Button
                size="xs"
                variant="outline"
                alignSelf="flex-start"
                onClick={() =>
                  keepForAll({ edits: { ...NO_EDITS, ...item.edits, ...defined(edits) } }, { ...NO_EDITS })
                }
              >
                <Trans>Use this crop wherever the picture is used</Trans>
              </Button>
            )}
          </Cutting>
        </Folded>
      )}
      {editable && (
        <Button
          size="xs"
          variant="outline"
          alignSelf="flex-start"
          onClick={() => {
            sheet.step(sheet.state.tr.delete(position, position + node.nodeSize))
            sheet.focus()
          }}
        >
          <Trans>Remove from the page</Trans>
        </Button>
      )}
      <Uses item={node.attrs.item} here={page} />
      <Text role="status" fontSize="sm">
        {told}
      </Text>
    </Stack>
  )
}

const defined = (edits: Edits) =>
  Object.fromEntries(Object.entries(edits).filter(([, each]) => each !== null)) as Partial<Edits>

function altHelp(item: ItemOut | undefined, own: boolean): string {
  if (own) return t`Worded for this page.`
  const from = item?.alt ? t`From the media library` : t`The media library has none`
  return t`${from}; what you write here is for this page.`
}

const PLACES = [
  [t`in the text`, null],
  ["left", "start"],
  ["centre", "centre"],
  ["right", "end"],
  ["wide", "wide"],
] as const
const SPACES = [
  ["none", "none"],
  [t`a little`, "little"],
  [t`as usual`, null],
  ["much", "much"],
] as const
const BORDERS = [
  ["none", null],
  [t`a line`, "line"],
  [t`a frame`, "frame"],
] as const
const SHARES = [
  [t`a quarter`, 25],
  [t`a third`, 33.333],
  ["half", 50],
] as const

const [LEAST, MOST] = rangeOf("picture", "width")

/** How large a picture is, where it stands, and what is round it. */
function StandingOf({ item, attrs, set, of }: { item: ItemOut; attrs: PictureAttrs; set: Set; of: Room }) {
  const { natural, room, most } = widths(item, attrs, of)
  const { width, height } = shown(item, attrs, of)
  const [typed, setTyped] = useState<string | null>(null)
  const [share, setShare] = useState<string | null>(null)
  const [limited, setLimited] = useState("")
  const last = lastStanding()
  const given = attrs as unknown as Standing
  const column = attrs.place === "wide" ? room : of.column
  const to = (wanted: number, goesOn = false) => {
    const next = Math.max(LEAST, Math.min(MOST, Math.round(wanted)))
    const why =
      room < natural[0] || isDrawn(item)
        ? t`At this place a picture is ${room} px wide at most.`
        : t`The picture itself is ${natural[0]} px wide; larger it would only be blurred.`
    setLimited(next > most ? why : "")
    set({ width: Math.min(next, most) }, goesOn)
  }
  const unset = ["width", "place", "space", "border"].every((name) => given[name as keyof Standing] === null)
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
      <Acts label={t`Position`}>
        {PLACES.map(([name, place]) => (
          <Act key={name} pressed={attrs.place === place} onPress={() => set({ place })}>
            {name}
          </Act>
        ))}
      </Acts>
      <Acts label={t`Space around`}>
        {SPACES.map(([name, space]) => (
          <Act key={name} pressed={given.space === space} onPress={() => set({ space })}>
            {name}
          </Act>
        ))}
      </Acts>
      <Acts label={t`Border`}>
        {BORDERS.map(([name, border]) => (
          <Act key={name} pressed={given.border === border} onPress={() => set({ border })}>
            {name}
          </Act>
        ))}
      </Acts>
    </>
  )
}

function said({ width, place, space, border }: Standing): string {
  const parts = [
    width === null ? t`full width` : t`${width} px`,
    PLACES.find(([, each]) => each === place)?.[0] ?? "",
    space === null ? "" : t`space: ${SPACES.find(([, each]) => each === space)?.[0] ?? ""}`,
    border === null ? "" : BORDERS.find(([, each]) => each === border)?.[0],
  ]
  return parts.filter(Boolean).join(", ")
}

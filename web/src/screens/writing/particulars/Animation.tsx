import { Button, chakra, Field, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useRef, useState } from "react"
import type { ItemOut, PageOut } from "../../../api/client"
import { sizeAttrs } from "../../../document/films"
import { longestOf, rangeOf } from "../../../document/rules"
import { recentColours, rememberColour } from "../../../editor/recentColours"
import { regionAt } from "../../../editor/regions"
import { Uses } from "../../../look/Uses"
import { AltOf } from "./AltOf"
import { Play } from "./Play"
import { OneOf, Remove, Section, type ShownProps, Words } from "./parts"
import { type SetAttrs, StandingOf } from "./Standing"
import { useKnown } from "./useKnown"

const STARTS = {
  view: t`when it is seen`,
  hover: t`under the pointer`,
  press: t`by a press`,
} as const
const SPEEDS = [50, 75, 100, 150, 200] as const
const TIMES = [null, 1, 2, 3] as const

/** An animation may be made larger, as drawings of lines may: that costs nothing. */
const asLines = (item: ItemOut): ItemOut => ({
  ...item,
  edits: null,
  files: item.files.map((file) => ({ ...file, mime: "image/svg+xml" })),
})

/** The particulars of an animation. */
export function AnimationParticulars({ page, sheet, known, position, node, editable }: ShownProps) {
  useKnown(known)
  const { attrs } = node
  const item = known.item(attrs.item)
  const begun = useRef("")
  const put = (given: Record<string, unknown>, field = "") => {
    sheet.setShown(position, given, field !== "" && field === begun.current)
    begun.current = field
  }
  const set: SetAttrs = (given, goesOn = false) => put(given, goesOn ? Object.keys(given).join() : "")
  return (
    <Section title={t`This animation`}>
      {editable && (
        <>
          <Play sheet={sheet} position={position} />
          <OneOf
            label={t`It begins`}
            ways={Object.entries(STARTS)}
            value={attrs.start}
            onValue={(start) => put({ start })}
          />
          <OneOf
            label={t`How often`}
            ways={TIMES.map(
              (times) =>
                [
                  times,
                  times === null ? t`again and again` : times === 1 ? t`once` : t`${times} times`,
                ] as const,
            )}
            value={attrs.times}
            onValue={(times) => put({ times })}
          />
          <OneOf
            label={t`Speed`}
            ways={SPEEDS.map((speed) => [speed, `${speed} %`] as const)}
            value={attrs.speed}
            onValue={(speed) => put({ speed })}
          />
          <HStack gap="3">
            <Whole
              label={t`Speed in %`}
              name="speed"
              value={attrs.speed}
              by={1}
              onValue={(speed) => put({ speed }, "speed")}
            />
            <Whole
              label={t`Delay (seconds)`}
              name="delay"
              value={attrs.delay}
              by={1000}
              onValue={(delay) => put({ delay }, "delay")}
            />
          </HStack>
        </>
      )}
      <Text fontSize="sm" fontWeight="600">
        <Trans>What is seen to happen</Trans>
      </Text>
      <AltOf
        label={t`Words of the animation`}
        attrs={attrs}
        item={item}
        editable={editable}
        onSet={(given, field) => put(given, field)}
      />
      <Words
        label={t`Caption`}
        value={attrs.caption ?? ""}
        help={t`Stands below it.`}
        maxLength={longestOf("animation", "caption")}
        disabled={!editable}
        onWords={(words) => put({ caption: words || null }, "caption")}
      />
      {item && editable && (
        <Colours
          own={item.colours}
          said={attrs.colours}
          tones={page.palette.tones}
          onColours={(colours, goesOn) => put({ colours }, goesOn ? "colours" : "")}
        />
      )}
      {item && editable && (
        <StandingOf
          kind="animation"
          item={asLines(item)}
          attrs={sizeAttrs(attrs as { width: number | null; place: null })}
          given={attrs as { space: string | null; border: string | null }}
          set={set}
          of={known.room(regionAt(sheet.state.doc, position))}
        />
      )}
      {editable && <Remove sheet={sheet} position={position} node={node} />}
      <Uses item={attrs.item} here={page.id} />
    </Section>
  )
}

interface WholeProps {
  label: string
  name: "speed" | "delay"
  value: number
  /** How many of what is kept make one of what is typed. */
  by: number
  onValue(value: number): void
}

function Whole({ label, name, value, by, onValue }: WholeProps) {
  const [least, most] = rangeOf("animation", name)
  const [typed, setTyped] = useState<string | null>(null)
  return (
    <Field.Root w="7.5rem">
      <Field.Label>{label}</Field.Label>
      <Input
        size="sm"
        type="number"
        min={least / by}
        max={most / by}
        step={by === 1 ? 5 : 0.1}
        value={typed ?? String(value / by)}
        bg="paper"
        borderColor="edge"
        onBlur={() => setTyped(null)}
        onChange={(event) => {
          setTyped(event.target.value)
          const given = Math.round(Number(event.target.value) * by)
          if (event.target.value !== "" && given >= least && given <= most) onValue(given)
        }}
      />
    </Field.Root>
  )
}

interface ColoursProps {
  own: readonly string[]
  said: string | null
  tones: PageOut["palette"]["tones"]
  onColours(colours: string | null, goesOn: boolean): void
}

/** Its colours, and which others stand in their place here: of the theme’s palette, used lately, or any. */
function Colours({ own, said, tones, onColours }: ColoursProps) {
  const [open, setOpen] = useState<string | null>(null)
  const pairs = new Map(
    (said ?? "").split(" ").flatMap((pair) => (pair ? [pair.split("-") as [string, string]] : [])),
  )
  const put = (from: string, to: string | null, goesOn = false) => {
    if (to === null || to === from) pairs.delete(from)
    else pairs.set(from, to)
    onColours([...pairs].map((pair) => pair.join("-")).join(" ") || null, goesOn)
  }
  if (!own.length) return null
  return (
    <Stack gap="2" role="group" aria-label={t`Colours`}>
      <Text fontSize="sm" fontWeight="600">
        <Trans>Colours</Trans>
      </Text>
      <HStack gap="1" flexWrap="wrap">
        {own.slice(0, 24).map((from) => (
          <Patch
            key={from}
            colour={pairs.get(from) ?? from}
            pressed={open === from}
            name={pairs.has(from) ? t`#${from}, here #${pairs.get(from) ?? ""}` : `#${from}`}
            onPress={() => setOpen(open === from ? null : from)}
          />
        ))}
      </HStack>
      {open && (
        <Stack gap="2" borderWidth="1px" borderColor="line" p="2">
          <Text fontSize="xs">
            <Trans>In place of #{open}:</Trans>
          </Text>
          <HStack gap="1" flexWrap="wrap" role="group" aria-label={t`Colours of the theme`}>
            {tones.map((tone) => (
              <Patch
                key={tone.name}
                colour={tone.colour.replace("#", "").toLowerCase()}
                pressed={false}
                name={tone.name}
                onPress={() => put(open, tone.colour.replace("#", "").toLowerCase())}
              />
            ))}
          </HStack>
          {recentColours().length > 0 && (
            <HStack gap="1" flexWrap="wrap" role="group" aria-label={t`Colours used lately`}>
              {recentColours().map((colour) => (
                <Patch
                  key={colour}
                  colour={colour}
                  pressed={false}
                  name={t`#${colour}, used lately`}
                  onPress={() => put(open, colour)}
                />
              ))}
            </HStack>
          )}
          <HStack gap="2">
            <chakra.input
              type="color"
              aria-label={t`Any colour`}
              value={`#${pairs.get(open) ?? open}`}
              onChange={(event) => put(open, event.target.value.slice(1).toLowerCase(), true)}
              onBlur={(event) => rememberColour(event.target.value.slice(1).toLowerCase())}
            />
            <Button size="xs" variant="outline" onClick={() => put(open, null)}>
              <Trans>Its own</Trans>
            </Button>
          </HStack>
        </Stack>
      )}
      {said && (
        <Button size="xs" variant="outline" alignSelf="flex-start" onClick={() => onColours(null, false)}>
          <Trans>All its own colours</Trans>
        </Button>
      )}
    </Stack>
  )
}

interface PatchProps {
  colour: string
  name: string
  pressed: boolean
  onPress(): void
}

function Patch({ colour, name, pressed, onPress }: PatchProps) {
  return (
    <chakra.button
      type="button"
      aria-label={name}
      aria-pressed={pressed}
      title={name}
      w="8"
      h="8"
      borderWidth={pressed ? "3px" : "1px"}
      borderColor={pressed ? "press.solid" : "edge"}
      cursor="pointer"
      onClick={onPress}
    >
      <svg width="100%" height="100%" aria-hidden="true">
        <rect width="100%" height="100%" fill={`#${colour}`} />
      </svg>
    </chakra.button>
  )
}

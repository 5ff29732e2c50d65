import { chakra, Field, HStack, Input, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useState } from "react"
import type { ItemOut } from "../../../api/client"
import { longestOf, rangeOf, SLIDES } from "../../../document/rules"
import { kinds } from "../../../editor/commands"
import { Folded } from "../../../look/Folded"
import { say } from "../../../look/heard"
import { Tick } from "../../../look/Tick"
import { AltOf } from "./AltOf"
import { Pictures } from "./covers"
import { Entry, EntryWords, useEntries, useFew } from "./entries"
import { LeadsTo } from "./LeadsTo"
import { Play } from "./Play"
import { OneOf, Remove, Section, type ShownProps, Words } from "./parts"
import { useKnown } from "./useKnown"

const RATIOS = ["3:2", "16:9", "4:3", "2:1", "1:1"] as const
const PLACES = { below: t`Below the picture`, over: t`Over the picture` } as const

/** The particulars of a slideshow: its slides in their order, and how they move. */
export function SlideshowParticulars({ page, sheet, known, position, node, editable }: ShownProps) {
  useKnown(known)
  const { entries, pressed, put, withEntries, replace, change, move, takeOut, set } = useEntries(
    sheet,
    position,
    node,
  )
  const { few, more } = useFew(entries, pressed)
  const { attrs } = node
  const add = (item: ItemOut) => {
    known.add([item])
    put(withEntries([...entries, kinds.slide.create(null, kinds.picture.create({ item: item.id }))]))
    say(t`Put into the slideshow: ${item.title}`)
  }
  return (
    <Section title={t`This slideshow`}>
      <Words
        label={t`Name`}
        value={attrs.name ?? ""}
        help={t`Said to who does not see it, before the slides.`}
        maxLength={longestOf("slideshow", "name")}
        disabled={!editable}
        onWords={(words) => set({ name: words || null }, "name")}
      />
      {editable && (
        <>
          <OneOf
            label={t`Proportion of the slides`}
            ways={RATIOS.map((ratio) => [ratio, ratio] as const)}
            value={attrs.ratio}
            onValue={(ratio) => set({ ratio })}
          />
          <OneOf
            label={t`Where the words stand`}
            ways={Object.entries(PLACES)}
            value={attrs.words}
            onValue={(words) => set({ words })}
          />
          <Tick checked={attrs.place === "wide"} onChange={(wide) => set({ place: wide ? "wide" : null })}>
            <Trans>Wider than the text</Trans>
          </Tick>
          <Tick checked={attrs.moves} onChange={(moves) => set({ moves })}>
            <Trans>Changes by itself, until a reader stops it</Trans>
          </Tick>
          <HStack gap="3" align="flex-end">
            {attrs.moves && (
              <Seconds
                name="stay"
                label={t`Stays (seconds)`}
                value={attrs.stay}
                onValue={(stay) => set({ stay }, "stay")}
              />
            )}
            <Seconds
              name="change"
              label={t`Change (seconds)`}
              value={attrs.change}
              onValue={(value) => set({ change: value }, "change")}
            />
          </HStack>
          {entries.length > 1 && attrs.moves && <Play sheet={sheet} position={position} />}
        </>
      )}
      <chakra.ol listStyleType="none" aria-label={t`Slides`}>
        {few.map((each, index) => {
          const picture = each.firstChild
          const item = picture ? known.item(picture.attrs.item) : undefined
          const place = index + 1
          return (
            <Entry
              // biome-ignore lint/suspicious/noArrayIndexKey: one picture may stand on two slides
              key={index}
              index={index}
              pressed={pressed}
              count={entries.length}
              what={t`slide ${place}`}
              name={
                each.attrs.heading || item?.title || (picture ? t`A picture that is gone` : t`Words alone`)
              }
              told={
                item
                  ? cutTold(item, attrs.ratio)
                  : picture
                    ? t`The library does not have its picture any more.`
                    : undefined
              }
              gone={!item}
              picture={item?.thumbnail}
              editable={editable}
              onMove={(to) => move(index, to)}
              onDropOf={(from) => move(from, index)}
              onTakeOut={() => takeOut(index)}
            >
              <EntryWords
                label={t`Heading of slide ${place}`}
                above={t`Heading`}
                placeholder={t`a heading`}
                value={each.attrs.heading}
                maxLength={longestOf("slide", "heading")}
                disabled={!editable}
                onWords={(heading) => change(index, { heading }, "heading")}
              />
              <EntryWords
                label={t`Words of slide ${place}`}
                above={t`Words`}
                placeholder={t`a line below it`}
                value={each.attrs.words}
                maxLength={longestOf("slide", "words")}
                disabled={!editable}
                onWords={(words) => change(index, { words }, "words")}
              />
              <Fits heading={each.attrs.heading} words={each.attrs.words} />
              <LeadsTo
                label={t`Where slide ${place} leads`}
                href={each.attrs.href}
                site={page.site.id}
                known={known}
                editable={editable}
                onHref={(href) => change(index, { href }, "")}
              />
              {picture && (
                <AltOf
                  label={t`Alt text of slide ${place}`}
                  attrs={picture.attrs}
                  item={item}
                  editable={editable}
                  onSet={(said, field) =>
                    replace(
                      index,
                      each.copy(
                        each.content.replaceChild(0, picture.type.create({ ...picture.attrs, ...said })),
                      ),
                      field,
                    )
                  }
                />
              )}
            </Entry>
          )
        })}
      </chakra.ol>
      {more}
      {editable && (
        <Folded label={t`More slides`}>
          <Pictures site={page.site.id} label={t`Find a picture for a slide`} onPicture={add} />
        </Folded>
      )}
      {editable && <Remove sheet={sheet} position={position} node={node} />}
    </Section>
  )
}

/** What is said of a picture that is cut for its slide. */
function cutTold(item: ItemOut, ratio: string): string | undefined {
  const [across = 1, down = 1] = ratio.split(":").map(Number)
  const [own, slide] = [item.width / item.height, across / down]
  const lost = Math.round((1 - Math.min(own, slide) / Math.max(own, slide)) * 100)
  if (!lost || !item.height) return undefined
  return own > slide ? t`cut by ${lost} % of its width` : t`cut by ${lost} % of its height`
}

/** Says whether the words fit on a phone. */
function Fits({ heading, words }: { heading: string | null; words: string | null }) {
  const long = [
    (heading ?? "").length > SLIDES.longest_heading ? t`The heading is longer than fits on a phone.` : "",
    (words ?? "").length > SLIDES.longest_words ? t`The words are longer than fit on a phone.` : "",
  ].filter(Boolean)
  return long.length ? (
    <Text fontSize="xs" color="waits">
      {long.join(" ")}
    </Text>
  ) : null
}

interface SecondsProps {
  name: "stay" | "change"
  label: string
  value: number
  onValue(milliseconds: number): void
}

function Seconds({ name, label, value, onValue }: SecondsProps) {
  const [least, most] = rangeOf("slideshow", name)
  const [typed, setTyped] = useState<string | null>(null)
  return (
    <Field.Root w="7.2rem">
      <Field.Label>{label}</Field.Label>
      <Input
        size="sm"
        type="number"
        step="0.1"
        min={least / 1000}
        max={most / 1000}
        value={typed ?? String(value / 1000)}
        bg="paper"
        borderColor="edge"
        onBlur={() => setTyped(null)}
        onChange={(event) => {
          setTyped(event.target.value)
          const given = Math.round(Number(event.target.value) * 1000)
          if (event.target.value !== "" && given >= least && given <= most) onValue(given)
        }}
      />
    </Field.Root>
  )
}

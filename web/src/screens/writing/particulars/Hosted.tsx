import { Button, chakra, Field, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQueryClient } from "@tanstack/react-query"
import { useRef, useState } from "react"
import { after, forget } from "../../../api/answers"
import { ask, client, type ItemOut } from "../../../api/client"
import { coverItem, sizeAttrs } from "../../../document/films"
import { asFilm, type HostedAttrs } from "../../../document/hosted"
import { longestOf, rangeOf } from "../../../document/rules"
import type { Known } from "../../../editor/known"
import { regionAt } from "../../../editor/regions"
import { HostedFacts } from "../../../look/HostedFacts"
import { Tick } from "../../../look/Tick"
import { Uses } from "../../../look/Uses"
import { FromLibrary, Still } from "./covers"
import { Remove, Section, type ShownProps, Words } from "./parts"
import { type SetAttrs, StandingOf } from "./Standing"
import { useKnown } from "./useKnown"

/** The particulars of a film at another host. */
export function HostedParticulars({ page, sheet, known, position, node, editable }: ShownProps) {
  const attrs = node.attrs as HostedAttrs
  const item = known.item(attrs.item)
  useKnown(known)
  // What is typed in one go is one step of undo; anything else is a step of its own.
  const begun = useRef(true)
  const set: SetAttrs = (given, goesOn = false) => {
    sheet.setShown(position, given, goesOn && !begun.current)
    begun.current = !goesOn
  }
  return (
    <Section title={t`This film elsewhere`}>
      {item?.hosted && <HostedFacts item={item} titled />}
      <Words
        label={t`Caption`}
        value={attrs.caption ?? ""}
        help={t`Stands below the film.`}
        maxLength={longestOf("hosted", "caption")}
        disabled={!editable}
        onWords={(words, goesOn) => {
          begun.current = !goesOn
          set({ caption: words || null }, true)
        }}
      />
      {item?.hosted && <Seen item={item} known={known} editable={editable} />}
      {item?.hosted && editable && <Playing attrs={attrs} options={item.hosted.options} set={set} />}
      {item?.hosted && editable && (
        <StandingOf
          kind="hosted"
          item={asFilm(item)}
          attrs={sizeAttrs(attrs)}
          given={attrs}
          set={set}
          of={known.room(regionAt(sheet.state.doc, position))}
        />
      )}
      {item && editable && <Cover item={item} attrs={attrs} site={page.site.id} known={known} set={set} />}
      {editable && <Remove sheet={sheet} position={position} node={node} />}
      <Uses item={attrs.item} here={page.id} />
    </Section>
  )
}

/** What somebody has seen at the host, and asking there again. */
function Seen({ item, known, editable }: { item: ItemOut; known: Known; editable: boolean }) {
  const [told, setTold] = useState("")
  const queries = useQueryClient()
  const params = { path: { item_id: item.id } }
  const run = async (job: () => Promise<ItemOut>, done: string) => {
    try {
      known.add([await job()])
      setTold(done)
      await forget(queries, after.library)
      return true
    } catch (error) {
      known.add([item])
      setTold((error as Error).message)
      return false
    }
  }
  if (!editable) return null
  return (
    <Stack gap="1">
      <Tick
        checked={item.captioned}
        onChange={(captioned) => {
          known.add([{ ...item, captioned }])
          return run(() => ask(client.PATCH("/api/items/{item_id}", { params, body: { captioned } })), "")
        }}
      >
        <Trans>Somebody has seen there that it has captions</Trans>
      </Tick>
      <HStack gap="2">
        <Button
          size="xs"
          variant="outline"
          onClick={() => {
            setTold(t`Asking …`)
            void run(
              () => ask(client.POST("/api/items/{item_id}/ask", { params })),
              t`Its host was asked just now.`,
            )
          }}
        >
          <Trans>Ask the host again</Trans>
        </Button>
        <Text role="status" fontSize="xs">
          {told}
        </Text>
      </HStack>
    </Stack>
  )
}

interface PlayingProps {
  attrs: HostedAttrs
  options: NonNullable<ItemOut["hosted"]>["options"]
  set: SetAttrs
}

/** What the host's player is told, as far as it honours it. */
function Playing({ attrs, options, set }: PlayingProps) {
  const [, most] = rangeOf("hosted", "start")
  if (options.length === 0) return null
  return (
    <Stack gap="2" role="group" aria-label={t`Once it is pressed`}>
      <Text fontSize="sm" fontWeight="600">
        <Trans>Once it is pressed</Trans>
      </Text>
      {options.includes("start") && (
        <Field.Root w="9rem">
          <Field.Label>
            <Trans>Begins at second</Trans>
          </Field.Label>
          <Input
            size="sm"
            type="number"
            min={0}
            max={most}
            value={attrs.start ?? 0}
            bg="paper"
            borderColor="edge"
            onChange={(event) => {
              const value = Math.round(Number(event.target.value))
              if (value >= 0 && value <= most) set({ start: value || null }, true)
            }}
          />
        </Field.Root>
      )}
      {options.includes("captions") && (
        <Tick checked={attrs.captions} onChange={(captions) => set({ captions })}>
          <Trans>With its captions shown</Trans>
        </Tick>
      )}
      {options.includes("muted") && (
        <Tick checked={attrs.muted} onChange={(muted) => set({ muted })}>
          <Trans>Without sound at first</Trans>
        </Tick>
      )}
      {options.includes("loop") && (
        <Tick checked={attrs.loop} onChange={(loop) => set({ loop })}>
          <Trans>Again and again</Trans>
        </Tick>
      )}
    </Stack>
  )
}

interface CoverProps {
  item: ItemOut
  attrs: HostedAttrs
  site: number
  known: Known
  set: SetAttrs
}

/** The picture before it plays: the one that the host has for it, or one of the library. */
function Cover({ item, attrs, site, known, set }: CoverProps) {
  const number = coverItem(attrs.cover)
  const picture = number === null ? undefined : known.item(number)
  return (
    <Stack gap="2" role="group" aria-label={t`Cover`}>
      <Text fontSize="sm" fontWeight="600">
        <Trans>Cover: what is seen before it plays</Trans>
      </Text>
      <HStack gap="1">
        {item.thumbnail ? (
          <Still
            name={t`The one that its host has`}
            src={item.thumbnail}
            pressed={number === null}
            onPress={() => set({ cover: null })}
          />
        ) : (
          <chakra.span fontSize="sm" color="quiet">
            <Trans>Its host has none.</Trans>
          </chakra.span>
        )}
        {picture && (
          <Still
            name={t`The picture “${picture.title}”`}
            src={picture.thumbnail}
            pressed
            onPress={() => set({ cover: null })}
          />
        )}
      </HStack>
      <FromLibrary site={site} known={known} set={set} />
    </Stack>
  )
}

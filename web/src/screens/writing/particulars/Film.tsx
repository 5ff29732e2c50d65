import { Button, chakra, Heading, HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useEffect, useRef, useState } from "react"
import { Link } from "react-router"
import { ask, client, type ItemOut, type PageOut } from "../../../api/client"
import { coverItem, FIRST_STILL, type FilmAttrs, playable, sizeAttrs } from "../../../document/films"
import { longestOf } from "../../../document/rules"
import type { Known } from "../../../editor/known"
import { regionAt } from "../../../editor/regions"
import type { Sheet } from "../../../editor/sheet"
import { Act } from "../../../look/Act"
import { Folded } from "../../../look/Folded"
import { Player } from "../../../look/Player"
import { Tick } from "../../../look/Tick"
import { Uses } from "../../../look/Uses"
import { clock, kilobytes } from "../../../look/words"
import { FromLibrary, Still } from "./covers"
import { OneOf, Remove, type ShownProps, Words } from "./parts"
import { type SetAttrs, StandingOf } from "./Standing"
import { useKnown } from "./useKnown"

const NAMES: Record<string, () => string> = { film: () => t`This film`, sound: () => t`This sound` }

/** The particulars of a film or sound on the sheet. */
export function FilmParticulars({ page, sheet, known, position, node, editable }: ShownProps) {
  const kind = node.type.name as "film" | "sound"
  const attrs = node.attrs as FilmAttrs
  const item = known.item(attrs.item)
  useKnown(known)
  // What is typed in one go is one step of undo; anything else is a step of its own.
  const begun = useRef(true)
  const set: SetAttrs = (given, goesOn = false) => {
    sheet.setShown(position, given, goesOn && !begun.current)
    begun.current = !goesOn
  }
  return (
    <Stack gap="4" pt="1">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        {NAMES[kind]?.()}
      </Heading>
      {item && (
        <Text fontSize="sm">
          {item.title}
          <chakra.span display="block" color="quiet">
            {kind === "film" && t`${item.width} × ${item.height} pixels, `}
            {item.lasts > 0 && t`${clock(item.lasts)} long, `}
            {kilobytes(item.size)}
          </chakra.span>
          {!playable(item) && (
            <chakra.span display="block" color="waits" role="status">
              {item.problem ||
                t`It is being made ready. You can write on and save; the page can be published when it is done.`}
            </chakra.span>
          )}
        </Text>
      )}
      {item && playable(item) && <Playing sheet={sheet} position={position} />}
      <Words
        label={t`Caption`}
        value={attrs.caption ?? ""}
        help={
          kind === "film"
            ? t`Stands below the film.`
            : t`Stands below the player; without one its title does.`
        }
        maxLength={longestOf(kind, "caption")}
        disabled={!editable}
        onWords={(words, goesOn) => {
          begun.current = !goesOn
          set({ caption: words || null }, true)
        }}
      />
      {item && playable(item) && <CaptionsOf item={item} page={page} editable={editable} />}
      {editable && (
        <OneOf
          label={t`Transcript: what is said, as text`}
          ways={TRANSCRIPTS}
          value={attrs.transcript}
          disabled={(transcript) => transcript !== null && !item?.film?.tracks.length}
          onValue={(transcript) => set({ transcript })}
        />
      )}
      {editable && item && !item.film?.tracks.length && (
        <Text fontSize="xs" color="quiet" mt="-3">
          <Trans>It is made of the captions, once readers have some.</Trans>
        </Text>
      )}
      {item && editable && kind === "film" && (
        <StandingOf
          kind="film"
          item={item}
          attrs={sizeAttrs(attrs)}
          given={attrs}
          set={set}
          of={known.room(regionAt(sheet.state.doc, position))}
        />
      )}
      {item && editable && kind === "film" && playable(item) && (
        <Cover item={item} attrs={attrs} site={page.site.id} known={known} set={set} />
      )}
      {editable && (
        <Stack gap="1">
          {kind === "film" && (
            <Tick checked={attrs.autoplay} onChange={(autoplay) => set({ autoplay })}>
              <Trans>Begins by itself, without sound</Trans>
            </Tick>
          )}
          {attrs.autoplay && (
            <Text fontSize="xs" color="quiet">
              <Trans>
                Readers who have asked their computer to keep things still see the cover instead. Here it
                stands still too; press “Play on the sheet” to see it move.
              </Trans>
            </Text>
          )}
          <Tick checked={attrs.loop} onChange={(loop) => set({ loop })}>
            <Trans>Plays again and again</Trans>
          </Tick>
        </Stack>
      )}
      {editable && <Remove sheet={sheet} position={position} node={node} />}
      <Uses item={attrs.item} here={page.id} />
    </Stack>
  )
}

/** Draw anew when more is known of an item. */
const TRANSCRIPTS = [
  [null, t`not shown`],
  ["folded", t`behind a press`],
  ["below", t`below it`],
] as const

/** Plays the film where it stands, and stops it. */
function Playing({ sheet, position }: { sheet: Sheet; position: number }) {
  const [playing, setPlaying] = useState(false)
  const player = () => {
    const dom = sheet.view.nodeDOM(position)
    return dom instanceof (sheet.view.dom.ownerDocument.defaultView?.HTMLElement ?? HTMLElement)
      ? dom.querySelector<HTMLMediaElement>("video, audio")
      : null
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: the player stays the same while the film does
  useEffect(() => {
    const found = player()
    if (!found) return
    const ended = new AbortController()
    const { signal } = ended
    found.addEventListener("play", () => setPlaying(true), { signal })
    found.addEventListener("pause", () => setPlaying(false), { signal })
    return () => ended.abort()
  }, [sheet, position])
  const press = () => {
    const found = player()
    if (!found) return
    const captions = [...found.textTracks].find((track) => track.kind === "captions")
    if (captions) captions.mode = "showing"
    if (found.paused) void found.play().catch(() => setPlaying(false))
    else found.pause()
  }
  return (
    <HStack gap="1">
      <Act pressed={playing} onPress={press}>
        {playing ? t`Stop` : t`Play on the sheet`}
      </Act>
    </HStack>
  )
}

/** The captions of a film, and the way to where they are written. */
function CaptionsOf({ item, page, editable }: { item: ItemOut; page: PageOut; editable: boolean }) {
  const { tracks = [], unfinished = [], heard = false } = item.film ?? {}
  const given = tracks.filter(({ sort }) => sort === "captions").map(({ name }) => name)
  return (
    <Stack gap="1" role="group" aria-label={t`Captions`}>
      <Text fontSize="sm" fontWeight="600">
        <Trans>Captions</Trans>
      </Text>
      <Text fontSize="sm">
        {given.length > 0
          ? t`Readers have them in: ${given.join(", ")}.`
          : unfinished.length > 0
            ? t`Begun, and not given to readers yet.`
            : heard
              ? t`None: who does not hear it misses what is said.`
              : t`None; nothing is heard in it.`}
      </Text>
      {editable && (
        <chakra.span>
          <Button asChild size="xs" variant="outline">
            <Link to={`/films/${item.id}?page=${page.id}`}>
              {given.length || unfinished.length ? t`Open the captions` : t`Write captions`}
            </Link>
          </Button>
        </chakra.span>
      )}
    </Stack>
  )
}

interface CoverProps {
  item: ItemOut
  attrs: FilmAttrs
  site: number
  known: Known
  set: SetAttrs
}

const STILLS = [
  ["still-10", t`from the beginning`],
  ["still-50", t`from the middle`],
  ["still-90", t`from the end`],
] as const

/** The picture before a film plays: one of three stills, any moment, or a picture of the library. */
function Cover({ item, attrs, site, known, set }: CoverProps) {
  const now = attrs.cover ?? FIRST_STILL
  const smallest = (cut: string) =>
    item.files
      .filter((file) => file.cut === cut)
      .reduce((a, b) => (a.width < b.width ? a : b), {
        width: Number.POSITIVE_INFINITY,
        address: "",
      } as { width: number; address: string }).address
  const moment = now.startsWith("at-") ? Number(now.slice(3)) : null
  const picture = coverItem(attrs.cover)
  return (
    <Stack gap="2" role="group" aria-label={t`Cover`}>
      <Text fontSize="sm" fontWeight="600">
        <Trans>Cover: what is seen before it plays</Trans>
      </Text>
      <HStack gap="1" flexWrap="wrap">
        {STILLS.map(([cut, name]) => (
          <Still
            key={cut}
            name={t`A still ${name}`}
            src={smallest(cut)}
            pressed={now === cut}
            onPress={() => set({ cover: cut === FIRST_STILL ? null : cut })}
          />
        ))}
        {moment !== null && (
          <Still
            name={t`The moment ${clock(moment)}`}
            src={smallest(now)}
            pressed
            onPress={() => undefined}
          />
        )}
        {picture !== null && (
          <Still
            name={t`The picture “${known.item(picture)?.title ?? ""}”`}
            src={known.item(picture)?.thumbnail ?? ""}
            pressed
            onPress={() => undefined}
          />
        )}
      </HStack>
      <Folded label={t`Another moment`}>
        <Moment item={item} known={known} onMoment={(at) => set({ cover: `at-${at}` })} />
      </Folded>
      <FromLibrary site={site} known={known} set={set} />
    </Stack>
  )
}

/** A film to find a moment in; the server keeps what it shows there. */
function Moment({ item, known, onMoment }: { item: ItemOut; known: Known; onMoment(at: number): void }) {
  const player = useRef<HTMLVideoElement & HTMLAudioElement>(null)
  const [told, setTold] = useState("")
  const take = async () => {
    const at = Math.min(Math.round((player.current?.currentTime ?? 0) * 1000), Math.max(0, item.lasts - 1))
    setTold(t`It is being taken out of the film …`)
    try {
      const params = { path: { item_id: item.id } }
      known.add([await ask(client.POST("/api/items/{item_id}/stills", { params, body: { at } }))])
      onMoment(at)
      setTold("")
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  return (
    <Stack gap="1">
      <Player item={item} of={player} label={t`Go to the moment that is wanted`} most="12rem" />
      <Button size="xs" variant="outline" alignSelf="flex-start" onClick={() => void take()}>
        <Trans>Take this moment</Trans>
      </Button>
      <Text role="status" fontSize="xs">
        {told}
      </Text>
    </Stack>
  )
}

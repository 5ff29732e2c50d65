/** The captions of a film, written beside it: the film and its curve, and the cues like a script. */
import { Box, chakra, Heading, HStack } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { memo, useDeferredValue, useEffect, useMemo, useRef, useState } from "react"
import { useParams, useSearchParams } from "react-router"
import { answers } from "../../api/answers"
import { ask, type CaptionsBrief, type Cue, client, type ItemOut } from "../../api/client"
import { playable } from "../../document/films"
import { chordOf } from "../../editor/chords"
import { say } from "../../look/heard"
import { Sentence } from "../../look/Sentence"
import { To, Top } from "../../look/Top"
import { useSession } from "../../look/useSession"
import { Curve, type OnCurve } from "./Curve"
import {
  added,
  changed,
  cueAt,
  joined,
  type Made,
  placeOf,
  removed,
  repaired,
  sameAs,
  split,
  timed,
} from "./cues"
import { actOf, type CaptionAct } from "./keys"
import { Script, type ScriptHold } from "./Script"
import { Side } from "./Side"
import { Notes, Tools } from "./Tools"
import { useBeside, useCaptions } from "./useCaptions"
import { usePlayer } from "./usePlayer"

export function Captions() {
  const id = Number(useParams().itemId)
  const [query, setQuery] = useSearchParams()
  const [gone, setGone] = useState<number | null>(null)
  const item = useQuery({
    queryKey: answers.item(id),
    queryFn: () => ask(client.GET("/api/items/{item_id}", { params: { path: { item_id: id } } })),
  })
  const all = useQuery({
    queryKey: answers.captions(id),
    queryFn: () => ask(client.GET("/api/items/{item_id}/captions", { params: { path: { item_id: id } } })),
  })
  const asked = Number(query.get("captions")) || null
  const known =
    all.data?.find((each) => each.id === asked) ??
    all.data?.find(({ sort, language }) => sort === "captions" && language === item.data?.language) ??
    all.data?.[0] ??
    null
  const choose = (captions: number) => {
    // Whoever has gone on to another screen while the server answered is not fetched back.
    if (!location.pathname.endsWith(`/films/${id}`)) return
    const next = new URLSearchParams(query)
    next.set("captions", String(captions))
    setQuery(next, { replace: true })
  }
  const problem = item.error ?? all.error
  if (problem) return <Sentence title={t`There are no captions here`} text={problem.message} />
  if (!item.data || !all.data) return null
  if (!playable(item.data)) {
    const why = item.data.problem || t`It is still being made ready; come back when it is.`
    return (
      <Sentence
        title={t`“${item.data.title}” cannot be played yet`}
        text={why}
        again={() => item.refetch()}
      />
    )
  }
  return (
    <Writing
      key={known?.id ?? 0}
      item={item.data}
      all={all.data}
      current={known?.id ?? null}
      page={Number(query.get("page")) || null}
      gone={gone}
      onGone={setGone}
      onChoose={choose}
    />
  )
}

const Above = memo(function Above({ title }: { title: string }) {
  return (
    <Top>
      <HStack gap="2" flexWrap="wrap">
        <To to="/library">
          <Trans>Library</Trans>
        </To>
        <chakra.span color="quiet">/</chakra.span>
        <Heading as="h1" size="md" fontWeight="600" fontFamily="body">
          <Trans>Captions of “{title}”</Trans>
        </Heading>
      </HStack>
    </Top>
  )
})

interface WritingProps {
  item: ItemOut
  all: CaptionsBrief[]
  current: number | null
  page: number | null
  /** The captions that were taken away last, and can be brought back. */
  gone: number | null
  onGone(captions: number | null): void
  onChoose(captions: number): void
}

const BACK = 2000
const CHANGED = t`Something has been written since this was found. Look again, in a moment.`

function Writing({ item, all, current, page, gone, onGone, onChoose }: WritingProps) {
  const person = useSession().data?.person?.username ?? ""
  const written = useCaptions(current, person)
  const { history, brief } = written
  const { cues, at } = history.now
  // A key draws the line that it is in; what else shows the cues comes when there is time.
  const later = useDeferredValue(history)
  const beside = useBeside(written, later)
  const player = usePlayer(cues, brief?.language ?? "en")
  const script = useRef<ScriptHold>(null)
  const editable = brief !== null && written.saving !== "clash"
  const shown = cues.length ? cueAt(cues, player.moment) : -1
  const lasting = (cues[shown]?.end ?? 0) > player.moment

  const made = ({ cues: next, at: to }: Made, said: string) => {
    written.do({ sort: "change", now: { cues: next, at: to } })
    script.current?.focus(to)
    say(said)
  }
  const go = (to: number) => {
    if (to < 0 || to >= cues.length) return
    written.do({ sort: "at", at: to })
    script.current?.focus(to)
    if (!player.playing) player.to(cues[to]?.begin ?? 0)
  }
  const time = (index: number, end: "begin" | "end", moment: number) =>
    written.do({ sort: "change", now: { cues: timed(cues, index, end, moment), at: index } })

  const acts: Record<CaptionAct, () => void> = {
    play: player.toggle,
    back: () => player.to(player.now() - BACK),
    begin: () => cues[at] && time(at, "begin", player.now()),
    end: () => cues[at] && time(at, "end", player.now()),
    split: () => {
      if (!cues[at]) return
      const caret = script.current?.caret() ?? Math.floor((cues[at]?.text.length ?? 0) / 2)
      made(split(cues, at, caret, player.now()), t`Split`)
    },
    join: () => at + 1 < cues.length && made(joined(cues, at), t`Joined`),
    next: () => go(at + 1),
    previous: () => go(at - 1),
    add: () => made(added(cues, player.now(), item.lasts), t`A new cue`),
    remove: () => cues[at] && made(removed(cues, at), t`Taken away`),
    undo: () => written.do({ sort: "undo" }),
    redo: () => written.do({ sort: "redo" }),
  }
  const latest = useRef(acts)
  latest.current = acts
  const steady = useMemo(
    () =>
      Object.fromEntries(
        Object.keys(latest.current).map((act) => [act, () => latest.current[act as CaptionAct]()]),
      ) as Record<CaptionAct, () => void>,
    [],
  )
  const curve = useRef<OnCurve>(undefined)
  curve.current = {
    onMoment: player.to,
    onAt: (to) => {
      written.do({ sort: "at", at: to })
      script.current?.focus(to)
    },
    onTimes: (index, begin, end) => {
      const cue = cues[index]
      if (!cue) return
      // A cue that was dragged past another stands behind it then.
      const rest = cues.filter((_, other) => other !== index)
      const place = placeOf(rest, begin)
      const next = [...rest.slice(0, place), { ...cue, begin, end }, ...rest.slice(place)]
      written.do({ sort: "change", now: { cues: next, at: place } })
    },
  }
  const onCurve = useMemo(
    (): OnCurve => ({
      onMoment: (moment) => curve.current?.onMoment(moment),
      onAt: (to) => curve.current?.onAt(to),
      onTimes: (...given) => curve.current?.onTimes(...given),
    }),
    [],
  )
  const may = useRef(editable)
  may.current = editable
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      const act = event.defaultPrevented ? undefined : actOf(chordOf(event))
      const watches = act === "play" || act === "back"
      if (!act || !(may.current || watches)) return
      // In a field that is no cue's, undo is the field's own.
      const own = event.target instanceof Element && event.target.closest("[data-cue]")
      const field = event.target instanceof Element && event.target.matches("input, textarea")
      if (field && !own && !watches) return
      event.preventDefault()
      latest.current[act]()
    }
    window.addEventListener("keydown", key)
    return () => window.removeEventListener("keydown", key)
  }, [])

  const latestCues = useRef(cues)
  latestCues.current = cues
  const mendAll = async (given: Cue[]) => {
    try {
      const params = { path: { captions_id: brief?.id ?? 0 } }
      const body = { cues: given }
      const done = await ask(client.POST("/api/captions/{captions_id}/mend", { params, body }))
      if (latestCues.current !== given) {
        say(CHANGED)
        return
      }
      written.do({ sort: "change", now: { cues: done.cues, at: 0 } })
      say(t`Mended; Undo takes it back.`)
    } catch (error) {
      say((error as Error).message)
    }
  }

  return (
    <Box display="flex" flexDirection="column" h={{ base: "auto", lg: "100dvh" }} minH="100dvh">
      <Above title={item.title} />
      <chakra.main display="flex" flexDirection="column" flex="1" minH="0">
        <Box display="flex" flexDirection={{ base: "column", lg: "row" }} flex="1" minH="0">
          <Side
            item={item}
            all={all}
            current={current}
            page={page}
            gone={gone}
            written={beside}
            of={player.of}
            said={item.kind === "sound" && lasting ? (cues[shown]?.text ?? "") : ""}
            editable={editable}
            onGone={onGone}
            onChoose={onChoose}
          />
          {brief && (
            <Box
              display="flex"
              flexDirection="column"
              flex="1"
              minW="0"
              minH={{ base: "28rem", lg: "0" }}
              maxH={{ base: "80dvh", lg: "none" }}
              borderLeftWidth={{ base: "0", lg: "1px" }}
              borderColor="line"
            >
              <Tools
                acts={steady}
                playing={player.playing}
                editable={editable}
                count={cues.length}
                more={at + 1 < cues.length}
                undoes={history.before.length > 0}
                redoes={history.after.length > 0}
              />
              <Notes
                notes={written.notes}
                total={written.total}
                of={cues.length}
                onMendAll={() => mendAll(cues)}
                onFirst={(note) => go(Math.min(note.cue, cues.length - 1))}
              />
              <Script
                cues={cues}
                notes={written.notes}
                at={at}
                shown={shown}
                editable={editable}
                hold={script}
                onAt={(to) => written.do({ sort: "at", at: to })}
                onChange={(index, part, mark) =>
                  written.do({ sort: "change", now: { cues: changed(cues, index, part), at: index }, mark })
                }
                onTime={time}
                onRepair={({ repair }) => {
                  if (!repair) return
                  // The notes may be a moment old: what was written since is not put back.
                  if (!sameAs(cues, written.checkedCues, repair.first, repair.last)) {
                    say(CHANGED)
                    return
                  }
                  written.do({ sort: "change", now: { cues: repaired(cues, repair), at: repair.first } })
                  say(t`Mended`)
                }}
                onPlay={(index) => {
                  const cue = cues[index]
                  if (cue) player.stretch(cue.begin, cue.end)
                }}
              />
            </Box>
          )}
        </Box>
        {brief && (
          <Curve item={item} cues={later.now.cues} at={later.now.at} moment={player.moment} {...onCurve} />
        )}
      </chakra.main>
    </Box>
  )
}

/** The cues as lines of text, like a script: when, who, what; and in the margin what is wrong, with what mends it. */
import { Box, chakra, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { useVirtualizer } from "@tanstack/react-virtual"
import { type Ref, useEffect, useImperativeHandle, useMemo, useRef } from "react"
import type { CaptionNote, Cue } from "../../api/client"
import { written } from "./cues"
import { type Heard, Line } from "./Line"

export interface ScriptHold {
  /** Be in the words of a cue, at their end unless told otherwise. */
  focus(at: number, place?: "start" | "end"): void
  /** Where the caret is in the words of the cue that has the focus. */
  caret(): number | null
}

interface Props extends Heard {
  cues: readonly Cue[]
  notes: readonly CaptionNote[]
  at: number
  /** The index of the cue that the film shows just now. */
  shown: number
  editable: boolean
  hold: Ref<ScriptHold>
}

const USUAL = 92

export function Script(props: Props) {
  const { cues, notes, at, shown, editable, hold } = props
  const around = useRef<HTMLDivElement>(null)
  const wanted = useRef<{ at: number; place: "start" | "end" } | null>(null)
  const rows = useVirtualizer({
    count: cues.length,
    getScrollElement: () => around.current,
    estimateSize: () => USUAL,
    overscan: 6,
  })
  const wordsOf = (index: number) =>
    around.current?.querySelector<HTMLTextAreaElement>(`[data-cue="${index}"] textarea`) ?? null
  const settle = () => {
    const { current } = wanted
    const field = current && wordsOf(current.at)
    if (!current || !field) return
    wanted.current = null
    field.focus()
    const place = current.place === "start" ? 0 : field.value.length
    field.setSelectionRange(place, place)
  }
  useEffect(settle)
  useImperativeHandle(hold, () => ({
    focus: (index, place = "end") => {
      wanted.current = { at: index, place }
      rows.scrollToIndex(index, { align: "auto" })
      settle()
    },
    caret: () => {
      const field = document.activeElement
      return field instanceof HTMLTextAreaElement && field.closest("[data-cue]") ? field.selectionStart : null
    },
  }))
  // What the film shows is brought into view, unless somebody is writing elsewhere.
  useEffect(() => {
    const writes = around.current?.contains(document.activeElement)
    if (shown >= 0 && !writes) rows.scrollToIndex(shown, { align: "auto" })
  }, [shown, rows])
  const byCue = useMemo(() => {
    const found = new Map<number, CaptionNote[]>()
    for (const note of notes) {
      const known = found.get(note.cue)
      if (known) known.push(note)
      else found.set(note.cue, [note])
    }
    return found
  }, [notes])
  // The lines hear of what was given last by way of this, so that a key draws one line anew and not all of them.
  const latest = useRef(props)
  latest.current = props
  const heard = useMemo(
    (): Heard => ({
      onAt: (index) => latest.current.onAt(index),
      onChange: (...given) => latest.current.onChange(...given),
      onTime: (...given) => latest.current.onTime(...given),
      onRepair: (note) => latest.current.onRepair(note),
      onPlay: (index) => latest.current.onPlay(index),
    }),
    [],
  )

  return (
    <Box
      ref={around}
      as="section"
      aria-label={t`Cues`}
      overflowY="auto"
      minH="0"
      flex="1"
      tabIndex={cues.length ? undefined : 0}
    >
      <chakra.ol m="0" p="0" listStyleType="none" position="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const cue = cues[index]
          return (
            cue && (
              <Line
                key={index}
                index={index}
                start={start}
                cue={cue}
                own={byCue.get(index) ?? NONE}
                chosen={index === at}
                shown={index === shown}
                editable={editable}
                heard={heard}
                measure={rows.measureElement}
              />
            )
          )
        })}
      </chakra.ol>
      {(byCue.get(cues.length) ?? []).map((note) => (
        <Text key={note.at} fontSize="sm" color="waits" px="4" py="2">
          {written(note.at)}: {note.sentence}
        </Text>
      ))}
    </Box>
  )
}

const NONE: CaptionNote[] = []

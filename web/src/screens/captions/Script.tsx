/** The cues as lines of text, like a script: when, who, what; and in the margin what is wrong, with what mends it. */
import { Box, Button, chakra, HStack, Input, Stack, Text, Textarea } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { useVirtualizer } from "@tanstack/react-virtual"
import { memo, type Ref, useEffect, useImperativeHandle, useMemo, useRef, useState } from "react"
import type { CaptionNote, Cue } from "../../api/client"
import { CAPTIONS } from "../../document/rules"
import { Act } from "../../look/Act"
import { read, written } from "./cues"

export interface ScriptHold {
  /** Be in the words of a cue, at their end unless told otherwise. */
  focus(at: number, place?: "start" | "end"): void
  /** Where the caret is in the words of the cue that has the focus. */
  caret(): number | null
}

interface Props {
  cues: readonly Cue[]
  notes: readonly CaptionNote[]
  at: number
  /** The index of the cue that the film shows just now. */
  shown: number
  editable: boolean
  onAt(at: number): void
  onChange(at: number, part: Partial<Cue>, mark: string): void
  onTime(at: number, end: "begin" | "end", moment: number): void
  onRepair(note: CaptionNote): void
  onPlay(at: number): void
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
              <chakra.li
                key={index}
                ref={rows.measureElement}
                data-index={index}
                data-cue={index}
                position="absolute"
                insetX="0"
                style={{ transform: `translateY(${start}px)` }}
                aria-current={index === at ? "true" : undefined}
                borderLeft="4px solid"
                borderColor={index === at ? "press.solid" : "transparent"}
                bg={index === shown ? "lit" : undefined}
                borderBottomWidth="1px"
                borderBottomColor="line"
                py="2"
                ps="3"
                pe="4"
                onFocus={() => index !== at && props.onAt(index)}
              >
                <Line
                  index={index}
                  cue={cue}
                  own={byCue.get(index) ?? NONE}
                  chosen={index === at}
                  editable={editable}
                  heard={heard}
                />
              </chakra.li>
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

/** What a line tells; the same for as long as the script is there. */
type Heard = Pick<Props, "onChange" | "onTime" | "onRepair" | "onPlay">

interface LineProps {
  index: number
  cue: Cue
  own: CaptionNote[]
  chosen: boolean
  editable: boolean
  heard: Heard
}

const Line = memo(function Line({ index, cue, own, chosen, editable, heard }: LineProps) {
  const { onChange, onTime, onRepair, onPlay } = heard
  const number = index + 1
  const lines = Math.max(1, cue.text.split("\n").length)
  const field = { bg: "paper", borderColor: "edge", size: "xs", readOnly: !editable } as const
  return (
    <Box
      display="grid"
      gridTemplateColumns={{ base: "1fr", md: "6.5rem minmax(12rem, 1fr) 14rem" }}
      columnGap="3"
      rowGap="1"
    >
      <HStack gap="1" flexDirection={{ base: "row", md: "column" }} align="stretch">
        <Time
          label={t`Cue ${number} begins`}
          moment={cue.begin}
          editable={editable}
          onMoment={(moment) => onTime(index, "begin", moment)}
        />
        <Time
          label={t`Cue ${number} ends`}
          moment={cue.end}
          editable={editable}
          onMoment={(moment) => onTime(index, "end", moment)}
        />
      </HStack>
      <Stack gap="1">
        <Input
          {...field}
          aria-label={t`Who speaks in cue ${number}`}
          placeholder={t`who speaks`}
          _placeholder={{ color: "quiet" }}
          variant="flushed"
          h="6"
          fontWeight="600"
          value={cue.speaker}
          maxLength={100}
          onChange={(event) => onChange(index, { speaker: event.target.value }, `speaker ${index}`)}
        />
        <Textarea
          {...field}
          aria-label={t`Words of cue ${number}`}
          fontSize="md"
          lineHeight="1.4"
          rows={lines}
          maxLength={CAPTIONS.longest}
          resize="none"
          css={{ fieldSizing: "content" }}
          py="1"
          value={cue.text}
          aria-describedby={own.length ? `notes-${index}` : undefined}
          onChange={(event) => onChange(index, { text: event.target.value }, `text ${index}`)}
        />
      </Stack>
      <Stack gap="1" id={`notes-${index}`} fontSize="xs">
        {own.map((note) => (
          <Box
            key={note.rule + note.at}
            borderLeft="3px"
            borderLeftStyle={note.severity === "mend" ? "solid" : "dotted"}
            borderColor={note.severity === "mend" ? "wrong" : "waits"}
            ps="2"
          >
            <Text>{note.sentence}</Text>
            {note.repair && editable && (
              <Button
                size="2xs"
                variant="outline"
                h="auto"
                py="0.5"
                whiteSpace="normal"
                onClick={() => onRepair(note)}
              >
                {note.repair.label}
              </Button>
            )}
          </Box>
        ))}
        {chosen && !own.length && (
          <HStack>
            <Act onPress={() => onPlay(index)}>{t`Play this cue`}</Act>
          </HStack>
        )}
      </Stack>
    </Box>
  )
})

interface TimeProps {
  label: string
  moment: number
  editable: boolean
  onMoment(moment: number): void
}

/** A time by number. What is no time is told, and the time stays. */
function Time({ label, moment, editable, onMoment }: TimeProps) {
  const [typed, setTyped] = useState<string | null>(null)
  const take = () => {
    if (typed === null) return
    const found = read(typed)
    setTyped(null)
    if (found !== null && found !== moment) onMoment(found)
  }
  const wrong = typed !== null && read(typed) === null
  return (
    <Input
      size="xs"
      aria-label={label}
      aria-invalid={wrong || undefined}
      title={wrong ? t`A time is written like 1:02.5` : undefined}
      bg="paper"
      borderColor={wrong ? "wrong" : "edge"}
      fontFamily="mono"
      value={typed ?? written(moment)}
      readOnly={!editable}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => {
        if (event.key === "Enter" && !event.ctrlKey && !event.metaKey) take()
        if (event.key === "Escape") setTyped(null)
      }}
    />
  )
}

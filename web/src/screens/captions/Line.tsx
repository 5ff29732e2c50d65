/** One cue of the script: when, who, what; and in the margin what is wrong with it. A key draws anew what it is in. */
import { Box, Button, chakra, HStack, Input, Stack, Text, Textarea } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { memo, useState } from "react"
import type { CaptionNote, Cue } from "../../api/client"
import { CAPTIONS } from "../../document/rules"
import { Act } from "../../look/Act"
import { read, written } from "./cues"

/** What a line tells; the same for as long as the script is there. */
export interface Heard {
  onAt(at: number): void
  onChange(at: number, part: Partial<Cue>, mark: string): void
  onTime(at: number, end: "begin" | "end", moment: number): void
  onRepair(note: CaptionNote): void
  onPlay(at: number): void
}

interface Props {
  index: number
  /** Where it stands from the top of the script, in pixels. */
  start: number
  cue: Cue
  own: CaptionNote[]
  chosen: boolean
  /** Whether the film shows it just now. */
  shown: boolean
  editable: boolean
  heard: Heard
  measure(element: HTMLElement | null): void
}

export const Line = memo(function Line(props: Props) {
  const { index, start, cue, own, chosen, shown, editable, heard, measure } = props
  return (
    <chakra.li
      ref={measure}
      data-index={index}
      data-cue={index}
      position="absolute"
      insetX="0"
      style={{ transform: `translateY(${start}px)` }}
      aria-current={chosen ? "true" : undefined}
      borderLeft="4px solid"
      borderColor={chosen ? "press.solid" : "transparent"}
      bg={shown ? "lit" : undefined}
      borderBottomWidth="1px"
      borderBottomColor="line"
      py="2"
      ps="3"
      pe="4"
      onFocus={() => !chosen && heard.onAt(index)}
    >
      <Box
        display="grid"
        gridTemplateColumns={{ base: "1fr", md: "6.5rem minmax(12rem, 1fr) 14rem" }}
        columnGap="3"
        rowGap="1"
      >
        <HStack gap="1" flexDirection={{ base: "row", md: "column" }} align="stretch">
          <Time index={index} end="begin" moment={cue.begin} editable={editable} heard={heard} />
          <Time index={index} end="end" moment={cue.end} editable={editable} heard={heard} />
        </HStack>
        <Stack gap="1">
          <Speaker index={index} speaker={cue.speaker} editable={editable} heard={heard} />
          <Words index={index} text={cue.text} noted={own.length > 0} editable={editable} heard={heard} />
        </Stack>
        <Margin index={index} own={own} chosen={chosen} editable={editable} heard={heard} />
      </Box>
    </chakra.li>
  )
})

type OfLine = Pick<Props, "index" | "editable" | "heard">

const Speaker = memo(function Speaker({ index, speaker, editable, heard }: OfLine & { speaker: string }) {
  return (
    <Input
      bg="paper"
      borderColor="edge"
      size="xs"
      readOnly={!editable}
      aria-label={t`Who speaks in cue ${index + 1}`}
      placeholder={t`who speaks`}
      _placeholder={{ color: "quiet" }}
      variant="flushed"
      h="6"
      fontWeight="600"
      value={speaker}
      maxLength={100}
      onChange={(event) => heard.onChange(index, { speaker: event.target.value }, `speaker ${index}`)}
    />
  )
})

const Words = memo(function Words(props: OfLine & { text: string; noted: boolean }) {
  const { index, text, noted, editable, heard } = props
  return (
    <Textarea
      bg="paper"
      borderColor="edge"
      size="xs"
      readOnly={!editable}
      aria-label={t`Words of cue ${index + 1}`}
      fontSize="md"
      lineHeight="1.4"
      rows={Math.max(1, text.split("\n").length)}
      maxLength={CAPTIONS.longest}
      resize="none"
      css={{ fieldSizing: "content" }}
      py="1"
      value={text}
      aria-describedby={noted ? `notes-${index}` : undefined}
      onChange={(event) => heard.onChange(index, { text: event.target.value }, `text ${index}`)}
    />
  )
})

const Margin = memo(function Margin(props: OfLine & { own: CaptionNote[]; chosen: boolean }) {
  const { index, own, chosen, editable, heard } = props
  return (
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
              onClick={() => heard.onRepair(note)}
            >
              {note.repair.label}
            </Button>
          )}
        </Box>
      ))}
      {chosen && !own.length && (
        <HStack>
          <Act onPress={() => heard.onPlay(index)}>{t`Play this cue`}</Act>
        </HStack>
      )}
    </Stack>
  )
})

/** A time by number. What is no time is told, and the time stays. */
const Time = memo(function Time(props: OfLine & { end: "begin" | "end"; moment: number }) {
  const { index, end, moment, editable, heard } = props
  const [typed, setTyped] = useState<string | null>(null)
  const take = () => {
    if (typed === null) return
    const found = read(typed)
    setTyped(null)
    if (found !== null && found !== moment) heard.onTime(index, end, found)
  }
  const wrong = typed !== null && read(typed) === null
  return (
    <Input
      size="xs"
      aria-label={end === "begin" ? t`Cue ${index + 1} begins` : t`Cue ${index + 1} ends`}
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
})

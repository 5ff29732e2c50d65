/** The listening view: the page as a screen reader says it, line by line, with the sheet following. */

import { Box, Button, chakra, HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { type KeyboardEvent, useEffect, useRef, useState } from "react"
import { ask, client, type HeardLine, type PageOut } from "../../api/client"
import { textOf } from "../../editor/schema"
import type { Sheet } from "../../editor/sheet"
import { Act } from "../../look/Act"
import { Choice } from "../../look/Choice"
import { Acts } from "./particulars/parts"
import type { Sight } from "./SheetFrame"
import { useSheetState } from "./useSheetState"
import { useVoice } from "./useVoice"

const STEPS: [string, string][] = [
  ["", t`line by line`],
  ["heading", t`from heading to heading`],
  ["link", t`from link to link`],
  ["landmark", t`from landmark to landmark`],
]
const SIGHTS: [Sight, string][] = [
  ["plain", t`As it is`],
  ["blurred", t`Blurred`],
  ["grey", t`Without colour`],
]
const PAUSE = 500

interface Props {
  page: PageOut
  sheet: Sheet | null
  sight: Sight
  onSight(sight: Sight): void
  /** Whether somebody goes here, and the focus is still to come. */
  wanted: boolean
  onThere(): void
}

export function Listening({ page, sheet, sight, onSight, wanted, onThere }: Props) {
  const { lines, problem } = useHeard(page, sheet)
  const [at, setAt] = useState(0)
  const [step, setStep] = useState("")
  const list = useRef<HTMLOListElement>(null)
  const voice = useVoice(page.site.language)
  useEffect(() => () => sheet?.hear(null), [sheet])

  const go = (index: number, focus = true) => {
    const line = lines[index]
    if (!line) return
    setAt(index)
    sheet?.hear(line.path ?? null)
    const button = list.current?.querySelectorAll<HTMLElement>("button")[index]
    if (focus) button?.focus()
    else button?.scrollIntoView({ block: "nearest" })
  }
  const there = useRef(onThere)
  there.current = onThere
  useEffect(() => {
    const button = wanted && lines.length ? list.current?.querySelector<HTMLElement>("[tabindex='0']") : null
    if (!button) return
    button.focus()
    there.current()
  }, [wanted, lines])
  const following = (from: number, by: 1 | -1) => {
    for (let index = from + by; index >= 0 && index < lines.length; index += by)
      if (!step || lines[index]?.stop === step) return index
    return null
  }
  const key = (event: KeyboardEvent) => {
    const by = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : null
    const far = { Home: 0, End: lines.length - 1 }[event.key]
    if (by === null && far === undefined) return
    event.preventDefault()
    const index = by === null ? (far ?? 0) : following(at, by)
    if (index !== null) go(index)
  }
  const speak = () => {
    if (voice.speaking) voice.stop()
    else voice.speak(lines.slice(at), (done) => go(at + done, false))
  }

  return (
    <Stack gap="3">
      <Box position="sticky" top="-2" zIndex="1" bg="ground" py="2">
        <Choice label={t`Up and down go`} value={step} options={STEPS} onChoice={setStep} />
        <HStack gap="1" flexWrap="wrap" mt="2">
          <Act disabled={following(at, -1) === null} onPress={() => go(following(at, -1) ?? at, false)}>
            <Trans>Back</Trans>
          </Act>
          <Act disabled={following(at, 1) === null} onPress={() => go(following(at, 1) ?? at, false)}>
            <Trans>Next</Trans>
          </Act>
          {voice.there && (
            <Act pressed={voice.speaking} onPress={speak}>
              {voice.speaking ? t`Stop reading` : t`Read aloud`}
            </Act>
          )}
        </HStack>
      </Box>
      {!voice.there && (
        <Text fontSize="xs" color="quiet">
          <Trans>This browser has no voice to say it aloud.</Trans>
        </Text>
      )}
      {problem && (
        <Text role="alert" fontSize="sm" color="wrong">
          {problem}
        </Text>
      )}
      <chakra.ol ref={list} listStyleType="none" aria-label={t`What is heard`} onKeyDown={key}>
        {lines.map((line, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a line is what it is by its place
          <chakra.li key={index} style={{ paddingLeft: `${line.depth * 0.7}rem` }}>
            <Button
              variant="plain"
              size="sm"
              h="auto"
              minH="7"
              px="1"
              py="0.5"
              w="full"
              whiteSpace="normal"
              wordBreak="break-word"
              justifyContent="flex-start"
              textAlign="left"
              lineHeight="1.4"
              borderRadius="0"
              fontWeight={line.stop === "heading" ? "600" : "400"}
              color={line.stop === "landmark" ? "quiet" : "ink"}
              borderLeft="3px solid"
              borderLeftColor={index === at ? "press.solid" : "transparent"}
              bg={index === at ? "lit" : undefined}
              aria-current={index === at ? "true" : undefined}
              tabIndex={index === at ? 0 : -1}
              lang={line.language || undefined}
              onClick={() => go(index, false)}
            >
              {line.language && line.language !== page.site.language && (
                <chakra.span color="quiet">({line.language}) </chakra.span>
              )}
              {line.says}
            </Button>
          </chakra.li>
        ))}
      </chakra.ol>
      <Box pt="2" borderTopWidth="1px" borderColor="line">
        <Acts label={t`The sheet as it is seen`}>
          {SIGHTS.map(([each, name]) => (
            <Act key={each} pressed={sight === each} onPress={() => onSight(each)}>
              {name}
            </Act>
          ))}
        </Acts>
      </Box>
    </Stack>
  )
}

/** What is heard of the page, asked for anew a moment after each change. */
function useHeard(page: PageOut, sheet: Sheet | null) {
  const { doc } = useSheetState(sheet)
  const [lines, setLines] = useState<HeardLine[]>([])
  const [problem, setProblem] = useState("")
  const first = useRef(true)
  useEffect(() => {
    let current = true
    const ask_ = async () => {
      try {
        const params = { path: { page_id: page.id } }
        const heard = await ask(client.POST("/api/pages/{page_id}/listen", { params, body: textOf(doc) }))
        if (current) setLines(heard)
        if (current) setProblem("")
      } catch (error) {
        if (current) setProblem((error as Error).message)
      }
    }
    const timer = window.setTimeout(ask_, first.current ? 0 : PAUSE)
    first.current = false
    return () => {
      current = false
      window.clearTimeout(timer)
    }
  }, [page, doc])
  return { lines, problem }
}

import { Box, Button, Heading, HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { type ReactNode, useState, useSyncExternalStore } from "react"
import type { Clash } from "../../api/client"
import {
  attributesOf,
  type Choice,
  chosen,
  type Standing,
  type Wordings,
  wordingsOf,
} from "../../editor/clashes"
import type { Saver } from "../../editor/saver"
import type { Sheet } from "../../editor/sheet"
import { useSheetState } from "./useSheetState"

interface Props {
  sheet: Sheet
  saver: Saver
  onClose(): void
}

/** Places that two people changed, each in their way: both wordings, and choosing between them. */
export function Choosing({ sheet, saver, onClose }: Props) {
  const { clashes } = useSyncExternalStore(saver.watch, saver.get)
  const state = useSheetState(sheet)
  const [told, setTold] = useState("")

  const choose = async (clash: Clash, choice: Choice, shown: Wordings) => {
    const tr = chosen(sheet.state, clash, choice, shown)
    if (tr === false) {
      setTold(t`These words have just been changed. Look once more, then choose.`)
      return
    }
    setTold("")
    sheet.step(tr)
    try {
      await saver.settle(clash)
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  return (
    <Stack gap="4" pt="1">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        <Trans>Two wordings</Trans>
      </Heading>
      {clashes.length === 0 && (
        <Text fontSize="sm">
          <Trans>There is nothing to choose: every place has one wording.</Trans>
        </Text>
      )}
      {clashes.length > 0 && (
        <Text fontSize="sm">
          <Trans>
            Two people changed the same words. Nothing of either is lost, and you can write on. Undo brings
            back what a choice puts aside.
          </Trans>
        </Text>
      )}
      <Text role="status" fontSize="sm" color="waits">
        {told}
      </Text>
      {clashes.slice(0, AT_ONCE).map((clash) => (
        <Place key={clash.id} clash={clash} now={wordingsOf(state, clash)} sheet={sheet} onChoose={choose} />
      ))}
      {clashes.length > AT_ONCE && (
        <Text fontSize="sm">
          <Trans>{clashes.length - AT_ONCE} more places come up as you choose.</Trans>
        </Text>
      )}
      <HStack>
        <Button size="sm" variant="outline" onClick={onClose}>
          {clashes.length ? t`Not yet` : t`Back`}
        </Button>
      </HStack>
    </Stack>
  )
}

/** How many places are shown at once. */
const AT_ONCE = 20

const LABELS: Record<Clash["sort"], string> = {
  words: t`The same words, two wordings`,
  gone: t`Taken away by one, changed by the other`,
  attributes: t`One thing, set in two ways`,
  title: t`The title`,
  description: t`The description`,
}

interface PlaceProps {
  clash: Clash
  now: Wordings
  sheet: Sheet
  onChoose(clash: Clash, choice: Choice, shown: Wordings): void
}

function Place({ clash, now, sheet, onChoose }: PlaceProps) {
  const { sort } = clash
  const both = sort === "words" && now.theirs && now.mine
  const act = (choice: Choice) => () => onChoose(clash, choice, now)
  const said = (side: "theirs" | "mine") => saying(clash, side, now[side])
  const says = {
    theirs: around(said("theirs"), said("mine")),
    mine: around(said("mine"), said("theirs")),
  }
  const show = (standing: Standing | null) => standing && sheet.goTo(standing.from)
  return (
    <Stack as="section" aria-label={LABELS[sort]} gap="2" borderTopWidth="1px" borderColor="line" pt="2">
      <Text fontSize="sm" fontWeight="600">
        {LABELS[sort]}
      </Text>
      {(["theirs", "mine"] as const).map((side) => (
        <Wording key={side} by={clash[`${side}_by`]} says={says[side]}>
          <Button size="xs" variant="outline" onClick={act(side)}>
            {sort === "gone" && !clash[side].length ? t`Take it away` : t`Keep this one`}
          </Button>
          {now[side] && (
            <Button size="xs" variant="ghost" onClick={() => show(now[side])}>
              <Trans>Show it</Trans>
            </Button>
          )}
        </Wording>
      ))}
      {both && (
        <Button size="xs" variant="outline" alignSelf="start" onClick={act("both")}>
          <Trans>Keep both, one after the other</Trans>
        </Button>
      )}
    </Stack>
  )
}

/** What a side says: as it stands on the sheet now, or as it was kept. */
function saying(clash: Clash, side: "theirs" | "mine", standing: Standing | null): string {
  const kept = clash[side]
  if (typeof kept === "string") return kept || "(none)"
  if (clash.sort === "attributes")
    return attributesOf(clash)
      .map((each) => `${NAMES[each.name] ?? each.name}: ${shown(each[side])}`)
      .join("; ")
  if (standing) return standing.node.textContent || standing.node.type.name
  return kept.length ? t`${textIn(kept)} (stands no longer on the page)` : t`(taken away)`
}

/** What attributes are called, where their own names say little to an author. */
const NAMES: Record<string, string> = {
  alt: t`alt text`,
  align: t`place in the line`,
  colspan: t`columns it spans`,
  crop: t`part that is shown`,
  focus: t`focal point`,
  latex: "equation",
  ratio: "shape",
  rowspan: t`rows it spans`,
  sort: t`kind of aside`,
}

function shown(value: unknown): string {
  if (typeof value === "boolean") return value ? "yes" : "no"
  return value === null || value === "" ? "none" : String(value)
}

/** How many signs of what both have in common are shown beside the words in which they differ. */
const BESIDE = 60

/** Of a long wording, what differs from the other one, and a little around it. */
function around(wording: string, other: string): string {
  let start = 0
  while (start < wording.length && wording[start] === other[start]) start++
  let end = 0
  const most = Math.min(wording.length, other.length) - start
  while (end < most && wording.at(-1 - end) === other.at(-1 - end)) end++
  // Parts begin and end with whole words.
  const from = start > 2 * BESIDE ? wording.indexOf(" ", start - BESIDE) : -1
  const to = end > 2 * BESIDE ? wording.lastIndexOf(" ", wording.length - end + BESIDE) : -1
  return `${from > 0 ? "…" : ""}${wording.slice(Math.max(0, from), to > 0 ? to : undefined)}${to > 0 ? " …" : ""}`
}

const textIn = (blocks: unknown[]): string =>
  blocks
    .map((block) => {
      const { text, content } = block as { text?: string; content?: unknown[] }
      return text ?? textIn(content ?? [])
    })
    .join("")

function Wording({ by, says, children }: { by: string; says: string; children: ReactNode }) {
  return (
    <Box as="figure" borderLeft="3px solid" borderColor="line" pl="3">
      <Text as="figcaption" fontSize="xs" color="quiet">
        {by}
      </Text>
      <Text fontSize="sm" wordBreak="break-word" whiteSpace="pre-wrap">
        {says}
      </Text>
      <HStack gap="1" pt="1">
        {children}
      </HStack>
    </Box>
  )
}

/** The foot: the state of the page as a sentence, what the page check found, and the next step. */

import { Button, chakra, HStack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import type { EditorState } from "prosemirror-state"
import { useEffect, useRef, useState, useSyncExternalStore } from "react"
import type { PageOut } from "../../api/client"
import { openFindings } from "../../editor/findings"
import type { Saver, Snapshot } from "../../editor/saver"
import type { Sheet } from "../../editor/sheet"
import { headingOver, type Together, type Writer } from "../../editor/together"
import { Gauge, type State } from "../../look/Gauge"
import { say } from "../../look/heard"
import { moment } from "../../look/words"
import { Publishing } from "./Publishing"
import { type Checking, useMeasure } from "./useChecking"
import { useOfSheet } from "./useSheetState"

interface Props {
  page: PageOut
  sheet: Sheet | null
  saver: Saver | null
  together: Together | null
  checking: Checking
  /** What is being asked about before it is done. */
  asking: "publish" | "unpublish" | null
  onAsk(what: "publish" | "unpublish" | null): void
  onNotes(): void
  onChoose(): void
}

const never = () => () => {}
const time = (at: string) => moment(at, { hour: "2-digit", minute: "2-digit" })

const UNREACHED = t`The server cannot be reached. Write on: your text is kept here and saved when it answers.`

function savedSentence({ state, savedAt }: Snapshot): string {
  switch (state.kind) {
    case "saved":
      return t`Working copy, saved ${time(savedAt)}`
    case "waiting":
      return t`Working copy, being written`
    case "saving":
      return t`Working copy, saving`
    case "away":
      return state.full ? t`${state.sentence} Write on: your text is kept here.` : UNREACHED
    case "signed-out":
      return t`${state.sentence} Write on: your text is kept here and saved when you sign in again.`
    case "refused":
      return t`Not saved: ${state.sentence} Your text is kept here.`
  }
}

function liveSentence({ live }: Snapshot): string {
  if (!live) return t`not published: readers do not see it`
  if (live.differs === 0) return t`readers see just this`
  return t`differs from the live copy in ${plural(live.differs, { one: "# place", other: "# places" })}`
}

/** What the foot says of the findings. */
function found(state: EditorState) {
  const open = openFindings(state)
  return {
    toMend: open.filter(({ finding }) => finding.severity !== "look").length,
    toLookAt: open.filter(({ finding }) => finding.severity === "look").length,
  }
}

/** Says when saving runs into trouble, and when that is over: once each, and nothing while all goes well. */
function useSavingHeard(snapshot: Snapshot | null) {
  const kind = snapshot?.state.kind
  const sentence = snapshot ? savedSentence(snapshot) : ""
  const trouble = kind !== undefined && TROUBLE.includes(kind)
  const told = useRef(false)
  useEffect(() => {
    if (trouble && !told.current) say(sentence)
    if (kind === "saved" && told.current) say(t`Saved again: all that you wrote is on the server.`)
    if (trouble || kind === "saved") told.current = trouble
  }, [trouble, kind, sentence])
}

const TROUBLE: readonly string[] = ["away", "signed-out", "refused"]

export function Foot(props: Props) {
  const { page, sheet, saver, together, checking, asking, onAsk, onNotes, onChoose } = props
  const snapshot = useSyncExternalStore(saver?.watch ?? never, () => saver?.get() ?? null)
  const { toMend, toLookAt } = useOfSheet(sheet, found)
  const [unfolded, setUnfolded] = useState(false)
  useSavingHeard(snapshot)
  if (!snapshot || !saver) return <chakra.footer h="11" borderTopWidth="1px" borderColor="line" />
  const { state, live, clashes } = snapshot
  const gauge: State = !live ? "unpublished" : live.differs ? "changed" : "live"
  const trouble = TROUBLE.includes(state.kind)
  /** On a narrow screen the foot is one line, and the rest of it unfolds. */
  const rest = { base: unfolded ? "flex" : "none", lg: "flex" }

  return (
    <chakra.footer
      aria-label={t`State of the page`}
      data-part="foot"
      borderTopWidth="1px"
      borderColor="line"
      bg="paper"
      px={{ base: "2", lg: "4" }}
      py={{ base: "0.5", lg: "1.5" }}
      fontSize="sm"
    >
      {asking && (
        <Publishing
          what={asking}
          page={page}
          sheet={sheet}
          saver={saver}
          checking={checking}
          unsettled={clashes.length > 0}
          onNotes={onNotes}
          onDone={() => {
            onAsk(null)
            sheet?.focus()
          }}
        />
      )}
      <Others together={together} sheet={sheet} />
      <Room together={together} />
      <HStack
        justifyContent="space-between"
        gap={{ base: "1", lg: "4" }}
        flexWrap={{ base: "nowrap", lg: "wrap" }}
      >
        <HStack
          gap="2"
          minW="0"
          flex="1 1 20rem"
          flexWrap={{ base: unfolded ? "wrap" : "nowrap", lg: "nowrap" }}
        >
          <Gauge state={gauge} />
          <Text
            color={trouble ? "waits" : "ink"}
            data-save={state.kind}
            flex={{ base: "0 1 auto", lg: "0 1 auto" }}
            minW="0"
            truncate={!unfolded && !trouble}
          >
            {savedSentence(snapshot)}
            {snapshot.twice && t` · you wrote the same words in two windows: both stand on the page`}
            {snapshot.broughtBack && t` · the words left unsaved here are back`}
            {!trouble && <chakra.span color="quiet"> · {liveSentence(snapshot)}</chakra.span>}
          </Text>
          {clashes.length > 0 && (
            <Button size="xs" variant="outline" borderColor="press.solid" onClick={onChoose}>
              {clashes.length === 1
                ? t`Two wordings: choose`
                : t`Two wordings in ${clashes.length} places: choose`}
            </Button>
          )}
          {state.kind === "signed-out" && (
            <Button asChild size="xs" variant="outline">
              <a href="/" target="_blank" rel="noreferrer">
                <Trans>Sign in, in a new window</Trans>
              </a>
            </Button>
          )}
        </HStack>
        <HStack
          gap={{ base: "1", lg: "3" }}
          flexWrap={{ base: unfolded ? "wrap" : "nowrap", lg: "wrap" }}
          flexShrink="0"
          maxW="full"
        >
          <HStack display={rest} gap="3">
            <Measured checking={checking} frame={page.frame_weight} />
          </HStack>
          <Button size="xs" variant="ghost" onClick={onNotes}>
            <span>
              {toMend === 0 ? t`Nothing to mend` : t`${toMend} to mend`}
              {toLookAt > 0 && (
                <chakra.span display={{ base: unfolded ? "inline" : "none", lg: "inline" }}>
                  <Trans>, {toLookAt} to look at</Trans>
                </chakra.span>
              )}
            </span>
          </Button>
          {live && (
            <Button asChild size="xs" variant="ghost" display={rest}>
              <a href={live.address} target="_blank" rel="noreferrer">
                <Trans>See it as a reader</Trans>
              </a>
            </Button>
          )}
          {(!live || live.differs > 0 || state.kind !== "saved") && (
            <Button
              size="xs"
              variant="outline"
              borderColor="press.solid"
              color="press.fg"
              aria-expanded={asking === "publish"}
              onClick={() => onAsk("publish")}
            >
              <Trans>Publish…</Trans>
            </Button>
          )}
          <Button
            size="xs"
            variant="ghost"
            px="1"
            display={{ base: "inline-flex", lg: "none" }}
            aria-expanded={unfolded}
            onClick={() => setUnfolded(!unfolded)}
          >
            {unfolded ? t`Less` : t`More`}
          </Button>
        </HStack>
      </HStack>
    </chakra.footer>
  )
}

const nobody: readonly Writer[] = []

/** Who else writes on this page, and under which heading. */
function Others({ together, sheet }: { together: Together | null; sheet: Sheet | null }) {
  const others = useSyncExternalStore(together?.watch ?? never, () => together?.get() ?? nobody)
  if (!others.length || !sheet) return null
  const sentences = others.map(({ name, own, block }) => {
    const heading = block === null || block === undefined ? null : headingOver(sheet.state.doc, block)
    const where = heading ? t`, under “${heading}”` : ""
    return own ? t`You have it open in another window too.` : t`${name} is writing here too${where}.`
  })
  return (
    <Text role="status" aria-label={t`Who else writes here`} color="quiet" wordBreak="break-word" pb="1">
      {[...new Set(sentences)].join(" ")}
    </Text>
  )
}

/** Told before it is too late: below a reserve, the server takes texts alone. */
function Room({ together }: { together: Together | null }) {
  const room = useSyncExternalStore(together?.watch ?? never, () => together?.hasRoom() ?? true)
  if (room) return null
  return (
    <Text role="status" aria-label={t`Room on the server`} color="waits" pb="1">
      <Trans>
        The server’s disk is nearly full: texts are saved, everything else waits. Tell an administrator.
      </Trans>
    </Text>
  )
}

/** Words, reading time and weight. */
function Measured({ checking, frame }: { checking: Checking; frame: number }) {
  const measure = useMeasure(checking)
  if (!measure) return null
  const { words, seconds, weight } = measure
  const time = seconds < 45 ? t`under a minute` : t`${Math.max(1, Math.round(seconds / 60))} min`
  const grade =
    measure.grade == null
      ? t`How hard it is to read is scored for English only. `
      : t`It asks for ${plural(Math.max(0, Math.round(measure.grade)), { one: "# year", other: "# years" })} at school (reading ease ${Math.min(100, Math.max(0, Math.round(measure.ease ?? 0)))} of 100). `
  const kilobytes = Math.round((weight + frame) / 1000)
  const says =
    t`${plural(words, { one: "# word", other: "# words" })}. Read in ${time} at 238 words a minute. ` +
    t`${grade}A first visit loads ${kilobytes} kB: ${Math.round(weight / 1000)} kB of this page, the rest is the theme.`
  return (
    <Text color="quiet" title={says} aria-label={says} role="note" whiteSpace="nowrap">
      <Trans>
        {plural(words, { one: "# word", other: "# words" })} · {time} · {kilobytes} kB
      </Trans>
    </Text>
  )
}

/** The foot: the state of the page as a sentence, what the page check found, and the next step. */
import { Button, chakra, HStack, Text } from "@chakra-ui/react"
import { useQueryClient } from "@tanstack/react-query"
import type { EditorState } from "prosemirror-state"
import { useState, useSyncExternalStore } from "react"
import { after, forget } from "../../api/answers"
import { type Allowance, ask, client, type PageOut } from "../../api/client"
import { findingsOf, openFindings } from "../../editor/findings"
import type { Saver, Snapshot } from "../../editor/saver"
import type { Sheet } from "../../editor/sheet"
import { headingOver, type Together, type Writer } from "../../editor/together"
import { Gauge, type State } from "../../look/Gauge"
import { type Checking, useMeasure } from "./useChecking"
import { useOfSheet } from "./useSheetState"

interface Props {
  page: PageOut
  sheet: Sheet | null
  saver: Saver | null
  together: Together | null
  checking: Checking
  onNotes(): void
  onChoose(): void
}

const never = () => () => {}
const time = (moment: string) =>
  new Date(moment).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })

const UNSETTLED = "two people changed the same words. Choose between the two wordings first."
const UNREACHED = "The server cannot be reached. Write on: your text is kept here and saved when it answers."

function savedSentence({ state, savedAt }: Snapshot): string {
  switch (state.kind) {
    case "saved":
      return `Working copy, saved ${time(savedAt)}`
    case "waiting":
      return "Working copy, being written"
    case "saving":
      return "Working copy, saving"
    case "away":
      return state.full ? `${state.sentence} Write on: your text is kept here.` : UNREACHED
    case "signed-out":
      return `${state.sentence} Write on: your text is kept here and saved when you sign in again.`
    case "refused":
      return `Not saved: ${state.sentence} Your text is kept here.`
  }
}

function liveSentence({ live }: Snapshot): string {
  if (!live) return "not published: readers do not see it"
  if (live.differs === 0) return "readers see just this"
  return `differs from the live copy in ${live.differs === 1 ? "1 place" : `${live.differs} places`}`
}

/** What the foot says of the findings. */
function found(state: EditorState) {
  const open = openFindings(state)
  return {
    toMend: open.filter(({ finding }) => finding.severity !== "look").length,
    toLookAt: open.filter(({ finding }) => finding.severity === "look").length,
    blocked: open.find(({ finding }) => finding.severity === "blocks")?.finding.sentence,
    allowed: findingsOf(state).flatMap(({ finding }) => (finding.allowed ? [finding.allowed] : [])),
  }
}

export function Foot({ page, sheet, saver, together, checking, onNotes, onChoose }: Props) {
  const snapshot = useSyncExternalStore(saver?.watch ?? never, () => saver?.get() ?? null)
  const { toMend, toLookAt, blocked, allowed } = useOfSheet(sheet, found)
  const [asking, setAsking] = useState<"publish" | "unpublish" | null>(null)
  if (!snapshot || !saver) return <chakra.footer h="11" borderTopWidth="1px" borderColor="line" />
  const { state, live, clashes } = snapshot
  const gauge: State = !live ? "unpublished" : live.differs ? "changed" : "live"
  const trouble = ["away", "signed-out", "refused"].includes(state.kind)

  return (
    <chakra.footer
      aria-label="State of the page"
      borderTopWidth="1px"
      borderColor="line"
      bg="paper"
      px="4"
      py="1.5"
      fontSize="sm"
    >
      {asking && (
        <Ask
          what={asking}
          page={page}
          saver={saver}
          blocked={clashes.length ? UNSETTLED : blocked}
          toMend={toMend}
          toLookAt={toLookAt}
          allowed={allowed}
          onDone={() => setAsking(null)}
        />
      )}
      <Others together={together} sheet={sheet} />
      <Room together={together} />
      <HStack justifyContent="space-between" gap="4" flexWrap="wrap">
        <HStack gap="2" minW="0" flex="1 1 20rem" flexWrap={{ base: "wrap", lg: "nowrap" }}>
          <Gauge state={gauge} />
          <Text
            role="status"
            color={trouble ? "waits" : "ink"}
            data-save={state.kind}
            flex={{ base: "1 1 14rem", lg: "0 1 auto" }}
          >
            {savedSentence(snapshot)}
            {snapshot.twice && " · you wrote the same words in two windows: both stand on the page"}
            {snapshot.broughtBack && " · the words left unsaved here are back"}
            {!trouble && <chakra.span color="quiet"> · {liveSentence(snapshot)}</chakra.span>}
          </Text>
          {clashes.length > 0 && (
            <Button size="xs" variant="outline" borderColor="press.solid" onClick={onChoose}>
              {clashes.length === 1
                ? "Two wordings: choose"
                : `Two wordings in ${clashes.length} places: choose`}
            </Button>
          )}
          {state.kind === "signed-out" && (
            <Button asChild size="xs" variant="outline">
              <a href="/" target="_blank" rel="noreferrer">
                Sign in, in a new window
              </a>
            </Button>
          )}
        </HStack>
        <HStack gap="3" flexWrap="wrap">
          <Measured checking={checking} frame={page.frame_weight} />
          <Button size="xs" variant="ghost" onClick={onNotes}>
            {toMend === 0 ? "Nothing to mend" : `${toMend} to mend`}
            {toLookAt > 0 && `, ${toLookAt} to look at`}
          </Button>
          {live && (
            <Button asChild size="xs" variant="ghost">
              <a href={live.address} target="_blank" rel="noreferrer">
                See it as a reader
              </a>
            </Button>
          )}
          {live && page.site.may_publish && (
            <Button size="xs" variant="ghost" onClick={() => setAsking("unpublish")}>
              Unpublish…
            </Button>
          )}
          {page.site.may_publish && (!live || live.differs > 0 || state.kind !== "saved") && (
            <Button
              size="xs"
              variant="outline"
              borderColor="press.solid"
              color="press.fg"
              onClick={() => setAsking("publish")}
            >
              Publish…
            </Button>
          )}
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
    const where = heading ? `, under “${heading}”` : ""
    return own ? "You have it open in another window too." : `${name} is writing here too${where}.`
  })
  return (
    <Text role="status" aria-label="Who else writes here" color="quiet" wordBreak="break-word" pb="1">
      {[...new Set(sentences)].join(" ")}
    </Text>
  )
}

/** Told before it is too late: below a reserve, the server takes texts alone. */
function Room({ together }: { together: Together | null }) {
  const room = useSyncExternalStore(together?.watch ?? never, () => together?.hasRoom() ?? true)
  if (room) return null
  return (
    <Text role="status" aria-label="Room on the server" color="waits" pb="1">
      The server’s disk is nearly full: texts are saved, everything else waits. Tell an administrator.
    </Text>
  )
}

const count = (number: number, one: string) =>
  `${number.toLocaleString("en-GB")} ${one}${number === 1 ? "" : "s"}`

/** Words, reading time and weight. */
function Measured({ checking, frame }: { checking: Checking; frame: number }) {
  const measure = useMeasure(checking)
  if (!measure) return null
  const { words, seconds, weight } = measure
  const time = seconds < 45 ? "under a minute" : `${Math.max(1, Math.round(seconds / 60))} min`
  const grade =
    measure.grade == null
      ? "How hard it is to read is scored for English only. "
      : `It asks for ${count(Math.max(0, Math.round(measure.grade)), "year")} at school (reading ease ${Math.min(100, Math.max(0, Math.round(measure.ease ?? 0)))} of 100). `
  const kilobytes = Math.round((weight + frame) / 1000)
  const says =
    `${count(words, "word")}. Read in ${time} at 238 words a minute. ` +
    `${grade}A first visit loads ${kilobytes} kB: ${Math.round(weight / 1000)} kB of this page, the rest is the theme.`
  return (
    <Text color="quiet" title={says} aria-label={says} role="note" whiteSpace="nowrap">
      {count(words, "word")} · {time} · {kilobytes} kB
    </Text>
  )
}

interface AskProps {
  what: "publish" | "unpublish"
  page: PageOut
  saver: Saver
  blocked: string | undefined
  toMend: number
  toLookAt: number
  /** What authors have said is right as it is. */
  allowed: Allowance[]
  onDone(): void
}

/** Says what will happen before it does; stands above the foot, not over the sheet. */
function Ask({ what, page, saver, blocked, toMend, toLookAt, allowed, onDone }: AskProps) {
  const [problem, setProblem] = useState("")
  const [busy, setBusy] = useState(false)
  const queries = useQueryClient()
  const params = { path: { page_id: page.id } }

  const act = async () => {
    setBusy(true)
    setProblem("")
    try {
      if (what === "publish") {
        await saver.flush()
        const { state, revision } = saver.get()
        if (state.kind !== "saved") throw new Error("The text is not saved yet, so it cannot be published.")
        saver.setLive(await ask(client.POST("/api/pages/{page_id}/publish", { params, body: { revision } })))
      } else {
        await ask(client.DELETE("/api/pages/{page_id}/publish", { params }))
        saver.setLive(null)
      }
      void forget(queries, after.pages(page.site.id))
      onDone()
    } catch (error) {
      setProblem((error as Error).message)
      setBusy(false)
    }
  }
  const still = [
    toMend && `${count(toMend, "thing")} still to mend`,
    toLookAt && `${toMend ? toLookAt : count(toLookAt, "thing")} to look at`,
  ].filter(Boolean)
  const sentence =
    what === "unpublish"
      ? `Readers will no longer find this page at ${page.address}. Its text stays here.`
      : blocked
        ? `It cannot be published yet: ${blocked}`
        : `Readers will see this text at ${page.address}.${still.length ? ` There ${toMend + toLookAt === 1 ? "is" : "are"} ${still.join(" and ")}.` : ""}`
  return (
    <HStack
      role="group"
      aria-label={what === "publish" ? "Publish" : "Unpublish"}
      gap="3"
      flexWrap="wrap"
      pb="2"
      mb="1.5"
      borderBottomWidth="1px"
      borderColor="line"
      onKeyDown={(event) => event.key === "Escape" && onDone()}
    >
      <Text flex="1 1 24rem" wordBreak="break-word">
        {sentence}
        {what === "publish" &&
          allowed.map((each) => (
            <chakra.span key={each.id} display="block" color="quiet">
              Held to be right: {each.sentence} {each.by}: “{each.reason}”
            </chakra.span>
          ))}
        <chakra.span role="alert" display="block" color="wrong">
          {problem}
        </chakra.span>
      </Text>
      <Button
        size="sm"
        onClick={act}
        loading={busy}
        disabled={what === "publish" && Boolean(blocked)}
        autoFocus={!blocked}
      >
        {what === "publish" ? "Publish now" : "Unpublish now"}
      </Button>
      <Button size="sm" variant="outline" onClick={onDone} autoFocus={Boolean(blocked)}>
        Not yet
      </Button>
    </HStack>
  )
}

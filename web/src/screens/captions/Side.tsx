/** What stands beside the script: the film, the languages, how safe the words are and who has them, files, keys. */
import { Box, Button, chakra, HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQueryClient } from "@tanstack/react-query"
import { memo } from "react"
import { after, answers, forget } from "../../api/answers"
import { ask, type CaptionsBrief, client, type ItemOut } from "../../api/client"
import { shownChord } from "../../editor/chords"
import { Folded } from "../../look/Folded"
import { say } from "../../look/heard"
import { Player } from "../../look/Player"
import { To } from "../../look/Top"
import { moment as when } from "../../look/words"
import { Bringing } from "./Bringing"
import { KEYS } from "./keys"
import { Languages } from "./Languages"
import { savingWords, type Beside as Written } from "./useCaptions"
import type { Playing } from "./usePlayer"

interface Props {
  item: ItemOut
  all: CaptionsBrief[]
  current: number | null
  page: number | null
  gone: number | null
  written: Written
  /** Is given the player. */
  of: Playing["of"]
  /** What is said just now, where there is no picture on which it could stand. */
  said: string
  editable: boolean
  onGone(captions: number | null): void
  onChoose(captions: number): void
}

export const Side = memo(function Side(props: Props) {
  const { item, all, current, page, gone, written, of, said, editable, onGone, onChoose } = props
  const { brief } = written
  const queries = useQueryClient()
  const bringBack = async () => {
    if (gone === null) return
    const params = { path: { captions_id: gone } }
    const back = await ask(client.POST("/api/captions/{captions_id}/back", { params }))
    onGone(null)
    onChoose(back.id)
    await forget(queries, [answers.captions(item.id)])
  }
  return (
    <Stack
      as="section"
      aria-label={t`The film`}
      w={{ base: "full", lg: "26rem" }}
      flexShrink="0"
      gap="3"
      px="4"
      py="3"
      overflowY="auto"
    >
      <Box position={{ lg: "sticky" }} top="0" zIndex="1" bg="ground">
        <Player item={item} of={of} most="16rem" captioned={false} />
      </Box>
      {item.kind === "sound" && (
        <Text minH="3em" fontSize="md" bg="lit" px="2" whiteSpace="pre-line">
          {said}
        </Text>
      )}
      {all.length === 0 && (
        <Text fontSize="sm">
          <Trans>
            There are no captions yet. Say in which language they will be; then write them beside the film,
            bring in a file, or have plain words spread over what is heard.
          </Trans>
        </Text>
      )}
      <Languages
        item={item.id}
        language={item.language || "en"}
        all={all}
        current={current}
        editable
        onChoose={onChoose}
        onBegun={(captions) => {
          onChoose(captions)
          void forget(queries, [answers.captions(item.id)])
        }}
      />
      {gone !== null && (
        <HStack role="status" fontSize="sm">
          <Text>
            <Trans>The captions were taken away, from readers too.</Trans>
          </Text>
          <Button size="xs" variant="outline" onClick={() => void bringBack()}>
            <Trans>Bring them back</Trans>
          </Button>
        </HStack>
      )}
      {brief && <Handing item={item} brief={brief} written={written} editable={editable} onGone={onGone} />}
      {page !== null && (
        <Text fontSize="sm">
          <To to={`/pages/${page}`}>
            <Trans>Back to the page</Trans>
          </To>
        </Text>
      )}
    </Stack>
  )
})

interface HandingProps {
  item: ItemOut
  brief: CaptionsBrief
  written: Written
  editable: boolean
  onGone(captions: number | null): void
}

/** How safe the words are, who has them, and how they come in and go out. */
function Handing({ item, brief, written, editable, onGone }: HandingProps) {
  const { cues, drafted } = written.history.now
  const queries = useQueryClient()
  const params = { path: { captions_id: brief.id } }
  const afterChange = async (done: CaptionsBrief) => {
    written.setBrief(done)
    await forget(queries, [answers.captions(item.id), ...after.library])
  }
  const run = async (job: () => Promise<CaptionsBrief>, said: string) => {
    if (!(await written.flush())) return
    try {
      await afterChange(await job())
      say(said)
    } catch (error) {
      say((error as Error).message)
    }
  }
  const takeAway = async () => {
    if (!(await written.flush())) return
    await ask(client.DELETE("/api/captions/{captions_id}", { params }))
    // The way back is offered once what stands in their place is there: a press of it would be lost in the change.
    await forget(queries, [answers.captions(item.id), ...after.library])
    onGone(brief.id)
  }
  return (
    <>
      <State written={written} />
      <chakra.label display="flex" gap="2" alignItems="baseline" fontSize="sm">
        <input
          type="checkbox"
          checked={!drafted && !brief.earlier_file}
          disabled={!cues.length}
          onChange={(event) => {
            written.do({ sort: "change", now: { drafted: !event.target.checked } })
          }}
        />
        <Trans>Checked against the film by somebody who heard it</Trans>
      </chakra.label>
      <HStack gap="2" flexWrap="wrap">
        <Button
          size="sm"
          disabled={!cues.length}
          onClick={() =>
            void run(
              () => ask(client.POST("/api/captions/{captions_id}/readers", { params })),
              t`Readers have these captions now.`,
            )
          }
        >
          <Trans>Give these to readers</Trans>
        </Button>
        {brief.given && (
          <Button
            size="sm"
            variant="outline"
            onClick={() =>
              void run(
                () => ask(client.DELETE("/api/captions/{captions_id}/readers", { params })),
                t`Readers have these captions no more.`,
              )
            }
          >
            <Trans>Take them from readers</Trans>
          </Button>
        )}
      </HStack>
      {/* Whether a draft is offered at once is known when the cues are. */}
      {written.history.count > 0 && (
        <Bringing
          brief={brief}
          cues={cues}
          editable={editable}
          onCues={(next, draft) => written.do({ sort: "change", now: { cues: next, at: 0, drafted: draft } })}
          flush={written.flush}
        />
      )}
      <KeyList />
      <Button size="xs" variant="ghost" alignSelf="flex-start" onClick={() => void takeAway()}>
        <Trans>Take these captions away</Trans>
      </Button>
    </>
  )
}

function KeyList() {
  return (
    <Folded label={t`Keys`}>
      <chakra.dl display="grid" gridTemplateColumns="auto 1fr" columnGap="3" rowGap="1" fontSize="sm">
        {KEYS.map(({ act, chord, name }) => (
          <chakra.div key={act} display="contents">
            <dt>
              <kbd>{shownChord(chord)}</kbd>
            </dt>
            <dd>{name}</dd>
          </chakra.div>
        ))}
      </chakra.dl>
    </Folded>
  )
}

/** How safe the words are, and what readers have. */
function State({ written }: { written: Written }) {
  const { brief, saving, problem } = written
  if (!brief) return null
  const readers = !brief.given
    ? t`Readers do not have them yet.`
    : brief.differs
      ? t`Readers have what was given them on ${when(brief.given_at ?? "")}; it differs from this.`
      : t`Readers have just this.`
  return (
    <Stack gap="1" fontSize="sm">
      <Text role="status">
        {savingWords(saving)}
        {saving !== "saved" && problem && ` ${problem}`} · {readers}
      </Text>
      {brief.earlier_file && (
        <Text color="waits">
          <Trans>The film has been replaced since these were checked. See whether they still fit.</Trans>
        </Text>
      )}
      {saving === "clash" && (
        <HStack>
          <Button size="xs" variant="outline" onClick={() => written.settle(true)}>
            <Trans>Keep mine</Trans>
          </Button>
          <Button size="xs" variant="outline" onClick={() => written.settle(false)}>
            <Trans>Take theirs</Trans>
          </Button>
        </HStack>
      )}
    </Stack>
  )
}

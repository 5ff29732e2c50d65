/** The acts of the caption editor by press, and how much there is to mend. */
import { Button, HStack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { memo } from "react"
import type { CaptionNote } from "../../api/client"
import { shownChord } from "../../editor/chords"
import { Toolbar } from "../../look/Toolbar"
import { type CaptionAct, chordFor } from "./keys"

interface ToolsProps {
  acts: Record<CaptionAct, () => void>
  playing: boolean
  editable: boolean
  /** How many cues there are, and whether another stands behind the one that is meant. */
  count: number
  more: boolean
  undoes: boolean
  redoes: boolean
}

/** The same acts by press; each tells its key. */
export const Tools = memo(function Tools(props: ToolsProps) {
  const { acts, playing, editable, count, more, undoes, redoes } = props
  const some = editable && count > 0
  const tools: [CaptionAct, string, boolean][] = [
    ["play", playing ? t`Stop` : t`Play`, true],
    ["back", t`2 s back`, true],
    ["begin", t`Begins here`, some],
    ["end", t`Ends here`, some],
    ["split", t`Split`, some],
    ["join", t`Join with next`, some && more],
    ["add", t`New cue here`, editable],
    ["remove", t`Take away`, some],
    ["undo", t`Undo`, undoes],
    ["redo", t`Redo`, redoes],
  ]
  return (
    <Toolbar
      aria-label={t`Cues and film`}
      px="3"
      py="1"
      borderBottomWidth="1px"
      borderColor="line"
      flexShrink="0"
    >
      {tools.map(([act, name, possible]) => (
        <Button
          key={act}
          size="xs"
          variant="ghost"
          title={shownChord(chordFor(act))}
          disabled={!possible}
          // The caret stays in the words: a cue is split where it is.
          onMouseDown={(event) => event.preventDefault()}
          onClick={acts[act]}
        >
          {name}
        </Button>
      ))}
    </Toolbar>
  )
})

interface NotesProps {
  notes: CaptionNote[]
  total: number
  of: number
  onMendAll(): Promise<void>
  onFirst(note: CaptionNote): void
}

/** How much there is to mend. */
export function Notes({ notes, total, of, onMendAll, onFirst }: NotesProps) {
  const first = notes[0]
  const words = total
    ? plural(total, { one: "# thing to look at", other: "# things to look at" })
    : of
      ? t`Nothing to mend`
      : t`No cue yet. Play the film and press “New cue here” where somebody begins to speak, or draft them.`
  return (
    <HStack px="4" py="1" gap="2" fontSize="sm" borderBottomWidth="1px" borderColor="line" flexShrink="0">
      <Text role="status">{words}</Text>
      {first && of > 0 && (
        <Button size="xs" variant="ghost" onClick={() => onFirst(first)}>
          <Trans>Go to the first</Trans>
        </Button>
      )}
      {notes.some(({ repair }) => repair) && (
        <Button size="xs" variant="outline" onClick={() => void onMendAll()}>
          <Trans>Mend all that can be</Trans>
        </Button>
      )}
    </HStack>
  )
}

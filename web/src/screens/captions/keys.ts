/** What can be done while captions are written, with the key for each. */
import { t } from "@lingui/core/macro"

export type CaptionAct =
  | "play"
  | "back"
  | "begin"
  | "end"
  | "split"
  | "join"
  | "next"
  | "previous"
  | "add"
  | "remove"
  | "undo"
  | "redo"

interface KeyOf {
  act: CaptionAct
  chord: string
  name: string
}

export const KEYS: readonly KeyOf[] = [
  { act: "play", chord: "Mod+.", name: t`Play, or stop` },
  { act: "back", chord: "Mod+,", name: t`Back two seconds` },
  { act: "begin", chord: "Mod+B", name: t`This cue begins here` },
  { act: "end", chord: "Mod+E", name: t`This cue ends here` },
  { act: "split", chord: "Mod+Enter", name: t`Split the cue at the caret` },
  { act: "join", chord: "Mod+J", name: t`Join it with the next` },
  { act: "next", chord: "Mod+ArrowDown", name: t`To the next cue` },
  { act: "previous", chord: "Mod+ArrowUp", name: t`To the cue before` },
  { act: "add", chord: "Mod+Shift+Enter", name: t`A new cue here` },
  { act: "remove", chord: "Mod+Shift+Backspace", name: t`Take the cue away` },
  { act: "undo", chord: "Mod+Z", name: t`Undo` },
  { act: "redo", chord: "Mod+Shift+Z", name: t`Redo` },
]

const BY_CHORD = new Map(KEYS.map(({ chord, act }) => [chord, act]))
BY_CHORD.set("Mod+Y", "redo")

export const actOf = (chord: string | null): CaptionAct | undefined =>
  chord === null ? undefined : BY_CHORD.get(chord)
export const chordFor = (act: CaptionAct): string => KEYS.find((each) => each.act === act)?.chord ?? ""

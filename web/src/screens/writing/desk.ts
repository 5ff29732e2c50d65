/** What can be done in the writing view beside changing the text: each act with its name, and what it is found by. */
import { t } from "@lingui/core/macro"
import { EXPORTS } from "../../document/exports"
import type { Width } from "./SheetFrame"

/** Everything the desk can be asked for, by a key, a button or the name of an act. */
export interface Desk {
  save(): void
  publish(): void
  unpublish(): void
  link(): void
  shelf(): void
  particulars(): void
  versions(): void
  outline(): void
  notes(): void
  note(by: 1 | -1): void
  listening(): void
  plainWords(): void
  source(): void
  find(): void
  keys(): void
  help(): void
  part(by: 1 | -1): void
  width(width: Width): void
  export(ending: string): void
  go(path: string): void
}

export interface DeskAct {
  id: string
  name: string
  also?: string
  keys?: string
  /** Whether it changes something, and is offered to those alone who may write. */
  writes?: true
  run(desk: Desk): void
}

const WIDTHS: [Width, string][] = [
  ["fit", t`As wide as here`],
  [390, t`Phone`],
  [820, t`Tablet`],
  [1280, t`Desktop`],
]

export const DESK_ACTS: readonly DeskAct[] = [
  {
    id: "shelf",
    name: t`To the Shelf`,
    also: t`insert bring in find do act command`,
    keys: "Mod+Enter",
    run: (d) => d.shelf(),
  },
  {
    id: "link",
    name: t`Link`,
    also: t`hyperlink address url`,
    keys: "Mod+K",
    writes: true,
    run: (d) => d.link(),
  },
  {
    id: "find",
    name: t`Find and replace`,
    also: t`search words on the page`,
    keys: "Mod+F",
    run: (d) => d.find(),
  },
  { id: "save", name: t`Save now`, keys: "Mod+S", writes: true, run: (d) => d.save() },
  { id: "publish", name: t`Publish`, also: t`go live release`, writes: true, run: (d) => d.publish() },
  {
    id: "unpublish",
    name: t`Unpublish`,
    also: t`take down offline`,
    writes: true,
    run: (d) => d.unpublish(),
  },
  {
    id: "particulars",
    name: t`To the particulars of what is at the caret`,
    also: t`properties alt text caption description settings`,
    keys: "F2",
    run: (d) => d.particulars(),
  },
  { id: "outline", name: t`To the Outline`, also: t`headings sections`, run: (d) => d.outline() },
  { id: "notes", name: t`To the Notes`, also: t`findings check accessibility`, run: (d) => d.notes() },
  {
    id: "next-note",
    name: t`To the next note`,
    also: t`finding problem check`,
    keys: "F8",
    run: (d) => d.note(1),
  },
  {
    id: "note-before",
    name: t`To the note before`,
    also: t`finding problem previous`,
    keys: "Shift+F8",
    run: (d) => d.note(-1),
  },
  {
    id: "listening",
    name: t`To Listening`,
    also: t`screen reader hear speak aloud`,
    run: (d) => d.listening(),
  },
  {
    id: "versions",
    name: t`To the versions of the page`,
    also: t`history restore earlier`,
    run: (d) => d.versions(),
  },
  {
    id: "plain-words",
    name: t`Right after a paste: its plain words instead`,
    also: t`paste without formatting`,
    writes: true,
    run: (d) => d.plainWords(),
  },
  {
    id: "source",
    name: t`To the source of the page`,
    also: t`html code`,
    writes: true,
    run: (d) => d.source(),
  },
  ...WIDTHS.map(
    ([width, name]): DeskAct => ({
      id: `width-${width}`,
      name: t`Show at the width of: ${name}`,
      also: t`reading width view screen mobile`,
      run: (d) => d.width(width),
    }),
  ),
  ...EXPORTS.map(
    ([ending, name]): DeskAct => ({
      id: `export-${ending}`,
      name: t`Export as ${name}`,
      also: t`download save file word`,
      run: (d) => d.export(ending),
    }),
  ),
  {
    id: "next-part",
    name: t`To the next part of the screen`,
    keys: "F6",
    run: (d) => d.part(1),
  },
  {
    id: "part-before",
    name: t`To the part of the screen before`,
    keys: "Shift+F6",
    run: (d) => d.part(-1),
  },
  { id: "keys", name: t`Keys`, also: t`shortcuts chords keyboard`, run: (d) => d.keys() },
  { id: "help", name: t`Help`, also: t`first steps how`, keys: "F1", run: (d) => d.help() },
  { id: "contents", name: t`To the Contents`, also: t`pages site tree`, run: (d) => d.go("/") },
  { id: "library", name: t`To the media library`, also: t`pictures files`, run: (d) => d.go("/library") },
  { id: "account", name: t`To your account`, also: t`password`, run: (d) => d.go("/account") },
]

export { WIDTHS }

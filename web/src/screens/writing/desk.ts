/** What can be done in the writing view beside changing the text: each act with its name, and what it is found by. */
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
  ["fit", "As wide as here"],
  [390, "Phone"],
  [820, "Tablet"],
  [1280, "Desktop"],
]

export const DESK_ACTS: readonly DeskAct[] = [
  {
    id: "shelf",
    name: "To the Shelf",
    also: "insert bring in find do act command",
    keys: "Mod+Enter",
    run: (d) => d.shelf(),
  },
  {
    id: "link",
    name: "Link",
    also: "hyperlink address url",
    keys: "Mod+K",
    writes: true,
    run: (d) => d.link(),
  },
  {
    id: "find",
    name: "Find and replace",
    also: "search words on the page",
    keys: "Mod+F",
    run: (d) => d.find(),
  },
  { id: "save", name: "Save now", keys: "Mod+S", writes: true, run: (d) => d.save() },
  { id: "publish", name: "Publish", also: "go live release", writes: true, run: (d) => d.publish() },
  {
    id: "unpublish",
    name: "Unpublish",
    also: "take down offline",
    writes: true,
    run: (d) => d.unpublish(),
  },
  {
    id: "particulars",
    name: "To the particulars of what is at the caret",
    also: "properties alt text caption description settings",
    keys: "F2",
    run: (d) => d.particulars(),
  },
  { id: "outline", name: "To the Outline", also: "headings sections", run: (d) => d.outline() },
  { id: "notes", name: "To the Notes", also: "findings check accessibility", run: (d) => d.notes() },
  {
    id: "next-note",
    name: "To the next note",
    also: "finding problem check",
    keys: "F8",
    run: (d) => d.note(1),
  },
  {
    id: "note-before",
    name: "To the note before",
    also: "finding problem previous",
    keys: "Shift+F8",
    run: (d) => d.note(-1),
  },
  {
    id: "listening",
    name: "To Listening",
    also: "screen reader hear speak aloud",
    run: (d) => d.listening(),
  },
  {
    id: "versions",
    name: "To the versions of the page",
    also: "history restore earlier",
    run: (d) => d.versions(),
  },
  {
    id: "plain-words",
    name: "Right after a paste: its plain words instead",
    also: "paste without formatting",
    writes: true,
    run: (d) => d.plainWords(),
  },
  {
    id: "source",
    name: "To the source of the page",
    also: "html code",
    writes: true,
    run: (d) => d.source(),
  },
  ...WIDTHS.map(
    ([width, name]): DeskAct => ({
      id: `width-${width}`,
      name: `Show at the width of: ${name}`,
      also: "reading width view screen mobile",
      run: (d) => d.width(width),
    }),
  ),
  ...EXPORTS.map(
    ([ending, name]): DeskAct => ({
      id: `export-${ending}`,
      name: `Export as ${name}`,
      also: "download save file word",
      run: (d) => d.export(ending),
    }),
  ),
  {
    id: "next-part",
    name: "To the next part of the screen",
    keys: "F6",
    run: (d) => d.part(1),
  },
  {
    id: "part-before",
    name: "To the part of the screen before",
    keys: "Shift+F6",
    run: (d) => d.part(-1),
  },
  { id: "keys", name: "Keys", also: "shortcuts chords keyboard", run: (d) => d.keys() },
  { id: "help", name: "Help", also: "first steps how", keys: "F1", run: (d) => d.help() },
  { id: "contents", name: "To the Contents", also: "pages site tree", run: (d) => d.go("/") },
  { id: "library", name: "To the media library", also: "pictures files", run: (d) => d.go("/library") },
  { id: "account", name: "To your account", also: "password", run: (d) => d.go("/account") },
]

export { WIDTHS }

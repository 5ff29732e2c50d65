/**
 * What can be done to the text, each with its name: the Shelf's field finds it by that, and by the words that stand
 * beside it. Few have keys.
 */
import { redo, undo } from "prosemirror-history"
import type { Command } from "prosemirror-state"
import { ASIDES } from "../document/rules"
import { toggleAside, toggleQuotation } from "./blocks"
import {
  clearFormatting,
  insertLineBreak,
  kinds,
  markKinds,
  setLevel,
  toggle,
  toggleEmphasis,
  toggleList,
  togglePreformatted,
  toggleStrong,
} from "./commands"
import { ALIGNS, setAlign } from "./setting"
import { deleteTable, headerColumn, headerRow, TABLE_ACTS } from "./tables"

export interface TextAct {
  id: string
  name: string
  /** What it is called in the Shelf, where something of the same name can be brought in too. */
  inShelf?: string
  /** Other words that somebody may look for it by. */
  also?: string
  /** The chord that does it, until somebody chooses another. */
  keys?: string
  command: Command
  /** Whether the chord does it wherever one is, and not in the text alone. */
  everywhere?: boolean
}

const LEVELS = [2, 3, 4, 5, 6]

export const TEXT_ACTS: readonly TextAct[] = [
  { id: "level-0", name: "Running text", also: "paragraph plain level 0 body", command: setLevel(0) },
  ...LEVELS.map((level) => ({
    id: `level-${level}`,
    name: `Heading of level ${level}`,
    also: `h${level} title subheading section`,
    command: setLevel(level),
  })),
  {
    id: "bulleted",
    name: "Bulleted list",
    also: "bullets unordered points off",
    command: toggleList(kinds.bulleted_list),
  },
  {
    id: "numbered",
    name: "Numbered list",
    also: "numbers ordered steps off",
    command: toggleList(kinds.numbered_list),
  },
  { id: "strong", name: "Strong", also: "bold", keys: "Mod+B", command: toggleStrong },
  { id: "emphasis", name: "Emphasis", also: "italic", keys: "Mod+I", command: toggleEmphasis },
  { id: "underline", name: "Underline", keys: "Mod+U", command: toggle(markKinds.underline) },
  { id: "strike", name: "Strike", also: "crossed out struck through", command: toggle(markKinds.strike) },
  { id: "superscript", name: "Superscript", also: "raised above", command: toggle(markKinds.superscript) },
  { id: "subscript", name: "Subscript", also: "lowered below", command: toggle(markKinds.subscript) },
  { id: "code", name: "Code", also: "monospace", command: toggle(markKinds.code) },
  { id: "plain", name: "No formatting", also: "clear remove reset", command: clearFormatting },
  {
    id: "quotation",
    name: "Quotation",
    inShelf: "This paragraph as a quotation",
    also: "quote off",
    command: toggleQuotation,
  },
  ...Object.entries(ASIDES).map(([sort, label]) => ({
    id: `aside-${sort}`,
    name: `Aside: ${label.toLowerCase()}`,
    inShelf: `This paragraph as an aside: ${label.toLowerCase()}`,
    also: "box callout off",
    command: toggleAside(sort),
  })),
  {
    id: "preformatted",
    name: "Preformatted",
    inShelf: "This paragraph as preformatted text",
    also: "code block monospace off",
    command: togglePreformatted,
  },
  ...ALIGNS.map(([align, name]) => ({
    id: `align-${align ?? "start"}`,
    name: `Align ${name}`,
    also: `${align === "centre" ? "center middle" : align === "end" ? "right" : "left"} alignment`,
    command: setAlign(align),
  })),
  { id: "line", name: "New line in the same paragraph", also: "break", command: insertLineBreak },
  { id: "header-row", name: "Table: first row as headers", also: "header", command: headerRow },
  { id: "header-column", name: "Table: first column as headers", also: "header", command: headerColumn },
  ...TABLE_ACTS.flatMap(({ group, acts }) =>
    acts.map(({ name, command }) => ({
      id: `table-${name.toLowerCase().replaceAll(" ", "-")}`,
      name: `Table: ${name[0]?.toLowerCase()}${name.slice(1)}`,
      also: `${group.toLowerCase()} insert delete join unmerge`,
      command,
    })),
  ),
  { id: "table-remove", name: "Table: remove it", also: "delete", command: deleteTable },
  { id: "undo", name: "Undo", also: "back", keys: "Mod+Z", command: undo, everywhere: true },
  { id: "redo", name: "Redo", also: "again", keys: "Mod+Y", command: redo, everywhere: true },
]

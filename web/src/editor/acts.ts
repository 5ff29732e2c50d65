/**
 * What can be done to the text, each with its name: the Shelf's field finds it by that, and by the words that stand
 * beside it. Few have keys.
 */
import { t } from "@lingui/core/macro"
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
  { id: "level-0", name: t`Running text`, also: t`paragraph plain level 0 body`, command: setLevel(0) },
  ...LEVELS.map((level) => ({
    id: `level-${level}`,
    name: t`Heading of level ${level}`,
    also: t`h${level} title subheading section`,
    command: setLevel(level),
  })),
  {
    id: "bulleted",
    name: t`Bulleted list`,
    also: t`bullets unordered points off`,
    command: toggleList(kinds.bulleted_list),
  },
  {
    id: "numbered",
    name: t`Numbered list`,
    also: t`numbers ordered steps off`,
    command: toggleList(kinds.numbered_list),
  },
  { id: "strong", name: t`Strong`, also: t`bold`, keys: "Mod+B", command: toggleStrong },
  { id: "emphasis", name: t`Emphasis`, also: t`italic`, keys: "Mod+I", command: toggleEmphasis },
  { id: "underline", name: t`Underline`, keys: "Mod+U", command: toggle(markKinds.underline) },
  { id: "strike", name: t`Strike`, also: t`crossed out struck through`, command: toggle(markKinds.strike) },
  { id: "superscript", name: t`Superscript`, also: t`raised above`, command: toggle(markKinds.superscript) },
  { id: "subscript", name: t`Subscript`, also: t`lowered below`, command: toggle(markKinds.subscript) },
  { id: "code", name: t`Code`, also: t`monospace`, command: toggle(markKinds.code) },
  { id: "plain", name: t`No formatting`, also: t`clear remove reset`, command: clearFormatting },
  {
    id: "quotation",
    name: t`Quotation`,
    inShelf: t`This paragraph as a quotation`,
    also: t`quote off`,
    command: toggleQuotation,
  },
  ...Object.entries(ASIDES).map(([sort, label]) => ({
    id: `aside-${sort}`,
    name: t`Aside: ${label.toLowerCase()}`,
    inShelf: t`This paragraph as an aside: ${label.toLowerCase()}`,
    also: t`box callout off`,
    command: toggleAside(sort),
  })),
  {
    id: "preformatted",
    name: t`Preformatted`,
    inShelf: t`This paragraph as preformatted text`,
    also: t`code block monospace off`,
    command: togglePreformatted,
  },
  ...ALIGNS.map(([align, name]) => ({
    id: `align-${align ?? "start"}`,
    name: t`Align ${name}`,
    also: t`${align === "centre" ? t`center middle` : align === "end" ? "right" : "left"} alignment`,
    command: setAlign(align),
  })),
  { id: "line", name: t`New line in the same paragraph`, also: t`break`, command: insertLineBreak },
  { id: "header-row", name: t`Table: first row as headers`, also: t`header`, command: headerRow },
  { id: "header-column", name: t`Table: first column as headers`, also: t`header`, command: headerColumn },
  ...TABLE_ACTS.flatMap(({ group, acts }) =>
    acts.map(({ id, name, command }) => ({
      id,
      name: t`Table: ${`${name.charAt(0).toLowerCase()}${name.slice(1)}`}`,
      also: t`${group.toLowerCase()} insert delete join unmerge`,
      command,
    })),
  ),
  { id: "table-remove", name: t`Table: remove it`, also: t`delete`, command: deleteTable },
  { id: "undo", name: t`Undo`, also: t`back`, keys: "Mod+Z", command: undo, everywhere: true },
  { id: "redo", name: t`Redo`, also: t`again`, keys: "Mod+Y", command: redo, everywhere: true },
]

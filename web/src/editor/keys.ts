/** Every key of the writing view, once: what binds them and what the panel of keys shows. */
import { baseKeymap, chainCommands } from "prosemirror-commands"
import { redo, undo } from "prosemirror-history"
import { inputRules, undoInputRule, wrappingInputRule } from "prosemirror-inputrules"
import { keymap } from "prosemirror-keymap"
import { liftListItem, sinkListItem, splitListItem } from "prosemirror-schema-list"
import type { Command, Plugin } from "prosemirror-state"
import { addColumnAfter, addRowAfter } from "prosemirror-tables"
import {
  backspaceInLine,
  backspaceUnwraps,
  enterInLine,
  enterLeaves,
  toggleAside,
  toggleQuotation,
} from "./blocks"
import {
  clearFormatting,
  enterInPreformatted,
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
import { nextCell, previousCell, tablePlugins } from "./tables"

/** What keys do outside the text itself; the writing view hands these in. */
export interface Wishes {
  save(): void
  link(): void
  shelf(): void
  particulars(): void
  versions(): void
  outline(): void
  notes(): void
  nextNote(): void
  listening(): void
  plainWords(): void
  source(): void
  keys(): void
}

export interface KeyLine {
  keys: string
  does: string
  command?: Command
  /** Also in the title. */
  everywhere?: boolean
  wish?: keyof Wishes
}

/** Alt+Shift is left free by browsers and screen readers for these letters and digits. */
export const KEYS: KeyLine[] = [
  { keys: "Ctrl+B", does: "Strong", command: toggleStrong },
  { keys: "Ctrl+I", does: "Emphasis", command: toggleEmphasis },
  { keys: "Ctrl+K", does: "Link", wish: "link" },
  { keys: "Ctrl+Z", does: "Undo", command: undo, everywhere: true },
  { keys: "Ctrl+Y", does: "Redo", command: redo, everywhere: true },
  { keys: "Ctrl+S", does: "Save now", wish: "save" },
  { keys: "Alt+Shift+0", does: "Running text", command: setLevel(0) },
  ...[2, 3, 4, 5, 6].map((level) => ({
    keys: `Alt+Shift+${level}`,
    does: `Heading of level ${level}`,
    command: setLevel(level),
  })),
  { keys: "Alt+Shift+U", does: "Bulleted list, and back", command: toggleList(kinds.bulleted_list) },
  { keys: "Alt+Shift+N", does: "Numbered list, and back", command: toggleList(kinds.numbered_list) },
  { keys: "Alt+Shift+P", does: "Preformatted text, and back", command: togglePreformatted },
  { keys: "Alt+Shift+Q", does: "Quotation, and back", command: toggleQuotation },
  { keys: "Alt+Shift+H", does: "Aside, and back", command: toggleAside("note") },
  { keys: "Alt+Shift+R", does: "In a table: a row below", command: addRowAfter },
  { keys: "Alt+Shift+C", does: "In a table: a column after", command: addColumnAfter },
  { keys: "Alt+Shift+X", does: "No formatting", command: clearFormatting },
  { keys: "Ctrl+U", does: "Underline", command: toggle(markKinds.underline) },
  {
    keys: "Tab",
    does: "In a list: one level deeper; in a table: the next cell",
    command: chainCommands(sinkListItem(kinds.list_item), nextCell),
  },
  {
    keys: "Shift+Tab",
    does: "In a list: one level up; in a table: the cell before",
    command: chainCommands(liftListItem(kinds.list_item), previousCell),
  },
  { keys: "Shift+Enter", does: "New line in the same paragraph", command: insertLineBreak },
  { keys: "Alt+Shift+S", does: "To the Shelf, to bring something in", wish: "shelf" },
  { keys: "Alt+Shift+D", does: "To the particulars of what is at the caret", wish: "particulars" },
  { keys: "Alt+Shift+V", does: "To the versions of the page", wish: "versions" },
  { keys: "Alt+Shift+O", does: "To the Outline", wish: "outline" },
  { keys: "Alt+Shift+M", does: "To the Notes", wish: "notes" },
  { keys: "Alt+Shift+J", does: "To the next note", wish: "nextNote" },
  { keys: "Alt+Shift+L", does: "To the listening view", wish: "listening" },
  { keys: "Alt+Shift+W", does: "Right after a paste: its plain words instead", wish: "plainWords" },
  { keys: "Alt+Shift+E", does: "To the source of the page, and back", wish: "source" },
  { keys: "Alt+Shift+K", does: "This list of keys", wish: "keys" },
  { keys: "Alt+Up, Alt+Down", does: "In the Outline: move the section" },
  { keys: "Alt+Shift+Up, Alt+Shift+Down", does: "In the Outline: raise or lower it" },
  { keys: "Up, Down", does: "In the listening view: the line before, the next" },
  { keys: "Escape", does: "Back to the text" },
]

/** Ctrl stands for the command key where there is one. With Alt, keyboards type other signs: the key itself counts. */
export function matches(line: KeyLine, event: KeyboardEvent): boolean {
  const parts = line.keys.split("+")
  const wanted = parts.at(-1) ?? ""
  const [ctrl, alt, shift] = ["Ctrl", "Alt", "Shift"].map((name) => parts.includes(name))
  if (ctrl !== (event.ctrlKey || event.metaKey) || alt !== event.altKey || shift !== event.shiftKey)
    return false
  if (!alt) return event.key.toLowerCase() === wanted.toLowerCase()
  return event.code === (/\d/.test(wanted) ? `Digit${wanted}` : `Key${wanted}`)
}

const item = kinds.list_item

export function keyPlugins(): Plugin[] {
  return [
    inputRules({
      rules: [
        wrappingInputRule(/^\s*[-*•]\s$/, kinds.bulleted_list),
        wrappingInputRule(
          /^(\d{1,3})[.)]\s$/,
          kinds.numbered_list,
          (match) => ({ start: Number(match[1]) }),
          (match, before) => before.childCount + before.attrs.start === Number(match[1]),
        ),
      ],
    }),
    keymap({
      Enter: chainCommands(
        enterInPreformatted,
        enterInLine,
        enterLeaves,
        splitListItem(item, { anchor: null }),
      ),
      Backspace: undoInputRule,
      "Mod-Shift-z": redo,
    }),
    keymap({
      ...baseKeymap,
      Backspace: chainCommands(
        liftAtStart,
        backspaceInLine,
        backspaceUnwraps,
        baseKeymap.Backspace as Command,
      ),
    }),
    ...tablePlugins(),
  ]
}

/** Backspace at the very start of a list item lifts it, as in every word processor. */
const liftAtStart: Command = (state, dispatch, view) => {
  const { $from, empty } = state.selection
  if (!empty || $from.parentOffset > 0 || $from.depth < 2 || $from.index(-1) > 0) return false
  if ($from.node(-1).type !== item || $from.index(-2) > 0) return false
  return liftListItem(item)(state, dispatch, view)
}

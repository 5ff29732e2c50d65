/** What keys do while writing: Enter, Tab, Backspace, and lists begun with a sign. Chords are those of acts. */
import { baseKeymap, chainCommands } from "prosemirror-commands"
import { inputRules, undoInputRule, wrappingInputRule } from "prosemirror-inputrules"
import { keymap } from "prosemirror-keymap"
import { liftListItem, sinkListItem, splitListItem } from "prosemirror-schema-list"
import { type Command, Plugin } from "prosemirror-state"
import type { EditorView } from "prosemirror-view"
import { backspaceInLine, backspaceUnwraps, enterInLine, enterLeaves } from "./blocks"
import { besideWhole } from "./bringing"
import { enterInPreformatted, insertLineBreak, kinds } from "./commands"
import { nextCell, previousCell, tablePlugins } from "./tables"

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
      Tab: chainCommands(sinkListItem(item), nextCell),
      "Shift-Tab": chainCommands(liftListItem(item), previousCell),
      "Shift-Enter": insertLineBreak,
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
    typingBesideWhole,
  ]
}

/** Words that come from anything but a key go the same way: an input method, dictation, a table of signs. */
const typingBesideWhole = new Plugin({
  props: {
    handleTextInput: (view, _from, _to, text) => typeBeside(view, text),
    handleDOMEvents: {
      compositionstart: (view) => {
        typeBeside(view, "")
        return false
      },
      beforeinput: (view, event) => {
        const { inputType, data } = event as InputEvent
        if (inputType !== "insertText" || !data || !typeBeside(view, data)) return false
        event.preventDefault()
        return true
      },
    },
  },
})

function typeBeside(view: EditorView, text: string): boolean {
  const tr = besideWhole(view.state)
  if (tr) view.dispatch(text ? tr.insertText(text) : tr)
  return tr !== null
}

/** Backspace at the very start of a list item lifts it, as in every word processor. */
const liftAtStart: Command = (state, dispatch, view) => {
  const { $from, empty } = state.selection
  if (!empty || $from.parentOffset > 0 || $from.depth < 2 || $from.index(-1) > 0) return false
  if ($from.node(-1).type !== item || $from.index(-2) > 0) return false
  return liftListItem(item)(state, dispatch, view)
}

/** Doing an act to the text, and saying what it did. */
import { t } from "@lingui/core/macro"
import type { EditorState } from "prosemirror-state"
import type { TextAct } from "../../editor/acts"
import { whatChanged } from "../../editor/changed"
import type { Sheet } from "../../editor/sheet"
import { say } from "../../look/heard"

const BACK = ["undo", "redo"]

/** Whether it could be done where the caret is. What Undo and Redo did is said; what else is done is seen and heard. */
export function perform(act: TextAct, sheet: Sheet): boolean {
  const before = sheet.state
  const back = BACK.includes(act.id)
  const done = act.command(before, (tr) => (back ? sheet.dispatch(tr) : sheet.step(tr)), sheet.view)
  if (back) say(done ? `${act.name}: ${whatChanged(before.doc, sheet.state.doc)}` : t`Nothing to ${act.id}`)
  return done
}

/** Whether an act is possible where the caret is. */
export const possible = (act: TextAct, state: EditorState): boolean => act.command(state)

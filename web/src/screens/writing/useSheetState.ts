import { EditorState } from "prosemirror-state"
import { useSyncExternalStore } from "react"
import { schema } from "../../editor/schema"
import type { Sheet } from "../../editor/sheet"

const nothing = EditorState.create({ schema })
const never = () => () => {}

/** The editor's state, anew after every change, and a moment after the last key of typing; an empty one until the sheet is there. */
export function useSheetState(sheet: Sheet | null): EditorState {
  return useSyncExternalStore(sheet?.watchCalmly ?? never, () => sheet?.state ?? nothing)
}

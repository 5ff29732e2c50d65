import { EditorState } from "prosemirror-state"
import { useRef, useSyncExternalStore } from "react"
import { schema } from "../../editor/schema"
import type { Sheet } from "../../editor/sheet"

const nothing = EditorState.create({ schema })
const never = () => () => {}

/** The editor's state, anew after every change, and a moment after the last key of typing; an empty one until the sheet is there. */
export function useSheetState(sheet: Sheet | null): EditorState {
  return useSyncExternalStore(sheet?.watchCalmly ?? never, () => sheet?.state ?? nothing)
}

/**
 * What `of` reads of the editor's state. It stays the same object as long as it says the same: who reads only what is
 * needed is not drawn anew when the caret moves or somebody types elsewhere.
 */
export function useOfSheet<T>(sheet: Sheet | null, of: (state: EditorState) => T): T {
  const kept = useRef<{ state: EditorState; of: typeof of; value: T } | null>(null)
  return useSyncExternalStore(sheet?.watchCalmly ?? never, () => {
    const state = sheet?.state ?? nothing
    const last = kept.current
    if (last?.state === state && last.of === of) return last.value
    const value = of(state)
    const shown = last && same(last.value, value) ? last.value : value
    kept.current = { state, of, value: shown }
    return shown
  })
}

/** Whether two values say the same: the parts of lists and plain objects one by one, anything else by identity. */
function same(one: unknown, other: unknown): boolean {
  if (Object.is(one, other)) return true
  if (Array.isArray(one) && Array.isArray(other))
    return one.length === other.length && one.every((each, index) => same(each, other[index]))
  if (!isPlain(one) || !isPlain(other)) return false
  const names = Object.keys(one)
  return names.length === Object.keys(other).length && names.every((name) => same(one[name], other[name]))
}

const isPlain = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && Object.getPrototypeOf(value) === Object.prototype

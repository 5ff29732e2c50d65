/** The keys of the writing view: in the text, around it, and in the frame of the sheet. */
import { useEffect, useMemo, useRef } from "react"
import { chordOf } from "../../editor/chords"
import type { Sheet } from "../../editor/sheet"
import { useChoice } from "../../look/choices"
import { bindings } from "./bindings"
import type { Desk } from "./desk"
import { perform } from "./performing"

/** Whether words are typed into an element, so that Undo is a matter of its own there. */
const isField = (element: Element) =>
  Boolean(
    element.closest?.(
      "textarea, input:not([type=checkbox], [type=radio], [type=range], [type=file]), .cm-editor",
    ),
  )

export type OnKey = (event: KeyboardEvent, sheet: Sheet | null) => boolean

export function useKeys(sheet: Sheet | null, desk: Desk): OnKey {
  const [own] = useChoice("keys")
  const bound = useMemo(() => bindings(own ?? {}), [own])
  /** The field in which something was typed since it was gone to. */
  const typedIn = useRef<EventTarget | null>(null)

  const onKey: OnKey = (event, on) => {
    if (event.defaultPrevented) return false
    const chord = chordOf(event)
    const act = chord && bound.get(chord)
    if (!act || !on) return false
    if ("run" in act) {
      event.preventDefault()
      // Where the key leads to must show what has just been typed.
      on.tellNow()
      act.run(desk)
      return true
    }
    const inText = on.view.hasFocus()
    if (!inText) {
      const native = isField(event.target as Element) && typedIn.current === event.target
      if (!act.everywhere || native || !on.view.editable) return false
    }
    const done = perform(act, on)
    if (done || !/^Mod\+[A-Z]$/.test(chord)) event.preventDefault()
    return done
  }
  const latest = useRef(onKey)
  latest.current = onKey
  useEffect(() => {
    const key = (event: KeyboardEvent) => void latest.current(event, sheet)
    const came = () => {
      typedIn.current = null
    }
    const typed = ({ target }: Event) => {
      typedIn.current = target
    }
    window.addEventListener("keydown", key)
    window.addEventListener("focusin", came)
    window.addEventListener("input", typed)
    return () => {
      window.removeEventListener("keydown", key)
      window.removeEventListener("focusin", came)
      window.removeEventListener("input", typed)
    }
  }, [sheet])
  return useRef<OnKey>((event, on) => latest.current(event, on)).current
}

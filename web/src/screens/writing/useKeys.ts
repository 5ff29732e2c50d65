/** The keys of the writing view: in the text, around it, and in the frame of the sheet. */
import { useEffect, useMemo, useRef } from "react"
import { chordOf } from "../../editor/chords"
import type { Sheet } from "../../editor/sheet"
import { useChoice } from "../../look/choices"
import { useTypedIn } from "../../look/useTypedIn"
import { bindings } from "./bindings"
import type { Desk } from "./desk"
import { perform } from "./performing"

export type OnKey = (event: KeyboardEvent, sheet: Sheet | null) => boolean

/** `covered`: something else stands over the sheet, which then is not changed by any key. */
export function useKeys(sheet: Sheet | null, desk: Desk, covered: boolean): OnKey {
  const [own] = useChoice("keys")
  const bound = useMemo(() => bindings(own ?? {}), [own])
  const typing = useTypedIn()

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
    if (covered) return false
    const inText = on.view.hasFocus()
    if (!inText) {
      if (!act.everywhere || typing.current(event) || !on.view.editable) return false
    }
    const done = perform(act, on)
    if (done || !/^Mod\+[A-Z]$/.test(chord)) event.preventDefault()
    return done
  }
  const latest = useRef(onKey)
  latest.current = onKey
  useEffect(() => {
    const key = (event: KeyboardEvent) => void latest.current(event, sheet)
    window.addEventListener("keydown", key)
    return () => window.removeEventListener("keydown", key)
  }, [sheet])
  return useRef<OnKey>((event, on) => latest.current(event, on)).current
}

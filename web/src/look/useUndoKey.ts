import { useEffect, useRef } from "react"
import { chordOf } from "../editor/chords"
import { useTypedIn } from "./useTypedIn"

/** Ctrl+Z takes back the last act wherever one is on a screen, but in a field in which something has been typed. */
export function useUndoKey(undo: () => unknown) {
  const latest = useRef(undo)
  latest.current = undo
  const typing = useTypedIn()
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (event.defaultPrevented || chordOf(event) !== "Mod+Z" || typing.current(event)) return
      event.preventDefault()
      latest.current()
    }
    window.addEventListener("keydown", key)
    return () => window.removeEventListener("keydown", key)
  }, [typing])
}

import { type RefObject, useEffect, useRef } from "react"

const FIELD =
  "textarea, input:not([type=checkbox], [type=radio], [type=range], [type=file]), .cm-editor, .cm-editor *"

/** Whether words are typed into an element. */
export const isField = (element: Element) => Boolean(element.matches?.(FIELD))

/**
 * Says of a key whether it belongs to a field of its own: one in which something has been typed since it was gone to.
 * There, Undo takes back what was typed.
 */
export function useTypedIn(): RefObject<(event: KeyboardEvent) => boolean> {
  const typedIn = useRef<EventTarget | null>(null)
  useEffect(() => {
    const came = () => {
      typedIn.current = null
    }
    const typed = ({ target }: Event) => {
      typedIn.current = target
    }
    window.addEventListener("focusin", came)
    window.addEventListener("input", typed)
    return () => {
      window.removeEventListener("focusin", came)
      window.removeEventListener("input", typed)
    }
  }, [])
  return useRef(({ target }) => isField(target as Element) && typedIn.current === target)
}

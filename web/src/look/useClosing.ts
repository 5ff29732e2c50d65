import { useEffect } from "react"

/** Has the browser ask before the window is closed, as long as something would be lost by that. */
export function useClosing(isLost: boolean) {
  useEffect(() => {
    if (!isLost) return
    const warn = (event: BeforeUnloadEvent) => event.preventDefault()
    window.addEventListener("beforeunload", warn)
    return () => window.removeEventListener("beforeunload", warn)
  }, [isLost])
}

import { useEffect } from "react"
import { ask, client } from "../../api/client"
import { withFindings } from "../../editor/findings"
import { textOf } from "../../editor/schema"
import type { Sheet } from "../../editor/sheet"

const PAUSE = 250

/** Has the document checked a moment after each change. While the server is away, the last findings stay. */
export function useChecking(sheet: Sheet | null) {
  useEffect(() => {
    if (!sheet) return
    let timer: number | undefined
    let seen: unknown = null
    let running = false
    const check = async () => {
      if (running) {
        timer = window.setTimeout(check, PAUSE)
        return
      }
      running = true
      const doc = sheet.state.doc
      try {
        const { findings } = await ask(
          client.POST("/api/check", { body: { document: textOf(doc).document } }),
        )
        if (sheet.state.doc === doc) sheet.dispatch(withFindings(sheet.state, doc, findings))
      } catch {
        // Saving tells the author that the server is away; checking goes on after the next change.
      } finally {
        running = false
      }
    }
    const later = () => {
      if (sheet.state.doc === seen) return
      seen = sheet.state.doc
      window.clearTimeout(timer)
      timer = window.setTimeout(check, PAUSE)
    }
    later()
    const stop = sheet.watch(later)
    return () => {
      stop()
      window.clearTimeout(timer)
    }
  }, [sheet])
}

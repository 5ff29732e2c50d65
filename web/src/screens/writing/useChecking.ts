import { useEffect, useState } from "react"
import { ask, client, type Measure } from "../../api/client"
import { withFindings } from "../../editor/findings"
import { textOf } from "../../editor/schema"
import type { Sheet } from "../../editor/sheet"

const PAUSE = 250

/**
 * Has the document checked a moment after each change, and gives what it measures. While the server is away, the last
 * findings stay.
 */
export function useChecking(sheet: Sheet | null): Measure | null {
  const [measure, setMeasure] = useState<Measure | null>(null)
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
        const checked = await ask(client.POST("/api/check", { body: { document: textOf(doc).document } }))
        setMeasure(checked.measure)
        if (sheet.state.doc === doc) sheet.dispatch(withFindings(sheet.state, doc, checked.findings))
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
  return measure
}

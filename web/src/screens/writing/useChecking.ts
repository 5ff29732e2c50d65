import { useCallback, useEffect, useRef, useState } from "react"
import { ask, client, type Measure } from "../../api/client"
import { withFindings } from "../../editor/findings"
import { textOf } from "../../editor/schema"
import type { Sheet } from "../../editor/sheet"

const PAUSE = 100
const LONGEST = 3000

export interface Checking {
  measure: Measure | null
  /** Have the page checked again although its text is the same. */
  again(): void
}

/**
 * Has the page checked a moment after each change, and every so often while typing goes on, and gives what it
 * measures. While the server is away, the last findings stay.
 */
export function useChecking(sheet: Sheet | null, page: number): Checking {
  const [measure, setMeasure] = useState<Measure | null>(null)
  const now = useRef<() => void>(() => {})
  useEffect(() => {
    if (!sheet) return
    let timer: number | undefined
    let seen: unknown = null
    let running = false
    let since = 0
    const check = async () => {
      if (running) {
        timer = window.setTimeout(check, PAUSE)
        return
      }
      running = true
      since = 0
      const doc = sheet.state.doc
      try {
        const params = { path: { page_id: page } }
        const checked = await ask(client.POST("/api/pages/{page_id}/check", { params, body: textOf(doc) }))
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
      since ||= performance.now()
      window.clearTimeout(timer)
      timer = window.setTimeout(check, Math.max(0, Math.min(PAUSE, since + LONGEST - performance.now())))
    }
    now.current = () => void check()
    later()
    const stop = sheet.watch(later)
    return () => {
      stop()
      window.clearTimeout(timer)
      now.current = () => {}
    }
  }, [sheet, page])
  const again = useCallback(() => now.current(), [])
  return { measure, again }
}

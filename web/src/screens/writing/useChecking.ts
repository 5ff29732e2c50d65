import { useEffect, useMemo, useSyncExternalStore } from "react"
import { ask, client, type Measure } from "../../api/client"
import { withFindings } from "../../editor/findings"
import type { Known } from "../../editor/known"
import { textOf } from "../../editor/schema"
import type { Sheet } from "../../editor/sheet"

const PAUSE = 100
const LONGEST = 3000

export interface Checking {
  /** Have the page checked again although its text is the same. */
  again(): void
  /** What the page measures, for `useMeasure`. */
  measure(): Measure | null
  /** The title as search results show it, for `useShownTitle`. */
  shownTitle(): string
  watch(watcher: () => void): () => void
}

/**
 * Has the page checked a moment after each change, and every so often while typing goes on. While the server is away,
 * the last findings stay. What is measured is told to those who show it, so that nothing else is drawn anew for it.
 */
export function useChecking(sheet: Sheet | null, page: number, known: Known | null): Checking {
  const { told, now } = useMemo(() => {
    const watchers = new Set<() => void>()
    const now = { check: () => {}, measure: null as Measure | null, shownTitle: "", watchers }
    const told: Checking = {
      again: () => now.check(),
      measure: () => now.measure,
      shownTitle: () => now.shownTitle,
      watch: (watcher) => {
        watchers.add(watcher)
        return () => watchers.delete(watcher)
      },
    }
    return { told, now }
  }, [])
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
        now.measure = checked.measure
        now.shownTitle = checked.shown_title
        for (const watcher of now.watchers) watcher()
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
    now.check = () => void check()
    later()
    const stop = sheet.watch(later)
    return () => {
      stop()
      window.clearTimeout(timer)
      now.check = () => {}
    }
  }, [sheet, page, now])
  useEffect(() => {
    if (!known) return
    let making = known.making
    return known.watch(() => {
      if (known.making < making) now.check()
      making = known.making
    })
  }, [known, now])
  return told
}

/** What the page measures, null until it was checked. */
export const useMeasure = (checking: Checking): Measure | null =>
  useSyncExternalStore(checking.watch, checking.measure)

export const useShownTitle = (checking: Checking): string =>
  useSyncExternalStore(checking.watch, checking.shownTitle)

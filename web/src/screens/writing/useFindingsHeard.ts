import { plural, t } from "@lingui/core/macro"
import { useEffect } from "react"
import { openFindings, sinceCheck } from "../../editor/findings"
import type { Sheet } from "../../editor/sheet"
import { say } from "../../look/heard"

/** In milliseconds: how long nothing is written before it is said what the page check finds now. */
const CALM = 1500

/** Says which notes came and how many are left, once whoever writes makes a pause; never between two keys. */
export function useFindingsHeard(sheet: Sheet | null) {
  useEffect(() => {
    if (!sheet) return
    /** Sentences of the notes that were known when it was last said; null until the first check is over. */
    let known: Set<string> | null = null
    let timer: number | undefined
    const tell = () => {
      if (!sinceCheck(sheet.state)) return
      const now = openFindings(sheet.state).map(({ finding }) => finding.sentence)
      const before: ReadonlySet<string> = known ?? new Set(now)
      known = new Set(now)
      const come = now.filter((each) => !before.has(each))
      const gone = [...before].filter((each) => !known?.has(each)).length
      const left =
        now.length === 0 ? t`Nothing to mend` : plural(now.length, { one: "# note", other: "# notes" })
      if (come.length === 1) say(t`New note: ${come[0] ?? ""} ${left}.`)
      else if (come.length) say(t`${come.length} new notes. ${left}.`)
      else if (gone) say(now.length ? t`${left} left.` : `${left}.`)
    }
    const later = () => {
      window.clearTimeout(timer)
      timer = window.setTimeout(tell, CALM)
    }
    const stop = sheet.watch(later)
    return () => {
      stop()
      window.clearTimeout(timer)
    }
  }, [sheet])
}

/**
 * What is said to whoever listens: one place that screen readers hear. What is seen anyhow is not repeated here; what
 * is heard here is the result of an act that shows elsewhere than where one is.
 */

import { Box } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { useSyncExternalStore } from "react"

interface Said {
  number: number
  words: string
}

const KEPT = 4

let said: readonly Said[] = []
let number = 0
const watchers = new Set<() => void>()

/** Have it said when the present sentence is over. */
export function say(words: string) {
  if (!words) return
  number += 1
  said = [...said.slice(1 - KEPT), { number, words }]
  for (const watcher of watchers) watcher()
}

const watch = (watcher: () => void) => {
  watchers.add(watcher)
  return () => watchers.delete(watcher)
}

/** Stands once, at the end of every screen. */
export function Heard() {
  const all = useSyncExternalStore(watch, () => said)
  return (
    <Box srOnly role="log" aria-label={t`What was done`} aria-live="polite" aria-relevant="additions">
      {all.map(({ number, words }) => (
        <p key={number}>{words}</p>
      ))}
    </Box>
  )
}

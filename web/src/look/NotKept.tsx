/** Whoever leaves a screen on which something is typed that is not kept yet is asked before. */
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useEffect, useId, useSyncExternalStore } from "react"
import { BeforeLeaving, useLeaving } from "./BeforeLeaving"
import { useClosing } from "./useClosing"

const forms = new Set<string>()
const watchers = new Set<() => void>()

function set(form: string, isChanged: boolean) {
  if (isChanged) forms.add(form)
  else forms.delete(form)
  for (const watcher of watchers) watcher()
}

const watch = (watcher: () => void) => {
  watchers.add(watcher)
  return () => watchers.delete(watcher)
}

/** Tells that what stands in a form is not kept, as long as it is there. */
export function useNotKept(isChanged: boolean) {
  const form = useId()
  useEffect(() => {
    set(form, isChanged)
    return () => set(form, false)
  }, [form, isChanged])
}

/** Stands once on a screen that has such forms. */
export function NotKept() {
  const some = useSyncExternalStore(watch, () => forms.size > 0)
  const blocker = useLeaving(some)
  useClosing(some)
  return (
    <BeforeLeaving
      aria-label={t`Leaving this screen`}
      blocker={blocker}
      position="fixed"
      insetX="0"
      bottom="0"
      zIndex="1"
      py="3"
    >
      <Trans>What you typed here is not kept yet. If you leave now, it is gone.</Trans>
    </BeforeLeaving>
  )
}

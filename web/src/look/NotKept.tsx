/** Whoever leaves a screen on which something is typed that is not kept yet is asked before. */
import { HStack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useEffect, useId, useRef, useSyncExternalStore } from "react"
import { useBlocker } from "react-router"
import { Act } from "./Act"
import { firstStop } from "./focus"

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
  const line = useRef<HTMLDivElement>(null)
  const some = useSyncExternalStore(watch, () => forms.size > 0)
  const blocker = useBlocker(
    ({ currentLocation: here, nextLocation: next }) => some && here.pathname !== next.pathname,
  )
  const isAsked = blocker.state === "blocked"
  useEffect(() => {
    if (isAsked && line.current) firstStop(line.current)?.focus()
  }, [isAsked])
  useEffect(() => {
    if (!some) return
    const warn = (event: BeforeUnloadEvent) => event.preventDefault()
    window.addEventListener("beforeunload", warn)
    return () => window.removeEventListener("beforeunload", warn)
  }, [some])
  if (!isAsked) return null
  return (
    <HStack
      ref={line}
      as="section"
      aria-label={t`Leaving this screen`}
      position="fixed"
      insetX="0"
      bottom="0"
      zIndex="1"
      gap="3"
      flexWrap="wrap"
      px="4"
      py="3"
      bg="lit"
      borderTopWidth="1px"
      borderColor="line"
    >
      <Text role="alert" flex="1 1 18rem">
        <Trans>What you typed here is not kept yet. If you leave now, it is gone.</Trans>
      </Text>
      <Act onPress={blocker.reset}>
        <Trans>Stay here</Trans>
      </Act>
      <Act onPress={blocker.proceed}>
        <Trans>Leave all the same</Trans>
      </Act>
    </HStack>
  )
}

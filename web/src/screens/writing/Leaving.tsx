/** Whoever leaves the page while files for it are on their way is told before, what will become of them. */
import { Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useEffect, useRef } from "react"
import { useBlocker } from "react-router"
import { Act } from "../../look/Act"
import { firstStop } from "../../look/focus"
import { isOver, type Upload } from "../../look/UploadList"
import { FootLine } from "./FootLine"

export function Leaving({ list }: { list: readonly Upload[] }) {
  const line = useRef<HTMLDivElement>(null)
  const awaited = list.some((each) => !isOver(each))
  const blocker = useBlocker(
    ({ currentLocation: here, nextLocation: next }) => awaited && here.pathname !== next.pathname,
  )
  const isAsked = blocker.state === "blocked"
  const isRead = list.length === 0
  useEffect(() => {
    if (isAsked && line.current) firstStop(line.current)?.focus()
  }, [isAsked])
  useEffect(() => {
    if (blocker.state !== "blocked" || awaited) return
    // All of it is here: on to where one wanted to go, unless there is something to be read first.
    if (isRead) blocker.proceed()
    else blocker.reset()
  }, [blocker, awaited, isRead])
  if (!isAsked) return null
  return (
    <FootLine ref={line} aria-label={t`Leaving this page`}>
      <Text role="alert" flex="1 1 18rem">
        <Trans>
          Files for this page are on their way, or wait for an answer. If you leave now, they do not come onto
          it; what is being sent goes on into the library.
        </Trans>
      </Text>
      <Act onPress={blocker.reset}>
        <Trans>Stay here</Trans>
      </Act>
      <Act onPress={blocker.proceed}>
        <Trans>Leave all the same</Trans>
      </Act>
    </FootLine>
  )
}

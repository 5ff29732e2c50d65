/** Whoever leaves the page while files for it are on their way is told before, what will become of them. */
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useEffect } from "react"
import { BeforeLeaving, useLeaving } from "../../look/BeforeLeaving"
import { isOver, type Upload } from "../../look/UploadList"

export function Leaving({ list }: { list: readonly Upload[] }) {
  const awaited = list.some((each) => !isOver(each))
  const blocker = useLeaving(awaited)
  const isRead = list.length === 0
  useEffect(() => {
    if (blocker.state !== "blocked" || awaited) return
    // All of it is here: on to where one wanted to go, unless there is something to be read first.
    if (isRead) blocker.proceed()
    else blocker.reset()
  }, [blocker, awaited, isRead])
  return (
    <BeforeLeaving aria-label={t`Leaving this page`} blocker={blocker}>
      <Trans>
        Files for this page are on their way, or wait for an answer. If you leave now, they do not come onto
        it; what is being sent goes on into the library.
      </Trans>
    </BeforeLeaving>
  )
}

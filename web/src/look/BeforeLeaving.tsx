import { type StackProps, Text } from "@chakra-ui/react"
import { Trans } from "@lingui/react/macro"
import { type ReactNode, useEffect, useRef } from "react"
import { type Blocker, useBlocker } from "react-router"
import { Act } from "./Act"
import { FootLine } from "./FootLine"
import { firstStop } from "./focus"

/** Asked before one goes to another screen, as long as something would be lost by that. */
export const useLeaving = (isLost: boolean): Blocker =>
  useBlocker(({ currentLocation: here, nextLocation: next }) => isLost && here.pathname !== next.pathname)

interface Props extends StackProps {
  "aria-label": string
  blocker: Blocker
  /** What would be lost. */
  children: ReactNode
}

/** The question, while it is asked: the way back is the first. */
export function BeforeLeaving({ blocker, children, ...props }: Props) {
  const line = useRef<HTMLDivElement>(null)
  const isAsked = blocker.state === "blocked"
  useEffect(() => {
    if (isAsked && line.current) firstStop(line.current)?.focus()
  }, [isAsked])
  if (!isAsked) return null
  return (
    <FootLine ref={line} {...props}>
      <Text role="alert" flex="1 1 18rem">
        {children}
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

/** What would follow from an act, told before it is done. */
import { Button, chakra, HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import type { Consequences as Told } from "../../api/client"
import { To } from "../../look/Top"

export function Consequences({ told, wrong }: { told: Told | null; wrong: string }) {
  return (
    <Stack as="section" aria-label={t`What follows`} gap="2" fontSize="sm">
      <Text role="status" aria-live="polite">
        {wrong ? "" : told?.sentences.join(" ")}
      </Text>
      <Text role="alert" color="wrong">
        {wrong}
      </Text>
      {told && told.addresses.length > 0 && (
        <chakra.ul listStyleType="none">
          {told.addresses.map(({ before, after }) => (
            <chakra.li key={before} py="1" wordBreak="break-all">
              <chakra.s color="quiet">{pathOf(before, after)}</chakra.s>
              <br />
              {pathOf(after, before)}
            </chakra.li>
          ))}
        </chakra.ul>
      )}
      {told && told.linked_from.length > 0 && (
        <div>
          <Text color="quiet">
            <Trans>These pages link to it:</Trans>
          </Text>
          <chakra.ul listStyleType="none">
            {told.linked_from.map((page) => (
              <chakra.li key={page.id}>
                <To to={`/pages/${page.id}`}>{page.title}</To>
              </chakra.li>
            ))}
          </chakra.ul>
        </div>
      )}
    </Stack>
  )
}

/** An address without its host, where the other has the same. */
function pathOf(address: string, other: string): string {
  const [one, two] = [new URL(address), new URL(other)]
  return one.host === two.host ? decodeURI(one.pathname) : decodeURI(address)
}

interface DecidingProps {
  /** What is about to be done. */
  act: string
  disabled?: boolean
  /** Whether the press that does it has the focus. */
  first?: boolean
  wrong: string
  onAct(): void
  onLeave(): void
}

/** Below what follows: do it, or leave all as it is. */
export function Deciding({ act, disabled, first, wrong, onAct, onLeave }: DecidingProps) {
  return (
    <>
      <HStack gap="3">
        <Button autoFocus={first} disabled={disabled} onClick={onAct}>
          {act}
        </Button>
        <Button variant="ghost" onClick={onLeave}>
          <Trans>Leave it</Trans>
        </Button>
      </HStack>
      <Text role="alert" color="wrong">
        {wrong}
      </Text>
    </>
  )
}

/** The page of help of one check: what is meant, whom it hurts, and how to do it right. */

import { chakra, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import type { CheckRule } from "../../api/client"
import { PanelHead } from "../../look/PanelHead"
import { To } from "../../look/Top"
import { useRules } from "./useRules"

/** Beside the sheet, in the Shelf. */
export function CheckHelp({ check, onClose }: { check: string; onClose(): void }) {
  const rules = useRules()
  const rule = rules.data?.find((each) => each.id === check)
  return (
    <Stack as="section" aria-label={t`What this means`} gap="3" pt="1">
      <PanelHead title={rule?.title ?? t`What this means`} onClose={onClose} />
      {rules.error && <Text role="alert">{rules.error.message}</Text>}
      {rule && <RuleText rule={rule} />}
      <Text fontSize="sm">
        <To to="/help/checks">
          <Trans>All checks</Trans>
        </To>
      </Text>
    </Stack>
  )
}

export function RuleText({ rule }: { rule: CheckRule }) {
  return (
    <Stack gap="3" fontSize="sm" lineHeight="1.5">
      <Text>{rule.means}</Text>
      <Part title={t`Whom it hurts`}>{rule.whom}</Part>
      <Part title={t`How to do it right`}>{rule.right}</Part>
      {rule.right_example && (
        <chakra.dl>
          {rule.wrong_example && <Example title={t`Not so`} words={rule.wrong_example} />}
          <Example title={t`But so`} words={rule.right_example} />
        </chakra.dl>
      )}
      <Text fontSize="xs" color="quiet">
        {rule.source}
      </Text>
    </Stack>
  )
}

function Part({ title, children }: { title: string; children: string }) {
  return (
    <div>
      <Text fontWeight="600">{title}</Text>
      <Text>{children}</Text>
    </div>
  )
}

function Example({ title, words }: { title: string; words: string }) {
  return (
    <>
      <chakra.dt fontWeight="600">{title}</chakra.dt>
      <chakra.dd mb="2" pl="2" borderLeftWidth="2px" borderColor="edge" whiteSpace="pre-line">
        {words}
      </chakra.dd>
    </>
  )
}

/** The help: beside the sheet, in the Shelf, and as a screen of its own. */

import { chakra, Heading, HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useEffect } from "react"
import { Act } from "../../look/Act"
import { PanelHead } from "../../look/PanelHead"
import { To, Top } from "../../look/Top"
import { HELP } from "./helpWords"

export function FirstSteps({ onClose, onKeys }: { onClose(): void; onKeys(): void }) {
  return (
    <Stack as="section" aria-label={t`Help`} gap="3" pt="1">
      <PanelHead title={t`Help`} onClose={onClose} />
      <HStack gap="1">
        <Act onPress={onKeys}>
          <Trans>Keys</Trans>
        </Act>
      </HStack>
      <Parts level="h3" />
    </Stack>
  )
}

function Parts({ level }: { level: "h2" | "h3" }) {
  return (
    <Stack gap="4" fontSize={level === "h3" ? "sm" : "md"}>
      {HELP.map(({ title, steps, things }) => (
        <chakra.section key={title} aria-label={title}>
          <Heading as={level} size={level === "h3" ? "sm" : "lg"} fontWeight="600" fontFamily="body" mb="1">
            {title}
          </Heading>
          {steps && (
            <chakra.ol ps="6" listStyleType="decimal">
              {steps.map((step) => (
                <chakra.li key={step} py="1">
                  {step}
                </chakra.li>
              ))}
            </chakra.ol>
          )}
          {things && (
            <chakra.dl>
              {things.map(([name, means]) => (
                <chakra.div key={name} py="1" borderTopWidth="1px" borderColor="line">
                  <chakra.dt fontWeight="600">{name}</chakra.dt>
                  <chakra.dd>{means}</chakra.dd>
                </chakra.div>
              ))}
            </chakra.dl>
          )}
        </chakra.section>
      ))}
    </Stack>
  )
}

export function Help() {
  useEffect(() => {
    document.title = t`Help, Still Page`
  }, [])
  return (
    <>
      <Top />
      <chakra.main id="main" maxW="44rem" mx="auto" px={{ base: "4", md: "8" }} py="8">
        <Heading as="h1" size="3xl" fontWeight="450" lineHeight="1.2" mb="4">
          <Trans>Help</Trans>
        </Heading>
        <Text mb="6">
          <Trans>
            The same stands beside the sheet while you write, under “Help”. What the page check looks at has{" "}
            <To to="/help/checks">pages of its own</To>.
          </Trans>
        </Text>
        <Parts level="h2" />
      </chakra.main>
    </>
  )
}

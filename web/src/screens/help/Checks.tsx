/** The page of help of one check, or the list of them all, as a screen of its own. */

import { chakra, Heading, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useEffect } from "react"
import { useParams } from "react-router"
import { Sentence } from "../../look/Sentence"
import { To, Top } from "../../look/Top"
import { SeverityLine } from "../writing/Notes"
import { RuleText } from "./CheckHelp"
import { useRules } from "./useRules"

export function Checks() {
  const { check } = useParams()
  const rules = useRules()
  const rule = rules.data?.find((each) => each.id === check)
  const title = rule?.title ?? t`What the page check looks at`
  useEffect(() => {
    document.title = t`${title}, Still Page`
  }, [title])
  if (rules.error)
    return (
      <Sentence
        title={t`The help cannot be shown`}
        text={rules.error.message}
        again={() => rules.refetch()}
      />
    )
  const groups = [...new Set(rules.data?.map(({ group }) => group))]
  return (
    <>
      <Top />
      <chakra.main maxW="44rem" mx="auto" px={{ base: "4", md: "8" }} py="8">
        <Heading as="h1" size="3xl" fontWeight="450" lineHeight="1.2" mb="4">
          {title}
        </Heading>
        {rule ? (
          <>
            <SeverityLine severity={rule.severity} />
            <RuleText rule={rule} />
            <Text mt="6" fontSize="sm">
              <To to="/help/checks">
                <Trans>All checks</Trans>
              </To>
            </Text>
          </>
        ) : (
          <>
            {check && rules.data && (
              <Text role="status" mb="6">
                <Trans>There is no check of that name (any more). These are all there are:</Trans>
              </Text>
            )}
            {groups.map((group) => (
              <chakra.section key={group} aria-label={group} mb="6">
                <Heading as="h2" size="md" fontFamily="body" mb="2">
                  {group}
                </Heading>
                <chakra.ul listStyleType="none">
                  {rules.data
                    ?.filter((each) => each.group === group)
                    .map((each) => (
                      <chakra.li key={each.id} py="1" borderTopWidth="1px" borderColor="line">
                        <To to={`/help/checks/${each.id}`}>{each.title}</To>
                      </chakra.li>
                    ))}
                </chakra.ul>
              </chakra.section>
            ))}
          </>
        )}
      </chakra.main>
    </>
  )
}

/** What a site asks of the page check: administrators choose what blocks publishing, what is mended, looked at or left. */

import { Button, chakra, Field, Heading, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery, useQueryClient } from "@tanstack/react-query"
import { useEffect, useState } from "react"
import { useParams } from "react-router"
import { answers, sitesAsked } from "../../api/answers"
import { ask, type CheckRule, type SiteChecks as Chosen, client, type Severity } from "../../api/client"
import { Sentence } from "../../look/Sentence"
import { To, TopOfSite } from "../../look/Top"
import { useRules } from "../help/useRules"
import { SEVERITY } from "../writing/Notes"

const OFF = "off"

export function SiteChecks() {
  const siteId = Number(useParams().siteId)
  const path = { site_id: siteId }
  const rules = useRules()
  const sites = useQuery(sitesAsked)
  const chosen = useQuery({
    queryKey: answers.siteChecks(siteId),
    queryFn: () => ask(client.GET("/api/sites/{site_id}/checks", { params: { path } })),
  })
  const site = sites.data?.find((each) => each.id === siteId)
  useEffect(() => {
    document.title = site ? t`Page check, ${site.name}` : t`Still Page`
  }, [site])
  const error = rules.error ?? chosen.error ?? sites.error
  if (error) return <Sentence title={t`The page check cannot be shown`} text={error.message} />
  return (
    <>
      <TopOfSite site={site} />
      <chakra.main maxW="52rem" mx="auto" px={{ base: "4", md: "8" }} py="8">
        <Heading as="h1" size="3xl" fontWeight="450" mb="2">
          <Trans>What the page check asks for</Trans>
        </Heading>
        {rules.data && chosen.data && site && (
          <Choosing
            key={siteId}
            site={siteId}
            rules={rules.data}
            chosen={chosen.data}
            editable={site.may_set_checks}
          />
        )}
      </chakra.main>
    </>
  )
}

interface ChoosingProps {
  site: number
  rules: CheckRule[]
  chosen: Chosen
  editable: boolean
}

function Choosing({ site, rules, chosen, editable }: ChoosingProps) {
  const [severities, setSeverities] = useState(chosen.severities)
  const [numbers, setNumbers] = useState({
    page_budget: String(chosen.page_budget),
    hardest_grade: String(chosen.hardest_grade),
  })
  const [told, setTold] = useState("")
  const [problem, setProblem] = useState("")
  const queries = useQueryClient()
  const groups = [...new Set(rules.map(({ group }) => group))]

  const keep = async () => {
    setTold("")
    setProblem("")
    try {
      const body = {
        severities,
        page_budget: Number(numbers.page_budget) || 0,
        hardest_grade: Number(numbers.hardest_grade) || 0,
      }
      const params = { path: { site_id: site } }
      const kept = await ask(client.PUT("/api/sites/{site_id}/checks", { params, body }))
      setSeverities(kept.severities)
      queries.setQueryData(answers.siteChecks(site), kept)
      setTold(t`Saved. It holds for every page from its next check on.`)
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  const choose = (rule: CheckRule, value: string) => {
    setTold("")
    setSeverities({ ...severities, [rule.id]: value === OFF ? null : (value as Severity) })
  }
  const value = (rule: CheckRule) => {
    const own = severities[rule.id]
    return own === undefined ? rule.severity : (own ?? OFF)
  }
  /** A check that keeps people from being shut out, and is not looked for. */
  const shutsOut = (rule: CheckRule) => rule.guards_access && value(rule) === OFF
  const off = rules.filter(shutsOut).length
  return (
    <>
      <Text color="quiet" mb="6">
        {editable
          ? t`What blocks, keeps a page from being published. What is off, is not looked for on this site.`
          : t`Administrators choose this. You see what they have chosen.`}
      </Text>
      <HStack gap="6" mb="6" flexWrap="wrap" alignItems="flex-start">
        <Number_
          label={t`What a page may weigh, in kB`}
          value={numbers.page_budget}
          disabled={!editable}
          onNumber={(page_budget) => setNumbers({ ...numbers, page_budget })}
        />
        <Number_
          label={t`Years at school that a text may ask for`}
          value={numbers.hardest_grade}
          disabled={!editable}
          onNumber={(hardest_grade) => setNumbers({ ...numbers, hardest_grade })}
        />
      </HStack>
      {groups.map((group) => (
        <chakra.section key={group} aria-label={group} mb="6">
          <Heading as="h2" size="md" fontFamily="body" mb="1">
            {group}
          </Heading>
          {rules
            .filter((each) => each.group === group)
            .map((rule) => (
              <HStack
                key={rule.id}
                justifyContent="space-between"
                gap="4"
                py="1.5"
                borderTopWidth="1px"
                borderColor="line"
              >
                <Text id={`rule-${rule.id}`}>
                  <To to={`/help/checks/${rule.id}`}>{rule.title}</To>
                  {value(rule) !== rule.severity && (
                    <chakra.span color="quiet" fontSize="sm">
                      <Trans> (by itself: {SEVERITY[rule.severity][1].toLowerCase()})</Trans>
                    </chakra.span>
                  )}
                  {shutsOut(rule) && (
                    <chakra.span
                      display="block"
                      fontSize="sm"
                      color="waits"
                      role={editable ? "alert" : undefined}
                    >
                      <Trans>Off, although it guards accessibility. It hurts: {rule.whom}</Trans>
                    </chakra.span>
                  )}
                </Text>
                <chakra.select
                  aria-labelledby={`rule-${rule.id}`}
                  h="8"
                  px="2"
                  bg="paper"
                  fontSize="sm"
                  borderWidth="1px"
                  borderColor="edge"
                  value={value(rule)}
                  disabled={!editable}
                  onChange={(event) => choose(rule, event.target.value)}
                >
                  {Object.entries(SEVERITY).map(([severity, [shape, words]]) => (
                    <option key={severity} value={severity}>
                      {shape} {words}
                    </option>
                  ))}
                  <option value={OFF}>
                    <Trans>Off</Trans>
                  </option>
                </chakra.select>
              </HStack>
            ))}
        </chakra.section>
      ))}
      {editable && (
        <Stack
          gap="2"
          position="sticky"
          bottom="0"
          bg="ground"
          py="3"
          borderTopWidth="1px"
          borderColor="line"
        >
          <HStack gap="4">
            <Button size="sm" onClick={() => void keep()}>
              <Trans>Save</Trans>
            </Button>
            <Text role="status">{told}</Text>
            {off > 0 && (
              <Text fontSize="sm" color="waits">
                {off === 1
                  ? t`1 check that guards accessibility is off.`
                  : t`${off} checks that guard accessibility are off.`}
              </Text>
            )}
          </HStack>
          <Text role="alert" color="wrong">
            {problem}
          </Text>
        </Stack>
      )}
    </>
  )
}

interface NumberProps {
  label: string
  value: string
  disabled: boolean
  onNumber(value: string): void
}

function Number_({ label, value, disabled, onNumber }: NumberProps) {
  return (
    <Field.Root disabled={disabled} w="auto">
      <Field.Label>{label}</Field.Label>
      <Input
        size="sm"
        w="8rem"
        inputMode="numeric"
        bg="paper"
        borderColor="edge"
        value={value}
        onChange={(event) => onNumber(event.target.value)}
      />
    </Field.Root>
  )
}

/** The report of outside links: every address that pages of a site lead to, and what came of its last test. */

import { Button, chakra, Heading, HStack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { useEffect, useState } from "react"
import { useParams } from "react-router"
import { answers, sitesAsked } from "../../api/answers"
import { ask, client, type OutsideLink } from "../../api/client"
import { Sentence } from "../../look/Sentence"
import { To, TopOfSite } from "../../look/Top"
import { moment } from "../../look/words"

const STATES: Record<OutsideLink["state"], [string, string]> = {
  untested: ["·", t`Not tested yet`],
  right: ["●", t`Answers`],
  unsure: ["◌", t`Does not tell programs`],
  gone: ["◆", t`Gone`],
  silent: ["◇", t`Does not answer`],
}

export function OutsideLinks() {
  const siteId = Number(useParams().siteId)
  const params = { path: { site_id: siteId } }
  const [told, setTold] = useState("")
  const links = useQuery({
    queryKey: answers.outsideLinks(siteId),
    queryFn: () => ask(client.GET("/api/sites/{site_id}/outside-links", { params })),
    refetchInterval: (query) => (query.state.data?.some(({ state }) => state === "untested") ? 3000 : 30_000),
    refetchOnMount: "always",
  })
  const sites = useQuery(sitesAsked)
  const site = sites.data?.find((each) => each.id === siteId)
  useEffect(() => {
    document.title = t`Outside links, Still Page`
  }, [])
  if (links.error)
    return (
      <Sentence
        title={t`The report cannot be shown`}
        text={links.error.message}
        again={() => links.refetch()}
      />
    )
  const again = async () => {
    try {
      await ask(client.POST("/api/sites/{site_id}/outside-links/test", { params }))
      setTold(t`They are being tested in the background, one after another.`)
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  const failed = links.data?.filter((each) => each.failed).length ?? 0
  return (
    <>
      <TopOfSite site={site} />
      <chakra.main maxW="58rem" mx="auto" px={{ base: "4", md: "8" }} py="8">
        <Heading as="h1" size="3xl" fontWeight="450" mb="2">
          <Trans>Outside links</Trans>
        </Heading>
        <Text color="quiet" mb="4">
          {!links.data
            ? ""
            : links.data.length === 0
              ? t`No page of this site leads to an outside address yet.`
              : t`${plural(links.data.length, { one: "# address", other: "# addresses" })}, of which ${failed} failed. Each is asked again once in a while.`}
        </Text>
        <HStack mb="4" gap="3">
          <Button size="sm" variant="outline" disabled={!links.data?.length} onClick={() => void again()}>
            <Trans>Test them now</Trans>
          </Button>
          <Text role="status" fontSize="sm">
            {told}
          </Text>
        </HStack>
        <chakra.ul listStyleType="none">
          {links.data?.map((link) => (
            <Line key={link.id} link={link} />
          ))}
        </chakra.ul>
      </chakra.main>
    </>
  )
}

function Line({ link }: { link: OutsideLink }) {
  const [shape, words] = STATES[link.state]
  return (
    <chakra.li py="3" borderTopWidth="1px" borderColor="line">
      <HStack justifyContent="space-between" alignItems="baseline" gap="4" flexWrap="wrap">
        <chakra.a
          href={link.address}
          target="_blank"
          rel="noreferrer"
          wordBreak="break-all"
          textDecoration="underline"
          textUnderlineOffset="3px"
        >
          {link.address}
        </chakra.a>
        <Text color={link.failed ? "wrong" : "quiet"} fontSize="sm" whiteSpace="nowrap">
          <Trans>
            <span aria-hidden="true">{shape} </span>
            {words}, tested {link.tested_at ? moment(link.tested_at) : t`never`}
          </Trans>
        </Text>
      </HStack>
      {link.fault && (
        <Text fontSize="sm" color={link.failed ? "wrong" : "quiet"}>
          {link.fault}
        </Text>
      )}
      {link.moved_to && (
        <Text fontSize="sm" color="quiet" wordBreak="break-all">
          <Trans>It leads on for good to {link.moved_to}</Trans>
        </Text>
      )}
      <Text fontSize="sm" color="quiet">
        <Trans>
          On{" "}
          {link.pages.map((page, index) => (
            <chakra.span key={page.id}>
              {index > 0 && ", "}
              <To to={`/pages/${page.id}`}>{page.title}</To>
            </chakra.span>
          ))}
        </Trans>
      </Text>
    </chakra.li>
  )
}

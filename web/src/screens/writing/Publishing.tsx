/** Before a page goes live, or down: what will happen, what remains to be looked at, and how it will be found. */

import { Box, Button, chakra, Heading, HStack, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQueryClient } from "@tanstack/react-query"
import type { EditorState } from "prosemirror-state"
import { useState } from "react"
import { after, forget } from "../../api/answers"
import { ask, client, type PageOut } from "../../api/client"
import { findingsOf, openFindings } from "../../editor/findings"
import type { Saver } from "../../editor/saver"
import type { Sheet } from "../../editor/sheet"
import { say } from "../../look/heard"
import { Consequences } from "../contents/Consequences"
import { useConsequences } from "../contents/useArranging"
import { Found } from "./Found"
import { SEVERITY, SeverityLine } from "./Notes"
import { useAddress } from "./useAddress"
import { type Checking, useShownTitle } from "./useChecking"
import { useOfSheet } from "./useSheetState"

interface Props {
  what: "publish" | "unpublish"
  page: PageOut
  sheet: Sheet | null
  saver: Saver
  checking: Checking
  /** Whether two wordings wait for somebody to choose. */
  unsettled: boolean
  onNotes(): void
  onDone(): void
}

const UNSETTLED = t`two people changed the same words. Choose between the two wordings first.`

const ORDER: readonly string[] = Object.keys(SEVERITY)

function remaining(state: EditorState) {
  return {
    // What blocks comes first, whatever its place on the page.
    notes: openFindings(state)
      .map(({ finding }) => finding)
      .sort((one, other) => ORDER.indexOf(one.severity) - ORDER.indexOf(other.severity)),
    allowed: findingsOf(state).flatMap(({ finding }) => (finding.allowed ? [finding.allowed] : [])),
    title: String(state.doc.attrs.title),
    description: String(state.doc.attrs.description),
  }
}

/** Stands above the foot, not over the sheet. */
export function Publishing(props: Props) {
  const { what, page } = props
  return (
    <Box
      role="group"
      aria-label={what === "publish" ? t`Publish` : t`Unpublish`}
      maxH="60dvh"
      overflowY="auto"
      pb="2"
      mb="1.5"
      borderBottomWidth="1px"
      borderColor="line"
      onKeyDown={(event) => event.key === "Escape" && props.onDone()}
    >
      {page.site.may_publish ? <Asking {...props} /> : <NotYours {...props} />}
    </Box>
  )
}

/** Who may publish, where one may not. */
function NotYours({ page, onDone }: Props) {
  const { publishers } = page
  const names = publishers.length > 5 ? [...publishers.slice(0, 5), "others"] : publishers
  return (
    <HStack gap="3" flexWrap="wrap">
      <Text flex="1 1 20rem">
        {names.length
          ? t`On ${page.site.name}, pages are published by ${listed(names)}. Your text is saved; tell one of them that it is ready.`
          : t`On ${page.site.name}, nobody has the role to publish pages yet. Ask an administrator.`}
      </Text>
      <Button size="sm" variant="outline" autoFocus onClick={onDone}>
        <Trans>Close</Trans>
      </Button>
    </HStack>
  )
}

const listed = (names: readonly string[]) =>
  names.length > 1 ? t`${names.slice(0, -1).join(", ")} or ${names.at(-1) ?? ""}` : (names[0] ?? "")

function Asking({ what, page, sheet, saver, checking, unsettled, onNotes, onDone }: Props) {
  const [problem, setProblem] = useState("")
  const [busy, setBusy] = useState(false)
  const queries = useQueryClient()
  const { notes, allowed, title, description } = useOfSheet(sheet, remaining)
  const whole = useShownTitle(checking) || title
  const params = { path: { page_id: page.id } }
  const address = useAddress(page)
  const follows = useConsequences(what === "unpublish" ? { pages: [page.id], act: "withdraw" } : null)
  const blocks = notes.find(({ severity }) => severity === "blocks")?.sentence
  const blocked = unsettled ? UNSETTLED : blocks

  const act = async () => {
    setBusy(true)
    setProblem("")
    try {
      if (what === "publish") {
        await saver.flush()
        const { state, revision } = saver.get()
        if (state.kind !== "saved") throw new Error(t`The text is not saved yet, so it cannot be published.`)
        saver.setLive(await ask(client.POST("/api/pages/{page_id}/publish", { params, body: { revision } })))
        say(t`Published at ${address}`)
      } else {
        await ask(client.DELETE("/api/pages/{page_id}/publish", { params }))
        saver.setLive(null)
        say(t`Unpublished`)
      }
      void forget(queries, after.pages(page.site.id))
      onDone()
    } catch (error) {
      setProblem((error as Error).message)
      setBusy(false)
    }
  }
  const toMend = notes.filter(({ severity }) => severity !== "look").length
  const toLookAt = notes.length - toMend
  const still = [
    toMend && t`${plural(toMend, { one: "# thing", other: "# things" })} still to mend`,
    toLookAt &&
      (toMend
        ? t`${toLookAt} to look at`
        : t`${plural(toLookAt, { one: "# thing", other: "# things" })} to look at`),
  ].filter(Boolean)
  const [one = "", two] = still
  const remains = two ? t`${one} and ${two}` : one
  const sentence =
    what === "unpublish"
      ? t`Readers will no longer find this page at ${address}. Its text stays here.`
      : blocked
        ? t`It cannot be published yet: ${blocked}`
        : t`Readers will see this text at ${address}.${still.length ? plural(toMend + toLookAt, { one: ` There is ${remains}.`, other: ` There are ${remains}.` }) : ""}`
  return (
    <Stack gap="3">
      <HStack gap="3" flexWrap="wrap" position="sticky" top="0" bg="paper" py="1">
        <Text flex="1 1 18rem" wordBreak="break-word">
          {sentence}
          <chakra.span role="alert" display="block" color="wrong">
            {problem}
          </chakra.span>
        </Text>
        <Button
          size="sm"
          onClick={act}
          loading={busy}
          disabled={what === "publish" && Boolean(blocked)}
          autoFocus={!blocked}
        >
          {what === "publish" ? t`Publish now` : t`Unpublish now`}
        </Button>
        <Button size="sm" variant="outline" onClick={onDone} autoFocus={Boolean(blocked)}>
          <Trans>Not yet</Trans>
        </Button>
      </HStack>
      {what === "unpublish" && <Consequences {...follows} />}
      {what === "publish" && (
        <HStack gap="6" alignItems="flex-start" flexWrap="wrap">
          {notes.length + allowed.length > 0 && (
            <Stack as="section" aria-label={t`What remains`} gap="1" flex="1 1 18rem" minW="0">
              <Heading as="h2" size="sm" fontFamily="body">
                <Trans>What remains</Trans>
              </Heading>
              <chakra.ul listStyleType="none">
                {notes.map(({ key, severity, sentence: says }) => (
                  <chakra.li key={key} py="1" borderTopWidth="1px" borderColor="line">
                    <SeverityLine severity={severity} />
                    {says}
                  </chakra.li>
                ))}
                {allowed.map((each) => (
                  <chakra.li key={each.id} py="1" color="quiet" borderTopWidth="1px" borderColor="line">
                    <Trans>
                      Held to be right: {each.sentence} {each.by}: “{each.reason}”
                    </Trans>
                  </chakra.li>
                ))}
              </chakra.ul>
              {notes.length > 0 && (
                <Button size="xs" variant="outline" alignSelf="flex-start" onClick={onNotes}>
                  <Trans>To the Notes</Trans>
                </Button>
              )}
            </Stack>
          )}
          <Found
            page={{ ...page, address }}
            sheet={sheet}
            title={title}
            whole={whole}
            description={description}
          />
        </HStack>
      )}
    </Stack>
  )
}

import { Button, chakra, HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useState } from "react"
import { longestOf } from "../../../document/rules"
import { changeLink, type LinkRun, removeLink } from "../../../editor/commands"
import { findingsOf } from "../../../editor/findings"
import type { Known } from "../../../editor/known"
import type { Sheet } from "../../../editor/sheet"
import { Act } from "../../../look/Act"
import { Gauge, STATE_WORDS } from "../../../look/Gauge"
import { kilobytes } from "../../../look/words"
import { Section, Words } from "./parts"

/** What an address leads to, and where it stands on the web if it stands anywhere. */
export function resolved(href: string, known: Known) {
  const [, kind, digits, fragment] = /^(page|item):(\d+)(?:#(.*))?$/.exec(href) ?? []
  const number = Number(digits)
  const page = kind === "page" ? known.page(number) : undefined
  const item = kind === "item" ? known.item(number) : undefined
  const behind = fragment ? `#${fragment}` : ""
  const address = page ? page.address + behind : item ? new URL(item.address, location.href).href : href
  return { page, item, fragment, address: /^(https?|mailto|tel):/.test(address) ? address : null }
}

export function Destination({ href, known }: { href: string; known: Known }) {
  const { page, item, fragment } = resolved(href, known)
  if (item)
    return (
      <Text>
        <Trans>
          leads to “{item.title}”
          <chakra.span display="block" fontSize="sm" color="quiet">
            {item.format}, {kilobytes(item.size)}, in the media library
          </chakra.span>
        </Trans>
      </Text>
    )
  if (href.startsWith("#"))
    return (
      <Text wordBreak="break-word">
        <Trans>leads to a heading of this page</Trans>
      </Text>
    )
  if (!page)
    return (
      <Text wordBreak="break-all">
        <Trans>leads to {href}</Trans>
      </Text>
    )
  return (
    <Stack gap="1">
      <Text>
        <Trans>
          leads to {fragment ? t`a heading of ` : ""}the page “{page.title}”
        </Trans>
      </Text>
      <HStack gap="2" fontSize="sm" color="quiet">
        <Gauge state={page.state} />
        {STATE_WORDS[page.state]}, {page.site}, {page.path}
      </HStack>
      {page.state === "unpublished" && (
        <Text fontSize="sm" color="waits">
          <Trans>Readers see the words without a link until that page is published.</Trans>
        </Text>
      )}
    </Stack>
  )
}

interface Props {
  sheet: Sheet
  known: Known
  link: LinkRun
  editable: boolean
  onChange(): void
}

/** The particulars of the link at the caret. */
export function LinkParticulars({ sheet, known, link, editable, onChange }: Props) {
  const [told, setTold] = useState("")
  const { page, address } = resolved(link.href, known)
  const findings = findingsOf(sheet.state).filter(
    ({ finding, from, to }) => finding.check.startsWith("link-") && from < link.to && to > link.from,
  )
  const copy = async () => {
    if (!address) return
    try {
      await navigator.clipboard.writeText(address)
      setTold(t`The address is on the clipboard.`)
    } catch {
      setTold(t`The browser does not let it be copied: ${address}`)
    }
  }
  const within = link.href.startsWith("#") || page !== undefined
  const mayOpen = !within && /^(https?:|item:)/.test(link.href)
  return (
    <Section title={t`This link`}>
      <Text>“{link.text}”</Text>
      <Destination href={link.href} known={known} />
      {findings.map(({ finding }) => (
        <Stack key={finding.check} gap="1">
          <Text fontSize="sm" color={finding.severity === "look" ? "waits" : "wrong"}>
            {finding.sentence}
          </Text>
          {editable &&
            finding.repairs.map((repair) => (
              <Act key={repair.label} onPress={() => sheet.repair(finding, repair) && sheet.focus()}>
                {repair.label}
              </Act>
            ))}
        </Stack>
      ))}
      {editable && mayOpen && (
        <chakra.label display="flex" gap="2" alignItems="baseline" fontSize="sm">
          <Trans>
            <input
              type="checkbox"
              checked={link.newWindow}
              onChange={(event) => sheet.step(changeLink(sheet.state, { new_window: event.target.checked }))}
            />
            Opens a new window; readers are told so
          </Trans>
        </chakra.label>
      )}
      {editable && within && link.newWindow && (
        <Act onPress={() => sheet.step(changeLink(sheet.state, { new_window: false }))}>
          <Trans>Stay in the same window, as links within the sites should</Trans>
        </Act>
      )}
      {editable && (
        <Words
          label={t`Link title`}
          value={link.title ?? ""}
          maxLength={longestOf("link", "title")}
          help={t`Shown when somebody points at the link. Many readers never see it.`}
          onWords={(words, goesOn) => {
            const tr = changeLink(sheet.state, { title: words || null })
            sheet.step(tr, goesOn)
          }}
        />
      )}
      <HStack flexWrap="wrap" gap="1">
        {address && /^https?:/.test(address) && (
          <Button asChild size="xs" variant="outline">
            <chakra.a href={address} target="_blank" rel="noreferrer">
              <Trans>Open in a new window</Trans>
            </chakra.a>
          </Button>
        )}
        {address && (
          <Act onPress={copy}>
            <Trans>Copy the address</Trans>
          </Act>
        )}
        {editable && (
          <>
            <Act onPress={onChange}>
              <Trans>Change the destination</Trans>
            </Act>
            <Act
              onPress={() => {
                sheet.step(removeLink(sheet.state))
                sheet.focus()
              }}
            >
              <Trans>Remove the link, keep the words</Trans>
            </Act>
          </>
        )}
      </HStack>
      <Text role="status" fontSize="sm">
        {told}
      </Text>
    </Section>
  )
}

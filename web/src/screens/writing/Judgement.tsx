import { Stack, Text } from "@chakra-ui/react"
import { Trans } from "@lingui/react/macro"
import { useEffect, useState } from "react"
import { ask, client, type Finding } from "../../api/client"
import { insertLink, linkAt } from "../../editor/commands"
import { positionOf } from "../../editor/placement"
import { textOf } from "../../editor/schema"
import type { Sheet } from "../../editor/sheet"
import { Act } from "../../look/Act"
import { useSheetState } from "./useSheetState"

interface Props {
  sheet: Sheet
  destination: { href: string; name: string } | null
  /** Make the link with these words in place of the selected ones. */
  onWords(words: string): void
}

/** Judges the words of the link that would be made, before it is: the page check reads the text as it would be. */
export function Judgement({ sheet, destination, onWords }: Props) {
  const [findings, setFindings] = useState<Finding[]>([])
  const { selection } = useSheetState(sheet)
  const words = selection.empty
    ? (linkAt(sheet.state)?.text ?? "")
    : sheet.state.doc.textBetween(selection.from, selection.to, " ", " ")
  const href = destination?.href
  const name = destination?.name
  useEffect(() => {
    setFindings([])
    if (!href || !name || !words) return
    const tr = insertLink(sheet.state, href, name)
    const { from, to } = sheet.state.selection
    let current = true
    const timer = window.setTimeout(async () => {
      try {
        const body = { document: textOf(tr.doc).document }
        const { findings: all } = await ask(client.POST("/api/check", { body }))
        const here = all.filter(({ check, path, span }) => {
          const block = positionOf(tr.doc, path)
          if (!check.startsWith("link-") || block === null || !span) return false
          return block + 1 + (span[0] ?? 0) <= to && block + 1 + (span[1] ?? 0) >= from
        })
        if (current) setFindings(here)
      } catch {
        // The words are judged again once the link stands; nothing is lost but the early word.
      }
    }, 200)
    return () => {
      current = false
      window.clearTimeout(timer)
    }
  }, [sheet, href, name, words])

  if (!words)
    return (
      <Text fontSize="sm" color="quiet">
        <Trans>Nothing is selected: the destination's own name becomes the words.</Trans>
      </Text>
    )
  return (
    <Stack gap="1" fontSize="sm" role="status">
      <Text color="quiet">
        <Trans>The words: “{words}”</Trans>
      </Text>
      {findings.map((finding) => (
        <Text key={finding.check} color="wrong">
          {finding.sentence}
        </Text>
      ))}
      {findings.length > 0 && name && !/^(https?|mailto|tel):/.test(name) && name !== words && (
        <Act onPress={() => onWords(name)}>
          <Trans>Let it say “{name}”</Trans>
        </Act>
      )}
    </Stack>
  )
}

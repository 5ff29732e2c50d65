/** The Notes: what the page check found, in reading order, each with its repairs. */

import { Button, chakra, Field, HStack, Stack, Text, Textarea } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { type KeyboardEvent, useEffect, useRef, useState } from "react"
import { type Allowance, ask, client, type Finding, type PageOut, type Severity } from "../../api/client"
import { findingsOf, type Placed, SEVERITY_WORDS } from "../../editor/findings"
import { textOf } from "../../editor/schema"
import type { Sheet } from "../../editor/sheet"
import { Act } from "../../look/Act"
import { Folded } from "../../look/Folded"
import { useSheetState } from "./useSheetState"

/** A shape and a word for each severity. */
export const SEVERITY: Record<Severity, [string, string]> = {
  blocks: ["■", SEVERITY_WORDS.blocks],
  mend: ["◆", SEVERITY_WORDS.mend],
  look: ["○", SEVERITY_WORDS.look],
}

/** What a note is known by while others come and go. */
export const noteKey = ({ finding, from }: Placed) => `${finding.key} ${from}`

interface Props {
  page: PageOut
  sheet: Sheet | null
  open: string | null
  onOpen(key: string | null): void
  onHelp(check: string): void
  onCheck(): void
}

export function Notes({ page, sheet, open, onOpen, onHelp, onCheck }: Props) {
  const state = useSheetState(sheet)
  const [told, setTold] = useState("")
  const all = findingsOf(state)
  const notes = all.filter(({ finding }) => !finding.allowed)
  const editable = sheet?.view.editable ?? false
  const opened = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (open) opened.current?.scrollIntoView({ block: "nearest" })
  }, [open])

  const show = (placed: Placed) => {
    onOpen(noteKey(placed))
    sheet?.showFinding(all.indexOf(placed), false)
  }
  /** Up and down go from note to note. */
  const key = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    const heads = [...event.currentTarget.querySelectorAll<HTMLElement>("[data-note]")]
    const next = by && heads[heads.indexOf(event.target as HTMLElement) + by]
    if (!next || !heads.includes(event.target as HTMLElement)) return
    event.preventDefault()
    next.focus()
  }
  const mended = (done: boolean | undefined, what: string) => {
    if (!done) {
      setTold(t`The text has changed there. The notes are being renewed; try again.`)
      return
    }
    setTold(what)
    // The note is gone with what it was about: work goes on in the text.
    sheet?.focus()
  }

  return (
    <>
      <Text fontSize="sm" color="quiet" pb="2">
        {notes.length ? counted(notes) : t`The page check finds nothing to mend.`}
      </Text>
      <Text role="status" fontSize="xs" color="quiet">
        {told}
      </Text>
      <chakra.ol listStyleType="none" aria-label={t`Notes, in the order of the page`} onKeyDown={key}>
        {notes.map((placed) => {
          const { finding } = placed
          const key = noteKey(placed)
          const alike = notes.filter((each) => each.finding.check === finding.check && each.finding.together)
          return (
            <Stack
              as="li"
              key={key}
              ref={open === key ? opened : undefined}
              gap="1.5"
              py="3"
              borderTopWidth="1px"
              borderColor="line"
            >
              <SeverityLine severity={finding.severity} />
              <Button
                variant="plain"
                h="auto"
                p="0"
                size="sm"
                whiteSpace="normal"
                wordBreak="break-word"
                textAlign="left"
                justifyContent="flex-start"
                lineHeight="1.4"
                fontWeight={open === key ? "600" : "400"}
                textDecoration="underline"
                textDecorationColor="line"
                textUnderlineOffset="3px"
                data-note
                aria-expanded={open === key}
                onClick={() => show(placed)}
              >
                {finding.sentence}
              </Button>
              {editable &&
                finding.repairs.map((repair) => (
                  <Stack key={repair.label} gap="1">
                    <RepairButton
                      label={repair.label}
                      onPress={() =>
                        mended(sheet?.repair(finding, repair), t`Done: ${repair.label}. Undo takes it back.`)
                      }
                    />
                    {open === key && repair.shows.length > 0 && <Shows lines={repair.shows} />}
                  </Stack>
                ))}
              {editable && open === key && alike.length > 1 && (
                <RepairButton
                  label={t`Mend all ${alike.length} of this sort`}
                  onPress={() =>
                    mended(
                      sheet?.mendAll(finding.check),
                      t`${alike.length} mended. Undo takes it back at once.`,
                    )
                  }
                />
              )}
              {open === key && (
                <Opened
                  page={page}
                  sheet={sheet}
                  finding={finding}
                  editable={editable}
                  onHelp={() => onHelp(finding.check)}
                  onAllowed={() => {
                    onOpen(null)
                    setTold(t`It is kept as right, with the reason.`)
                    onCheck()
                  }}
                />
              )}
            </Stack>
          )
        })}
      </chakra.ol>
      <Allowed
        page={page}
        editable={editable}
        allowed={all.flatMap(({ finding }) => (finding.allowed ? [finding.allowed] : []))}
        onTaken={onCheck}
      />
    </>
  )
}

/** “1 blocks publishing, 3 to mend, 2 to look at”. */
function counted(notes: Placed[]): string {
  const parts = (Object.keys(SEVERITY) as Severity[]).flatMap((severity) => {
    const number = notes.filter(({ finding }) => finding.severity === severity).length
    return number ? [`${number} ${SEVERITY[severity][1].toLowerCase()}`] : []
  })
  return parts.join(", ").replace(/^([2-9]|\d\d+) blocks/, "$1 block")
}

export function SeverityLine({ severity }: { severity: Severity }) {
  const [shape, words] = SEVERITY[severity]
  return (
    <Text fontSize="xs" color={severity === "look" ? "waits" : "wrong"} fontWeight="600">
      <span aria-hidden="true">{shape} </span>
      {words}
    </Text>
  )
}

function RepairButton({ label, onPress }: { label: string; onPress(): void }) {
  return (
    <Button
      size="xs"
      h="auto"
      minH="7"
      py="1"
      variant="outline"
      borderColor="press.solid"
      color="press.fg"
      whiteSpace="normal"
      wordBreak="break-word"
      alignSelf="flex-start"
      textAlign="left"
      onClick={onPress}
    >
      {label}
    </Button>
  )
}

/** What will stand there once a repair is made. */
function Shows({ lines }: { lines: string[] }) {
  return (
    <Stack
      gap="0"
      fontSize="sm"
      pl="2"
      borderLeftWidth="2px"
      borderColor="press.solid"
      aria-label={t`Will say`}
    >
      {lines.map((line, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: lines may be the same, and never move
        <Text key={index} wordBreak="break-word">
          {line}
        </Text>
      ))}
    </Stack>
  )
}

interface OpenedProps {
  page: PageOut
  sheet: Sheet | null
  finding: Finding
  editable: boolean
  onHelp(): void
  onAllowed(): void
}

/** The rest of a note: whom it hurts, where the rule is from, and what else can be done. */
function Opened({ page, sheet, finding, editable, onHelp, onAllowed }: OpenedProps) {
  const [reason, setReason] = useState("")
  const [problem, setProblem] = useState("")
  const allow = async () => {
    if (!sheet) return
    try {
      const body = { ...textOf(sheet.state.doc), key: finding.key, reason }
      await ask(
        client.POST("/api/pages/{page_id}/allowances", { params: { path: { page_id: page.id } }, body }),
      )
      onAllowed()
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  return (
    <Stack gap="2">
      <Text fontSize="sm" color="quiet" lineHeight="1.4">
        {finding.whom}
      </Text>
      <Text fontSize="xs" color="quiet">
        {finding.source}
      </Text>
      <HStack gap="1" flexWrap="wrap" alignItems="flex-start">
        <Act onPress={onHelp}>
          <Trans>What this means</Trans>
        </Act>
        {editable && finding.severity !== "blocks" && (
          <Folded label={t`It is right as it is…`}>
            <Field.Root>
              <Field.Label fontSize="sm">
                <Trans>Why? Approvers read this.</Trans>
              </Field.Label>
              <Textarea
                size="sm"
                rows={2}
                maxLength={500}
                bg="paper"
                borderColor="edge"
                value={reason}
                onChange={(event) => setReason(event.target.value)}
              />
            </Field.Root>
            <Act disabled={!reason.trim()} onPress={() => void allow()}>
              <Trans>Save it as right</Trans>
            </Act>
            <Text role="alert" fontSize="sm" color="wrong">
              {problem}
            </Text>
          </Folded>
        )}
      </HStack>
    </Stack>
  )
}

interface AllowedProps {
  page: PageOut
  editable: boolean
  allowed: Allowance[]
  onTaken(): void
}

/** What somebody has said is right as it is. */
function Allowed({ page, editable, allowed, onTaken }: AllowedProps) {
  const [problem, setProblem] = useState("")
  if (!allowed.length) return null
  const take = async (allowance: Allowance) => {
    const path = { page_id: page.id, allowance_id: allowance.id }
    try {
      await ask(client.DELETE("/api/pages/{page_id}/allowances/{allowance_id}", { params: { path } }))
      setProblem("")
    } catch (error) {
      setProblem((error as Error).message)
    }
    onTaken()
  }
  return (
    <chakra.section aria-label={t`Right as it is`} mt="4">
      <Text fontWeight="600" fontSize="sm" mb="1">
        <Trans>Right as it is</Trans>
      </Text>
      <chakra.ul listStyleType="none">
        {allowed.map((each) => (
          <Stack as="li" key={each.id} gap="1" py="2" borderTopWidth="1px" borderColor="line" fontSize="sm">
            <Text wordBreak="break-word">{each.sentence}</Text>
            <Text color="quiet" wordBreak="break-word">
              {each.by}: “{each.reason}”
            </Text>
            {editable && (
              <HStack>
                <Act onPress={() => void take(each)}>
                  <Trans>Undo</Trans>
                </Act>
              </HStack>
            )}
          </Stack>
        ))}
      </chakra.ul>
      <Text role="alert" fontSize="sm" color="wrong">
        {problem}
      </Text>
    </chakra.section>
  )
}

/** Beside the sheet on the left: the Outline, or the Notes of the page check. */
import { Box, type BoxProps, Button, chakra, HStack, Stack, Text } from "@chakra-ui/react"
import { useEffect, useRef } from "react"
import { findingsOf, type Placed } from "../../editor/findings"
import type { Sheet } from "../../editor/sheet"
import { Outline } from "./Outline"
import { useSheetState } from "./useSheetState"

export type LeftTab = "outline" | "notes"

interface Props {
  sheet: Sheet | null
  tab: LeftTab
  onTab(tab: LeftTab): void
  onSheet(): void
  /** Counts the wishes to come here by key. */
  focus: number
  /** Counts the wishes to go to the next note. */
  next: number
  display: BoxProps["display"]
  /** Whether something else stands over the sheet, which then must not be changed from here. */
  covered: boolean
}

export function Left({ sheet, tab, onTab, onSheet, focus, next, display, covered }: Props) {
  const state = useSheetState(sheet)
  const findings = findingsOf(state)
  const panel = useRef<HTMLDivElement>(null)
  const at = useRef(-1)

  useEffect(() => {
    if (focus > 0) (panel.current?.querySelector<HTMLElement>("button") ?? panel.current)?.focus()
  }, [focus])
  useEffect(() => {
    if (next === 0 || !sheet) return
    onTab("notes")
    const all = findingsOf(sheet.state)
    if (!all.length) return
    at.current = (at.current + 1) % all.length
    sheet.showFinding(at.current)
  }, [next, sheet, onTab])

  const tabs: [LeftTab, string][] = [
    ["outline", "Outline"],
    ["notes", findings.length ? `Notes (${findings.length})` : "Notes"],
  ]
  return (
    <Box
      as="section"
      aria-label="Outline and Notes"
      inert={covered}
      opacity={covered ? 0.5 : undefined}
      display={display}
      flexDirection="column"
      minH="0"
      borderRightWidth="1px"
      borderColor="line"
      onKeyDown={(event) => event.key === "Escape" && onSheet()}
    >
      <HStack role="tablist" aria-label="Beside the sheet" gap="0" px="2" pt="2">
        {tabs.map(([each, name]) => (
          <Button
            key={each}
            role="tab"
            id={`tab-${each}`}
            aria-selected={tab === each}
            aria-controls="left-panel"
            variant="plain"
            size="sm"
            px="2"
            color={tab === each ? "ink" : "quiet"}
            fontWeight={tab === each ? "600" : "400"}
            textDecoration={tab === each ? "underline" : undefined}
            textUnderlineOffset="6px"
            onClick={() => onTab(each)}
          >
            {name}
          </Button>
        ))}
      </HStack>
      <Box
        ref={panel}
        id="left-panel"
        role="tabpanel"
        aria-labelledby={`tab-${tab}`}
        tabIndex={-1}
        overflowY="auto"
        px="4"
        py="2"
        flex="1"
      >
        {tab === "outline" ? (
          <Outline sheet={sheet} doc={state.doc} findings={findings} />
        ) : (
          <Notes findings={findings} sheet={sheet} />
        )}
      </Box>
    </Box>
  )
}

const SEVERITY = { blocks: "Blocks publishing", mend: "To mend", look: "To look at" }

function Notes({ findings, sheet }: { findings: Placed[]; sheet: Sheet | null }) {
  if (!findings.length)
    return (
      <Text color="quiet" fontSize="sm">
        The page check finds nothing to mend.
      </Text>
    )
  return (
    <chakra.ol listStyleType="none">
      {findings.map(({ finding, from }, index) => (
        <Stack
          as="li"
          key={`${finding.check}-${from}`}
          gap="1"
          py="3"
          borderBottomWidth="1px"
          borderColor="line"
        >
          <Text fontSize="xs" color={finding.severity === "look" ? "quiet" : "wrong"} fontWeight="600">
            {SEVERITY[finding.severity]}
          </Text>
          <Button
            variant="plain"
            h="auto"
            p="0"
            size="sm"
            whiteSpace="normal"
            textAlign="left"
            justifyContent="flex-start"
            lineHeight="1.4"
            textDecoration="underline"
            textDecorationColor="line"
            textUnderlineOffset="3px"
            onClick={() => sheet?.showFinding(index)}
          >
            {finding.sentence}
          </Button>
          <Text fontSize="sm" color="quiet" lineHeight="1.4">
            {finding.whom}
          </Text>
          <Text fontSize="xs" color="quiet">
            {finding.source}
          </Text>
          {finding.repairs.map((repair) => (
            <Button
              key={repair.label}
              size="xs"
              h="auto"
              minH="7"
              py="1"
              variant="outline"
              borderColor="press.solid"
              color="press.fg"
              whiteSpace="normal"
              alignSelf="flex-start"
              textAlign="left"
              onClick={() => sheet?.repair(repair)}
            >
              {repair.label}
            </Button>
          ))}
        </Stack>
      ))}
    </chakra.ol>
  )
}

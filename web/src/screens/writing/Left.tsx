/** Beside the sheet on the left: the Outline, the Notes of the page check, or the listening view. */

import { type BoxProps, Button, Tabs } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import type { EditorState } from "prosemirror-state"
import { useEffect, useRef, useState } from "react"
import type { PageOut } from "../../api/client"
import { findingsOf, openFindings, type Placed } from "../../editor/findings"
import type { Sheet } from "../../editor/sheet"
import { firstStop } from "../../look/focus"
import { say } from "../../look/heard"
import { Listening } from "./Listening"
import { Notes, noteKey, SEVERITY } from "./Notes"
import { Outline } from "./Outline"
import type { Sight } from "./SheetFrame"
import { useOfSheet } from "./useSheetState"

export type LeftTab = "outline" | "notes" | "listening"

interface Props {
  sheet: Sheet | null
  tab: LeftTab
  onTab(tab: LeftTab): void
  onSheet(): void
  /** Counts the wishes to come here by key. */
  focus: number
  /** Counts the wishes to go to the next note, or to the one before. */
  next: { count: number; by: number }
  display: BoxProps["display"]
  /** Whether something else stands over the sheet, which then must not be changed from here. */
  covered: boolean
  page: PageOut
  /** Show what a check is about. */
  onHelp(check: string): void
  /** Have the page checked anew. */
  onCheck(): void
  sight: Sight
  onSight(sight: Sight): void
}

const written = (state: EditorState) => ({ doc: state.doc, findings: openFindings(state) })

export function Left(props: Props) {
  const { sheet, tab, onTab, onSheet, focus, next, display, covered, page, onHelp, onCheck } = props
  const { doc, findings } = useOfSheet(sheet, written)
  const panel = useRef<HTMLDivElement>(null)
  /** The key of the note that is open. */
  const [open, setOpen] = useState<string | null>(null)

  /** Whether Listening is gone to, and its lines have not come yet. */
  const [listens, setListens] = useState(false)
  const tabNow = useRef(tab)
  tabNow.current = tab
  useEffect(() => {
    if (focus === 0) return
    if (tabNow.current === "listening") {
      setListens(true)
      return
    }
    // A tab that was not shown before is drawn a moment later.
    let timer: number | undefined
    const enter = (times: number) => {
      if (panel.current) (firstStop(panel.current) ?? panel.current).focus()
      else if (times) timer = window.setTimeout(() => enter(times - 1), 16)
    }
    enter(30)
    return () => window.clearTimeout(timer)
  }, [focus])
  const toNotes = useRef(onTab)
  toNotes.current = onTab
  const opened = useRef(open)
  opened.current = open
  useEffect(() => {
    if (next.count === 0 || !sheet) return
    const all = openFindings(sheet.state)
    if (!all.length) {
      say(t`Nothing to mend`)
      return
    }
    toNotes.current("notes")
    const { current } = opened
    const at = all.findIndex((each) => noteKey(each) === current)
    const from = at < 0 && next.by < 0 ? 0 : at
    const index = (from + next.by + all.length) % all.length
    const following = all[index] as Placed
    setOpen(noteKey(following))
    sheet.showFinding(findingsOf(sheet.state).indexOf(following))
    const { severity, sentence } = following.finding
    say(t`${index + 1} of ${all.length}. ${SEVERITY[severity][1]}: ${sentence}`)
  }, [next, sheet])

  const tabs: [LeftTab, string][] = [
    ["outline", t`Outline`],
    ["notes", findings.length ? t`Notes (${findings.length})` : t`Notes`],
    ["listening", t`Listening`],
  ]
  return (
    <Tabs.Root
      value={tab}
      onValueChange={({ value }) => onTab(value as LeftTab)}
      // What is listened to is asked of the server: arrows only go there, Enter shows it.
      activationMode="manual"
      lazyMount
      unmountOnExit
      unstyled
      role="region"
      aria-label={t`Outline and Notes`}
      data-part="left"
      inert={covered}
      opacity={covered ? 0.5 : undefined}
      display={display}
      flexDirection="column"
      minH="0"
      borderRightWidth="1px"
      borderColor="line"
      onKeyDown={(event) => event.key === "Escape" && onSheet()}
    >
      <Tabs.List aria-label={t`Beside the sheet`} display="flex" px="1.5" pt="2" flexWrap="wrap">
        {tabs.map(([each, name]) => (
          <Tabs.Trigger key={each} value={each} asChild>
            <Button
              variant="plain"
              size="sm"
              px="1.5"
              color={tab === each ? "ink" : "quiet"}
              fontWeight={tab === each ? "600" : "400"}
              textDecoration={tab === each ? "underline" : undefined}
              textUnderlineOffset="6px"
            >
              {name}
            </Button>
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {tabs.map(([each]) => (
        <Tabs.Content
          key={each}
          value={each}
          ref={each === tab ? panel : undefined}
          tabIndex={-1}
          overflowY="auto"
          px="4"
          py="2"
          flex="1"
        >
          {each === "outline" ? (
            <Outline sheet={sheet} doc={doc} findings={findings} regions={page.palette.regions} />
          ) : each === "notes" ? (
            <Notes page={page} sheet={sheet} open={open} onOpen={setOpen} onHelp={onHelp} onCheck={onCheck} />
          ) : (
            <Listening
              page={page}
              sheet={sheet}
              sight={props.sight}
              onSight={props.onSight}
              wanted={listens}
              onThere={() => setListens(false)}
            />
          )}
        </Tabs.Content>
      ))}
    </Tabs.Root>
  )
}

/** The Outline: the headings in order. Whole sections are moved, raised and lowered from here. */

import { Button, chakra, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import type { Node } from "prosemirror-model"
import type { Transaction } from "prosemirror-state"
import { type DragEvent, type KeyboardEvent, useRef, useState } from "react"
import type { PageOut } from "../../api/client"
import { chordOf, shownChord } from "../../editor/chords"
import type { Placed } from "../../editor/findings"
import {
  copySection,
  moveSection,
  moveTo,
  type Section,
  sectionsOf,
  shiftSection,
} from "../../editor/sections"
import type { Sheet } from "../../editor/sheet"
import { say } from "../../look/heard"
import { Toolbar } from "../../look/Toolbar"

interface Props {
  sheet: Sheet | null
  doc: Node
  findings: Placed[]
  /** Those of the theme. */
  regions: PageOut["palette"]["regions"]
}

/** Keys that act on a section while its line has the focus. */
const ACTS: Record<string, { does: string; make(sheet: Sheet, section: Section): Transaction | null }> = {
  "Mod+ArrowUp": { does: t`moved up`, make: (sheet, section) => moveSection(sheet.state, section, -1) },
  "Mod+ArrowDown": { does: t`moved down`, make: (sheet, section) => moveSection(sheet.state, section, 1) },
  "Mod+ArrowLeft": { does: t`raised`, make: (sheet, section) => shiftSection(sheet.state, section, -1) },
  "Mod+ArrowRight": { does: t`lowered`, make: (sheet, section) => shiftSection(sheet.state, section, 1) },
}
const BUTTONS: [string, string, string][] = [
  ["Mod+ArrowUp", "↑", t`Move up`],
  ["Mod+ArrowDown", "↓", t`Move down`],
  ["Mod+ArrowLeft", "←", t`Raise a level`],
  ["Mod+ArrowRight", "→", t`Lower a level`],
]

const nameOf = (section: Section) => section.words || t`An empty heading`

export function Outline({ sheet, doc, findings, regions }: Props) {
  const sections = sectionsOf(doc)
  const [at, setAt] = useState(0)
  const [told, setTold] = useState("")
  const [dragged, setDragged] = useState<Section | null>(null)
  const [over, setOver] = useState<number | null>(null)
  const editable = sheet?.view.editable ?? false
  const current = sections[at] ?? sections[0]

  const done = (section: Section, tr: Transaction | null, does: string) => {
    if (!sheet || !tr) {
      setTold(t`“${nameOf(section)}” cannot be ${does} any further`)
      return
    }
    const heading = sheet.state.doc.nodeAt(section.from)
    sheet.step(tr)
    const { doc: now } = sheet.state
    const after = sectionsOf(now)
    // A moved heading is the very same node; a raised or lowered one is another, but stands where it stood.
    const moved = after.findIndex(({ from }) => now.nodeAt(from) === heading)
    setAt(
      moved >= 0
        ? moved
        : Math.max(
            0,
            after.findIndex(({ from }) => from === section.from),
          ),
    )
    setTold(t`“${nameOf(section)}” ${does}, with all that stands under it`)
  }
  const act = (name: string, section: Section | undefined) => {
    const found = ACTS[name]
    if (sheet && found && section && editable) done(section, found.make(sheet, section), found.does)
  }
  const list = useRef<HTMLOListElement>(null)
  const toLine = (index: number) => {
    const lines = list.current?.querySelectorAll<HTMLElement>("[data-line]")
    lines?.[Math.max(0, Math.min(index, lines.length - 1))]?.focus()
  }
  const key = (event: KeyboardEvent, section: Section, index: number) => {
    const chord = chordOf(event.nativeEvent) ?? ""
    const to: Record<string, number> = {
      ArrowUp: index - 1,
      ArrowDown: index + 1,
      Home: 0,
      End: sections.length - 1,
    }
    const line = to[chord]
    if (!ACTS[chord] && line === undefined) return
    event.preventDefault()
    if (line === undefined) act(chord, section)
    else toLine(line)
  }
  const drop = (event: DragEvent, target: Section) => {
    event.preventDefault()
    setOver(null)
    if (!sheet || !dragged) return
    const further = target.from > dragged.from
    done(dragged, moveTo(sheet.state, dragged, further ? target.to : target.from), "moved")
    setDragged(null)
  }

  if (!sections.length)
    return (
      <Text color="quiet" fontSize="sm">
        <Trans>
          No headings yet. Put the caret in a line and press 2 on the ladder (the row of levels above the
          sheet): that makes it a main heading.
        </Trans>
      </Text>
    )
  return (
    <>
      <chakra.ol listStyleType="none" ref={list} aria-label={t`Headings in order`}>
        {sections.map((section, index) => [
          doc.childCount > 1 && section.region !== sections[index - 1]?.region && (
            <chakra.li key={section.region} color="quiet" fontSize="sm" pt="2">
              {regions.find(({ name }) => name === section.region)?.label ?? section.region}
            </chakra.li>
          ),
          <chakra.li
            key={section.from}
            style={{ paddingLeft: `${(section.level - 2) * 0.9}rem` }}
            borderTop="2px solid"
            borderColor={over === index ? "press.solid" : "transparent"}
            draggable={editable}
            onDragStart={() => setDragged(section)}
            onDragOver={(event) => {
              event.preventDefault()
              setOver(index)
            }}
            onDragEnd={() => setOver(null)}
            onDrop={(event) => drop(event, section)}
          >
            <Button
              variant="plain"
              size="sm"
              h="auto"
              minH="8"
              px="0"
              py="1"
              w="full"
              whiteSpace="normal"
              justifyContent="flex-start"
              alignItems="baseline"
              textAlign="left"
              fontWeight="400"
              gap="2"
              _hover={{ textDecoration: "underline", textUnderlineOffset: "4px" }}
              data-line
              tabIndex={section === current ? 0 : -1}
              aria-current={section === current ? "true" : undefined}
              onFocus={() => setAt(index)}
              onKeyDown={(event) => key(event, section, index)}
              onClick={() => sheet?.goTo(section.from)}
            >
              <chakra.span color="quiet" fontVariantNumeric="tabular-nums">
                <chakra.span srOnly>
                  <Trans>Level </Trans>
                </chakra.span>
                {section.level}
              </chakra.span>
              <chakra.span flex="1">{nameOf(section)}</chakra.span>
              <Count notes={notesIn(sections, index, findings)} />
            </Button>
            {editable && section === current && (
              <Toolbar aria-label={t`The section “${nameOf(section)}”`} gap="1" pb="1">
                {BUTTONS.map(([name, sign, label]) => (
                  <Button
                    key={label}
                    size="xs"
                    px="1.5"
                    variant="outline"
                    aria-label={`${label}: “${nameOf(section)}”`}
                    title={t`${label} (${shownChord(name)} on its line)`}
                    onClick={() => act(name, section)}
                  >
                    {sign}
                  </Button>
                ))}
                <Button
                  size="xs"
                  variant="outline"
                  aria-label={t`Duplicate the section “${nameOf(section)}”`}
                  onClick={() => {
                    if (!sheet) return
                    sheet.step(copySection(sheet.state, section).scrollIntoView())
                    sheet.focus()
                    say(t`A copy of the section stands below it; its heading is selected.`)
                  }}
                >
                  <Trans>Duplicate</Trans>
                </Button>
              </Toolbar>
            )}
          </chakra.li>,
        ])}
      </chakra.ol>
      <Text role="status" fontSize="xs" color="quiet" mt="2" minH="1.5em">
        {told}
      </Text>
    </>
  )
}

/** How many findings stand between a heading and the next. */
function notesIn(sections: Section[], index: number, findings: Placed[]): number {
  const from = sections[index]?.from ?? 0
  const to = sections[index + 1]?.from ?? Number.POSITIVE_INFINITY
  return findings.filter((each) => each.from >= from && each.from < to).length
}

function Count({ notes }: { notes: number }) {
  if (!notes) return null
  return (
    <chakra.span color="wrong" fontSize="xs" whiteSpace="nowrap">
      {plural(notes, { one: "# note", other: "# notes" })}
    </chakra.span>
  )
}

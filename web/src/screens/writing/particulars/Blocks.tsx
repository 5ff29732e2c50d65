/** The particulars of blocks: tables, quotations, asides, preformatted text, calls to action, equations. */

import { HStack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import type { Node } from "prosemirror-model"
import { type Command, NodeSelection } from "prosemirror-state"
import { useEffect, useState } from "react"
import { ASIDES, longestOf, rangeOf } from "../../../document/rules"
import { type Around, around, toSource, unwrap } from "../../../editor/blocks"
import { kinds } from "../../../editor/commands"
import { type Rendered, render } from "../../../editor/kinds/equation"
import type { Known } from "../../../editor/known"
import type { Sheet } from "../../../editor/sheet"
import {
  deleteTable,
  hasHeader,
  headerColumn,
  headerRow,
  placeInTable,
  selectedCells,
  TABLE_ACTS,
  tableAt,
  toCaption,
} from "../../../editor/tables"
import { Act } from "../../../look/Act"
import { Destination } from "./Link"
import { Acts, CheckedWords, OneOf, Section, Words } from "./parts"

interface Props {
  sheet: Sheet
}

const run = (sheet: Sheet, command: Command) => () => {
  command(sheet.state, (tr) => sheet.step(tr), sheet.view)
}

export function TableParticulars({ sheet }: Props) {
  const { state } = sheet
  const found = tableAt(state)
  if (!found) return null
  const inGrid = placeInTable(state) !== null
  return (
    <Section title={t`This table`}>
      <Text fontSize="sm" color="quiet" role="status">
        {selectedCells(state) || t`The caret is in the caption.`}
      </Text>
      {inGrid && (
        <Acts label={t`Headers`}>
          <Act pressed={hasHeader(found.node, "row")} onPress={run(sheet, headerRow)}>
            <Trans>First row</Trans>
          </Act>
          <Act pressed={hasHeader(found.node, "column")} onPress={run(sheet, headerColumn)}>
            <Trans>First column</Trans>
          </Act>
        </Acts>
      )}
      {inGrid &&
        TABLE_ACTS.map(({ group, acts }) => (
          <Acts key={group} label={group}>
            {acts.map(({ name, command }) => (
              <Act key={name} disabled={!command(state)} onPress={run(sheet, command)}>
                {name}
              </Act>
            ))}
          </Acts>
        ))}
      <HStack gap="1" flexWrap="wrap">
        <Act
          onPress={() => {
            sheet.step(toCaption(state, found))
            sheet.focus()
          }}
        >
          {found.node.childCount > 1 ? t`To its caption` : t`Add a caption`}
        </Act>
        <Act
          onPress={() => {
            run(sheet, deleteTable)()
            sheet.focus()
          }}
        >
          <Trans>Remove the table</Trans>
        </Act>
      </HStack>
    </Section>
  )
}

export function HolderParticulars({ sheet }: Props) {
  const aside = around(sheet.state, kinds.aside)
  const quotation = around(sheet.state, kinds.quotation)
  const found = aside ?? quotation
  if (!found) return null
  return (
    <Section title={aside ? t`This aside` : t`This quotation`}>
      {aside && (
        <OneOf
          label={t`Sort`}
          ways={Object.entries(ASIDES)}
          value={aside.node.attrs.sort}
          onValue={(sort) => sheet.set(aside.position, { sort })}
        />
      )}
      <HStack gap="1" flexWrap="wrap">
        {quotation && (
          <Act
            onPress={() => {
              sheet.step(toSource(sheet.state, quotation))
              sheet.focus()
            }}
          >
            {quotation.node.childCount > 1 ? t`To its source` : t`Add its source`}
          </Act>
        )}
        <Act onPress={() => sheet.step(unwrap(sheet.state, found))}>
          <Trans>Make it running text</Trans>
        </Act>
      </HStack>
    </Section>
  )
}

/** The number that a numbered list begins with. */
const [, MOST] = rangeOf("numbered_list", "start")

export function ListParticulars({ sheet }: Props) {
  const found = around(sheet.state, kinds.numbered_list)
  if (!found) return null
  return (
    <Section title={t`This numbered list`}>
      <CheckedWords
        label={t`Begins with`}
        value={String(found.node.attrs.start)}
        maxLength={String(MOST).length}
        form={/^\d{1,6}$/}
        otherwise={t`A whole number of up to six digits.`}
        onWords={(words, goesOn) => sheet.set(found.position, { start: Number(words) }, goesOn)}
      />
    </Section>
  )
}

export function PreformattedParticulars({ sheet }: Props) {
  const found = around(sheet.state, kinds.preformatted)
  if (!found) return null
  return (
    <Section title={t`This preformatted text`}>
      <CheckedWords
        label={t`Language`}
        value={found.node.attrs.language ?? ""}
        maxLength={longestOf("preformatted", "language")}
        placeholder="python, html, none"
        help={t`The programming language, if it is code.`}
        form={/^[A-Za-z0-9+#._-]{0,40}$/}
        otherwise={t`Letters, digits and + # . _ - alone; no spaces.`}
        onWords={(words, goesOn) => sheet.set(found.position, { language: words || null }, goesOn)}
      />
    </Section>
  )
}

interface CallProps extends Props {
  known: Known
  onChoose(): void
}

export function CallParticulars({ sheet, known, onChoose }: CallProps) {
  const found = around(sheet.state, kinds.call_to_action)
  const fits = useFit(sheet, found)
  if (!found) return null
  const { href, emphasis } = found.node.attrs
  return (
    <Section title={t`This call to action`}>
      {href ? (
        <Destination href={href} known={known} />
      ) : (
        <Text fontSize="sm" color="wrong">
          <Trans>It leads nowhere yet.</Trans>
        </Text>
      )}
      <HStack gap="1">
        <Act onPress={onChoose}>{href ? t`Change the destination` : t`Choose the destination`}</Act>
      </HStack>
      <OneOf
        label={t`Emphasis`}
        ways={[
          ["main", t`Main`],
          ["quiet", t`Quiet`],
        ]}
        value={emphasis}
        onValue={(value) => sheet.set(found.position, { emphasis: value })}
      />
      <Text fontSize="sm" color={fits && fits.lines > 1 ? "waits" : "quiet"} role="status">
        {fits && fitSentence(fits)}
      </Text>
    </Section>
  )
}

interface Fit {
  characters: number
  width: number
  /** Lines on the narrowest screen that pages are made for, 320 px. */
  lines: number
}

const fitSentence = ({ characters, width, lines }: Fit) => {
  const long = t`${characters} characters, ${width} px wide.`
  return lines > 1
    ? t`${long} On a small phone (320 px) it takes ${lines} lines: shorter is better.`
    : t`${long} It fits on one line on a small phone (320 px).`
}

function measured(page: Document, words: string): Fit {
  const text = page.createElement("div")
  text.className = t`text unseen`
  const line = page.createElement("p")
  line.className = "call"
  const label = page.createElement("a")
  label.textContent = words
  line.append(label)
  text.append(line)
  page.body.append(text)
  Object.assign(text.style, { width: "2000px", height: "auto", whiteSpace: "pre-wrap" })
  const wide = label.getBoundingClientRect()
  text.style.width = `${320 - 48}px`
  const narrow = label.getBoundingClientRect().height
  const lineHeight = Number.parseFloat(page.defaultView?.getComputedStyle(label).lineHeight ?? "") || 1
  text.remove()
  return {
    characters: [...words].length,
    width: Math.round(wide.width),
    lines: 1 + Math.round((narrow - wide.height) / lineHeight),
  }
}

/** How the label of a call to action will fit, measured in the theme itself. */
function useFit(sheet: Sheet, found: Around | null): Fit | null {
  const [fit, setFit] = useState<Fit | null>(null)
  const words = found?.node.textContent ?? ""
  const there = found !== null
  useEffect(() => {
    if (!there) return
    const page = sheet.view.dom.ownerDocument
    let current = true
    const look = () => current && setFit(measured(page, words))
    look()
    // The first look may come before the theme's own face has.
    void page.fonts.ready.then(look)
    return () => {
      current = false
    }
  }, [sheet, words, there])
  return fit
}

interface EquationProps extends Props {
  node: Node
  position: number
  editable: boolean
}

/** An equation: its LaTeX, what comes of it, and where it cannot be read. */
export function EquationParticulars({ sheet, node, position, editable }: EquationProps) {
  const display = node.type === kinds.equation
  const [typed, setTyped] = useState<string>(node.attrs.latex)
  const [shown, setShown] = useState<Rendered | null>(null)
  useEffect(() => setTyped(node.attrs.latex), [node.attrs.latex])
  useEffect(() => {
    let current = true
    const timer = window.setTimeout(() => {
      render(typed, display).then((rendered) => current && setShown(rendered))
    }, 150)
    return () => {
      current = false
      window.clearTimeout(timer)
    }
  }, [typed, display])

  const set = (latex: string, goesOn: boolean) => {
    setTyped(latex)
    if (!latex.trim()) return
    const tr = sheet.state.tr.setNodeMarkup(position, null, { latex })
    tr.setSelection(NodeSelection.create(tr.doc, position))
    sheet.step(tr, goesOn)
  }
  return (
    <Section title={display ? t`This equation` : t`This formula`}>
      <Words
        label={t`LaTeX`}
        value={typed}
        maxLength={longestOf("formula", "latex")}
        disabled={!editable}
        placeholder="\frac{a}{b}"
        help={t`As in ${"\\frac{a}{b}, x^2, \\sqrt{2 g h}"}. Readers get it as MathML, which screen readers speak.`}
        onWords={set}
      />
      <div role="status">
        {shown?.kind === "refused" && <Fault latex={typed} sentence={shown.sentence} place={shown.place} />}
        {shown?.kind === "away" && <Text fontSize="sm">{shown.sentence}</Text>}
        {shown?.kind === "shown" && <MathLine mathml={shown.mathml} />}
      </div>
      <HStack gap="1">
        <Act
          disabled={!editable}
          onPress={() => {
            sheet.step(sheet.state.tr.delete(position, position + node.nodeSize))
            sheet.focus()
          }}
        >
          <Trans>Remove from the page</Trans>
        </Act>
      </HStack>
    </Section>
  )
}

/** The LaTeX with the place of the fault marked. */
function Fault({ latex, sentence, place }: { latex: string; sentence: string; place: number }) {
  return (
    <Text fontSize="sm" color="wrong">
      {sentence}
      <Text as="span" display="block" fontFamily="mono" mt="1" wordBreak="break-all">
        {latex.slice(0, place)}
        <Text as="mark" bg="lit" color="wrong" borderBottom="3px solid">
          {latex.slice(place, place + 1) || "␣"}
        </Text>
        {latex.slice(place + 1)}
      </Text>
      <Text as="span" color="quiet">
        <Trans>At character {place + 1}.</Trans>
      </Text>
    </Text>
  )
}

function MathLine({ mathml }: { mathml: string }) {
  // The server makes this MathML from its own short list of elements and attributes.
  const inside = { __html: mathml }
  return (
    <Text
      as="div"
      role="group"
      aria-label={t`What readers get`}
      tabIndex={0}
      fontSize="xl"
      overflowX="auto"
      // biome-ignore lint/security/noDangerouslySetInnerHtml: see above
      dangerouslySetInnerHTML={inside}
    />
  )
}

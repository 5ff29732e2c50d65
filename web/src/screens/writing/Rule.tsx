/** The rule: what the text at the caret is. The ladder stands first; the level at the caret is lit. */
import { Button, chakra, HStack } from "@chakra-ui/react"
import { redo, redoDepth, undo, undoDepth } from "prosemirror-history"
import type { Command, EditorState } from "prosemirror-state"
import { type ReactNode, useState } from "react"
import { ASIDES } from "../../document/rules"
import { around, toggleAside, toggleQuotation } from "../../editor/blocks"
import {
  clearFormatting,
  hasMark,
  kinds,
  levelAbove,
  levelAt,
  linkAt,
  listAt,
  markKinds,
  setLevel,
  toggle,
  toggleEmphasis,
  toggleList,
  togglePreformatted,
  toggleStrong,
} from "../../editor/commands"
import { type Align, setAlign, settingAt } from "../../editor/setting"
import type { Sheet } from "../../editor/sheet"
import { Toolbar } from "../../look/Toolbar"
import type { Width } from "./SheetFrame"
import { useOfSheet } from "./useSheetState"

interface Props {
  sheet: Sheet | null
  onLink(): void
  width: Width
  onWidth(width: Width): void
  part: "left" | "sheet" | "shelf"
  onPart(part: "left" | "sheet" | "shelf"): void
  /** Whether something else stands over the sheet, which then must not be changed. */
  covered: boolean
}

const LEVELS = [0, 2, 3, 4, 5, 6]
const MORE = [
  ["underline", "Underline"],
  ["strike", "Strike"],
  ["superscript", "Superscript"],
  ["subscript", "Subscript"],
  ["code", "Code"],
] as const
const ALIGNS: [Align, string][] = [
  [null, "start"],
  ["centre", "centre"],
  ["end", "end"],
]
const WIDTHS: [Width, string][] = [
  ["fit", "As wide as here"],
  [390, "Phone"],
  [820, "Tablet"],
  [1280, "Desktop"],
]

/** What holds at the caret. */
function heldAt(state: EditorState) {
  return {
    level: levelAt(state),
    above: levelAbove(state),
    list: listAt(state),
    marks: Object.values(markKinds).filter((kind) => hasMark(state, kind)),
    linked: linkAt(state) !== null,
    quoted: around(state, kinds.quotation) !== null,
    aside: around(state, kinds.aside)?.node.attrs.sort as string | undefined,
    preformatted: state.selection.$from.parent.type === kinds.preformatted,
    align: settingAt(state).align,
    undoes: undoDepth(state) > 0,
    redoes: redoDepth(state) > 0,
  }
}

export function Rule({ sheet, onLink, width, onWidth, part, onPart, covered }: Props) {
  const { level, above, list, marks, align: stands, ...held } = useOfSheet(sheet, heldAt)
  const [more, setMore] = useState(false)
  const editable = (sheet?.view.editable ?? false) && !covered

  const run = (command: Command) => () => {
    if (!sheet) return
    command(sheet.state, (tr) => sheet.dispatch(tr), sheet.view)
    sheet.focus()
  }

  const toSheet = () => sheet?.focus()
  return (
    <HStack
      as="section"
      aria-label="The rule and the reading width"
      borderBottomWidth="1px"
      borderColor="line"
      px="4"
      py="1"
      gap="1"
      flexWrap="wrap"
      justifyContent="space-between"
      bg="paper"
    >
      <Toolbar aria-label="The rule: what this text is" onEscape={toSheet}>
        <HStack role="group" aria-label="Ladder of levels" gap="0.5">
          {LEVELS.map((each) => {
            const skips = each > above + 1
            const name = each === 0 ? "Running text" : `Heading of level ${each}`
            const why = skips
              ? `: would skip a level, since ${above === 1 ? "the title" : `level ${above}`} stands above`
              : ""
            return (
              <Tool
                key={each}
                name={name + why}
                pressed={level === each && (each > 0 || !list)}
                open={skips}
                disabled={!editable}
                onPress={run(setLevel(each))}
              >
                {each === 0 ? "text" : each}
              </Tool>
            )
          })}
        </HStack>
        <Gap />
        <Tool
          name="Strong (Ctrl+B)"
          pressed={marks.includes(markKinds.strong)}
          disabled={!editable}
          onPress={run(toggleStrong)}
        >
          <b>strong</b>
        </Tool>
        <Tool
          name="Emphasis (Ctrl+I)"
          pressed={marks.includes(markKinds.emphasis)}
          disabled={!editable}
          onPress={run(toggleEmphasis)}
        >
          <i>emphasis</i>
        </Tool>
        <Tool
          name="More: other ways to mark words"
          expanded={more}
          disabled={!editable}
          onPress={() => setMore(!more)}
        >
          more
        </Tool>
        <Gap />
        <Tool
          name="Bulleted list"
          pressed={list === kinds.bulleted_list}
          disabled={!editable}
          onPress={run(toggleList(kinds.bulleted_list))}
        >
          bulleted
        </Tool>
        <Tool
          name="Numbered list"
          pressed={list === kinds.numbered_list}
          disabled={!editable}
          onPress={run(toggleList(kinds.numbered_list))}
        >
          numbered
        </Tool>
        <Gap />
        <Tool name="Link (Ctrl+K)" pressed={held.linked} disabled={!editable} onPress={onLink}>
          link
        </Tool>
        <Gap />
        <Tool name="Undo (Ctrl+Z)" disabled={!editable || !held.undoes} onPress={run(undo)}>
          undo
        </Tool>
        <Tool name="Redo (Ctrl+Y)" disabled={!editable || !held.redoes} onPress={run(redo)}>
          redo
        </Tool>
      </Toolbar>
      <Toolbar aria-label="Reading width" onEscape={toSheet} display={{ base: "none", lg: "flex" }}>
        {WIDTHS.map(([each, name]) => (
          <Tool
            key={each}
            name={`Show at the width of: ${name}`}
            pressed={width === each}
            onPress={() => onWidth(each)}
          >
            {name}
          </Tool>
        ))}
      </Toolbar>
      <Toolbar aria-label="Show" onEscape={toSheet} display={{ base: "flex", lg: "none" }}>
        {(["left", "sheet", "shelf"] as const).map((each) => (
          <Tool
            key={each}
            name={{ left: "Outline and Notes", sheet: "Sheet", shelf: "Shelf" }[each]}
            pressed={part === each}
            onPress={() => onPart(each)}
          >
            {{ left: "Outline", sheet: "Sheet", shelf: "Shelf" }[each]}
          </Tool>
        ))}
      </Toolbar>
      {more && (
        <Toolbar aria-label="More ways to mark words" onEscape={toSheet} flexBasis="full">
          {MORE.map(([type, name]) => (
            <Tool
              key={type}
              name={name}
              pressed={marks.includes(markKinds[type])}
              disabled={!editable}
              onPress={run(toggle(markKinds[type]))}
            >
              {name.toLowerCase()}
            </Tool>
          ))}
          <Gap />
          <Tool name="Quotation" pressed={held.quoted} disabled={!editable} onPress={run(toggleQuotation)}>
            quotation
          </Tool>
          {Object.entries(ASIDES).map(([sort, label]) => (
            <Tool
              key={sort}
              name={`Aside: ${label.toLowerCase()}`}
              pressed={held.aside === sort}
              disabled={!editable}
              onPress={run(toggleAside(sort))}
            >
              {label.toLowerCase()}
            </Tool>
          ))}
          <Tool
            name="Preformatted"
            pressed={held.preformatted}
            disabled={!editable}
            onPress={run(togglePreformatted)}
          >
            preformatted
          </Tool>
          <Gap />
          {ALIGNS.map(([align, name]) => (
            <Tool
              key={name}
              name={`Stands at the ${name}`}
              pressed={stands === align}
              disabled={!editable}
              onPress={run(setAlign(align))}
            >
              {name}
            </Tool>
          ))}
          <Gap />
          <Tool name="No formatting" disabled={!editable} onPress={run(clearFormatting)}>
            no formatting
          </Tool>
        </Toolbar>
      )}
    </HStack>
  )
}

const Gap = () => (
  <chakra.span w="1px" h="5" mx="2" bg="line" aria-hidden="true" display={{ base: "none", lg: "block" }} />
)

interface ToolProps {
  name: string
  pressed?: boolean
  /** Whether more is shown; for a tool that shows more. */
  expanded?: boolean
  /** Drawn open: possible, but there is a reason against it. */
  open?: boolean
  disabled?: boolean
  onPress(): void
  children: ReactNode
}

/** One word of the rule. What holds at the caret is underlined and lit, so that colour is not alone. */
function Tool({ name, pressed, expanded, open, disabled, onPress, children }: ToolProps) {
  return (
    <Button
      variant="plain"
      size="sm"
      h="8"
      minW="8"
      px="2"
      fontWeight="450"
      fontSize="sm"
      borderRadius="0"
      color={pressed || expanded ? "press.fg" : "ink"}
      bg={pressed ? "lit" : "transparent"}
      borderBottom="3px solid"
      borderBottomColor={pressed ? "press.solid" : "transparent"}
      outline={open ? "1px dashed" : undefined}
      outlineColor={open ? "edge" : undefined}
      outlineOffset={open ? "-3px" : undefined}
      _hover={{ bg: "press.muted" }}
      _disabled={{ opacity: 0.55 }}
      aria-label={name}
      title={name}
      aria-pressed={pressed}
      aria-expanded={expanded}
      disabled={disabled}
      onMouseDown={(event) => event.preventDefault()}
      onClick={onPress}
    >
      {children}
    </Button>
  )
}

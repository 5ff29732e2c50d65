/** The rule: what the text at the caret is. The ladder stands first; the level at the caret is lit. */

import { Button, chakra, HStack } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { redoDepth, undoDepth } from "prosemirror-history"
import type { EditorState } from "prosemirror-state"
import type { ReactNode } from "react"
import { ASIDES } from "../../document/rules"
import type { TextAct } from "../../editor/acts"
import { around } from "../../editor/blocks"
import { shownChord } from "../../editor/chords"
import { hasMark, kinds, levelAbove, levelAt, linkAt, listAt, markKinds } from "../../editor/commands"
import { ALIGNS, settingAt } from "../../editor/setting"
import type { Sheet } from "../../editor/sheet"
import { useChoice } from "../../look/choices"
import { Toolbar } from "../../look/Toolbar"
import { ACTS, type AnyAct, keysOf } from "./bindings"
import { WIDTHS } from "./desk"
import type { Part } from "./parts"
import { perform } from "./performing"
import type { Width } from "./SheetFrame"
import { useOfSheet } from "./useSheetState"

interface Props {
  sheet: Sheet | null
  onLink(): void
  width: Width
  onWidth(width: Width): void
  part: Part
  onPart(part: Part): void
  /** What is folded away on a wide screen. */
  folded: { left: boolean; shelf: boolean }
  onFold(which: "left" | "shelf"): void
  /** Whether something else stands over the sheet, which then must not be changed. */
  covered: boolean
}

const LEVELS = [0, 2, 3, 4, 5, 6]
const MORE = ["underline", "strike", "superscript", "subscript", "code"] as const
const PARTS = [
  ["left", t`Outline`, t`Outline and Notes`],
  ["text", t`Sheet`, t`Sheet`],
  ["shelf", t`Shelf`, t`Shelf`],
] as const

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

const BY_ID = new Map<string, AnyAct>(ACTS.map((act) => [act.id, act]))

/** An act's name with its chord, as a tool shows it. */
function useNames(): (id: string) => string {
  const [own] = useChoice("keys")
  return (id) => {
    const act = BY_ID.get(id) as AnyAct
    const keys = keysOf(act, own ?? {})
    return keys ? `${act.name} (${shownChord(keys)})` : act.name
  }
}

export function Rule(props: Props) {
  const { sheet, onLink, width, onWidth, part, onPart, folded, onFold, covered } = props
  const { level, above, list, marks, align: stands, ...held } = useOfSheet(sheet, heldAt)
  const [more, setMore] = useChoice("more_marks")
  const named = useNames()
  const editable = (sheet?.view.editable ?? false) && !covered
  const toSheet = () => sheet?.focus()

  const tool = (id: string, word: ReactNode, pressed?: boolean, rest: Partial<ToolProps> = {}) => (
    <Tool
      key={id}
      name={named(id)}
      pressed={pressed}
      disabled={!editable}
      onPress={() => {
        if (!sheet) return
        perform(BY_ID.get(id) as TextAct, sheet)
        sheet.focus()
      }}
      {...rest}
    >
      {word}
    </Tool>
  )
  const rung = (each: number) => {
    const skips = each > above + 1
    const why = skips
      ? above === 1
        ? t`: would skip a level, since the title stands above`
        : t`: would skip a level, since level ${above} stands above`
      : ""
    const pressed = level === each && (each > 0 || !list)
    const id = `level-${each}`
    return tool(id, each === 0 ? "text" : each, pressed, { name: named(id) + why, open: skips })
  }
  const ruled = { base: ["left", "shelf"].includes(part) ? "none" : "flex", lg: "flex" }

  return (
    <HStack
      as="section"
      aria-label={t`The rule and the reading width`}
      data-part="rule"
      borderBottomWidth="1px"
      borderColor="line"
      px={{ base: "1", lg: "4" }}
      py={{ base: "0", lg: "1" }}
      gap="1"
      flexWrap="wrap"
      justifyContent="space-between"
      bg="paper"
    >
      <Toolbar
        aria-label={t`The rule: what this text is`}
        onEscape={toSheet}
        display={ruled}
        flexWrap={{ base: "nowrap", lg: "wrap" }}
        overflowX={{ base: "auto", lg: "visible" }}
        minW="0"
        py="1px"
      >
        <HStack role="group" aria-label={t`Ladder of levels`} gap="0.5">
          {LEVELS.map(rung)}
        </HStack>
        <Gap />
        {tool(
          "strong",
          <b>
            <Trans>strong</Trans>
          </b>,
          marks.includes(markKinds.strong),
        )}
        {tool(
          "emphasis",
          <i>
            <Trans>emphasis</Trans>
          </i>,
          marks.includes(markKinds.emphasis),
        )}
        <Tool
          name={t`More: other ways to mark words`}
          expanded={Boolean(more)}
          disabled={!editable}
          onPress={() => setMore(!more)}
        >
          <Trans>more</Trans>
        </Tool>
        <Gap />
        {tool("bulleted", "bulleted", list === kinds.bulleted_list)}
        {tool("numbered", "numbered", list === kinds.numbered_list)}
        <Gap />
        {tool("link", "link", held.linked, { onPress: onLink })}
        <Gap />
        {tool("undo", "undo", undefined, { disabled: !editable || !held.undoes })}
        {tool("redo", "redo", undefined, { disabled: !editable || !held.redoes })}
      </Toolbar>
      <Toolbar
        aria-label={t`Reading width and panels`}
        onEscape={toSheet}
        display={{ base: "none", lg: "flex" }}
      >
        {WIDTHS.map(([each, name]) => (
          <Tool
            key={each}
            name={t`Show at the width of: ${name}`}
            pressed={width === each}
            onPress={() => onWidth(each)}
          >
            {name}
          </Tool>
        ))}
        <Gap />
        {(["left", "shelf"] as const).map((each) => (
          <Tool
            key={each}
            name={t`Beside the sheet: ${each === "left" ? t`Outline and Notes` : t`the Shelf`}`}
            expanded={!folded[each]}
            onPress={() => onFold(each)}
          >
            {each === "left" ? t`Outline` : t`Shelf`}
          </Tool>
        ))}
      </Toolbar>
      <Toolbar
        aria-label={t`Show`}
        onEscape={toSheet}
        display={{ base: "flex", lg: "none" }}
        w="full"
        justifyContent="center"
        order={{ base: -1, lg: 0 }}
      >
        {PARTS.map(([each, word, name]) => (
          <Tool
            key={each}
            name={name}
            pressed={part === each || (each === "text" && !["left", "shelf"].includes(part))}
            onPress={() => onPart(each)}
          >
            {word}
          </Tool>
        ))}
      </Toolbar>
      {more && (
        <Toolbar
          aria-label={t`More ways to mark words`}
          onEscape={toSheet}
          flexBasis="full"
          display={ruled}
          flexWrap={{ base: "nowrap", lg: "wrap" }}
          overflowX={{ base: "auto", lg: "visible" }}
          minW="0"
          py="1px"
        >
          {MORE.map((id) => tool(id, id, marks.includes(markKinds[id])))}
          <Gap />
          {tool("quotation", "quotation", held.quoted)}
          {Object.entries(ASIDES).map(([sort, label]) =>
            tool(`aside-${sort}`, label.toLowerCase(), held.aside === sort),
          )}
          {tool("preformatted", "preformatted", held.preformatted)}
          <Gap />
          {ALIGNS.map(([align, name]) => tool(`align-${align ?? "start"}`, name, stands === align))}
          <Gap />
          {tool("plain", t`no formatting`)}
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

const OPEN = {
  content: '""',
  position: "absolute",
  inset: "3px",
  border: "1px dashed",
  borderColor: "edge",
  pointerEvents: "none",
} as const

/** One word of the rule. What holds at the caret is underlined and lit, so that colour is not alone. */
function Tool({ name, pressed, expanded, open, disabled, onPress, children }: ToolProps) {
  return (
    <Button
      variant="plain"
      size="sm"
      h={{ base: "7", lg: "8" }}
      minW={{ base: "7", lg: "8" }}
      px={{ base: "1.5", lg: "2" }}
      flexShrink="0"
      fontWeight="450"
      fontSize="sm"
      borderRadius="0"
      color={pressed || expanded ? "press.fg" : "ink"}
      bg={pressed ? "lit" : "transparent"}
      borderBottom="3px solid"
      borderBottomColor={pressed ? "press.solid" : "transparent"}
      _before={open ? OPEN : undefined}
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

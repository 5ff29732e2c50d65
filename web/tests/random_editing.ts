/**
 * Random editing sequences against the editor's own schema and commands, without a view.
 *
 *     node random_editing.js SEQUENCES ACTIONS SEED
 *
 * Prints a line of JSON for each sequence: the documents after each action, what was done, and whether undoing
 * everything gave the start again. The caller has every document checked by the core.
 */

import "./spoken"
import { baseKeymap, chainCommands } from "prosemirror-commands"
import { history, redo, undo, undoDepth } from "prosemirror-history"
import type { MarkType, Node } from "prosemirror-model"
import { liftListItem, sinkListItem, splitListItem } from "prosemirror-schema-list"
import {
  AllSelection,
  type Command,
  EditorState,
  NodeSelection,
  Selection,
  TextSelection,
  type Transaction,
} from "prosemirror-state"
import { CellSelection } from "prosemirror-tables"
import type { RegionNode } from "../src/document/types.generated"
import {
  around,
  backspaceInLine,
  backspaceUnwraps,
  enterInLine,
  enterLeaves,
  toggleAside,
  toggleQuotation,
  toSource,
} from "../src/editor/blocks"
import { insertBlock, insertInline, insertItem } from "../src/editor/bringing"
import {
  clearFormatting,
  enterInPreformatted,
  insertLineBreak,
  insertLink,
  kinds,
  markKinds,
  removeLink,
  setLevel,
  toggle,
  toggleList,
  togglePreformatted,
} from "../src/editor/commands"
import { regionsPlugin } from "../src/editor/regions"
import { textOf, toEditor } from "../src/editor/schema"
import { moveSection, sectionsOf, shiftSection } from "../src/editor/sections"
import { setAlign, setMark, setStyle, VALUED } from "../src/editor/setting"
import {
  deleteTable,
  headerColumn,
  headerRow,
  nextCell,
  TABLE_ACTS,
  tableAt,
  tablePlugins,
  toCaption,
} from "../src/editor/tables"

/** A small generator of random numbers (mulberry32), so that a failing sequence can be run again. */
function randomFrom(seed: number) {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

const empty = (name: string): RegionNode => ({
  type: "region",
  attrs: { name },
  content: [{ type: "paragraph", attrs: { style: null, align: null } }],
})
const startOf = (...regions: string[]) =>
  toEditor({
    title: "Towpath walks",
    description: "",
    document: {
      type: "doc",
      attrs: { version: 2, label: null, search_title: null, share: null, share_focus: null },
      content: regions.map(empty),
    },
  })
/** Every other sequence is one on a page of three regions. */
const STARTS = [startOf("main"), startOf("main", "side", "foot")]
const WORDS = ["the lock ", "water", "a 🧭 b", "é<&>", " ", "31 km", "gates and sluices"]
const ENTER = chainCommands(
  enterInPreformatted,
  enterInLine,
  enterLeaves,
  splitListItem(kinds.list_item),
  baseKeymap.Enter as Command,
)
const BACKSPACE = chainCommands(backspaceInLine, backspaceUnwraps, baseKeymap.Backspace as Command)
const PLAIN_MARKS: MarkType[] = Object.values(markKinds).filter(
  (type) => !Object.keys(type.spec.attrs ?? {}).length,
)
const VALUES = {
  abbreviation: { expansion: "Varrow Canal Trust" },
  language: { code: "fr" },
  tone: { name: "reed" },
}
const TABLE_COMMANDS = [
  ...TABLE_ACTS.flatMap(({ acts }) => acts),
  ...[headerRow, headerColumn, nextCell].map((command) => ({ name: "", command })),
]

type Random = () => number
type Action = (state: EditorState, random: Random) => Transaction | null

const pick = <Item>(items: readonly Item[], random: Random) =>
  items[Math.floor(random() * items.length)] as Item

/** A command as an action: the transaction it would dispatch. */
const by =
  (command: Command): Action =>
  (state) => {
    let made: Transaction | null = null
    command(state, (tr) => {
      made = tr
    })
    return made
  }

/** A random position where a caret can stand: never within a character of two code units. */
function somewhere(state: EditorState, random: Random) {
  const at = state.doc.resolve(Math.floor(random() * (state.doc.content.size + 1)))
  const half =
    at.parent.isTextblock && /[\ud800-\udbff]$/.test(at.parent.textBetween(0, at.parentOffset, "", " "))
  return half ? state.doc.resolve(at.pos + 1) : at
}

function section(change: typeof moveSection): Action {
  return (state, random) => {
    const sections = sectionsOf(state.doc)
    return sections.length ? change(state, pick(sections, random), random() < 0.5 ? -1 : 1) : null
  }
}

const ACTIONS: Record<string, Action> = {
  type: (state, random) => state.tr.insertText(pick(WORDS, random)),
  more: (state, random) => state.tr.insertText(pick(WORDS, random)),
  enter: by(ENTER),
  break: by(insertLineBreak),
  backspace: by(BACKSPACE),
  delete: by(baseKeymap.Delete as Command),
  level: (state, random) => by(setLevel(pick([0, 2, 3, 4, 5, 6], random)))(state, random),
  bulleted: by(toggleList(kinds.bulleted_list)),
  numbered: by(toggleList(kinds.numbered_list)),
  sink: by(sinkListItem(kinds.list_item)),
  lift: by(liftListItem(kinds.list_item)),
  mark: (state, random) => by(toggle(pick(PLAIN_MARKS, random)))(state, random),
  clear: by(clearFormatting),
  preformatted: by(togglePreformatted),
  divider: (state) => insertBlock(state, kinds.divider),
  quotation: by(toggleQuotation),
  source: (state) => {
    const found = around(state, kinds.quotation)
    return found && toSource(state, found)
  },
  aside: (state, random) => by(toggleAside(pick(["note", "tip", "warning"], random)))(state, random),
  table: (state) => insertBlock(state, kinds.table, { rows: 3, columns: 2 }),
  tableAct: (state, random) => by(pick(TABLE_COMMANDS, random).command)(state, random),
  moreTableActs: (state, random) => by(pick(TABLE_COMMANDS, random).command)(state, random),
  cells: (state, random) => {
    const found = tableAt(state)
    if (!found) return null
    const cells: number[] = []
    found.node.descendants((node, position) => {
      if (/cell|header/.test(node.type.name)) cells.push(found.position + 1 + position)
    })
    if (!cells.length) return null
    return state.tr.setSelection(CellSelection.create(state.doc, pick(cells, random), pick(cells, random)))
  },
  caption: (state) => {
    const found = tableAt(state)
    return found && toCaption(state, found)
  },
  noTable: (state, random) => (random() < 0.3 ? by(deleteTable)(state, random) : null),
  call: (state) => insertBlock(state, kinds.call_to_action),
  equation: (state) => insertBlock(state, kinds.equation, { latex: "x^2" }),
  formula: (state) => insertInline(state, kinds.formula.create({ latex: "h" })),
  sign: (state) => insertInline(state, "→"),
  align: (state, random) => by(setAlign(pick([null, "centre", "end"] as const, random)))(state, random),
  style: (state, random) => by(setStyle(pick([null, "lead"], random)))(state, random),
  say: (state, random) => {
    const name = pick(["abbreviation", "language", "tone"] as const, random)
    const allowed = state.selection.$from.parent.type.spec.marks !== ""
    return allowed ? setMark(state, VALUED[name], random() < 0.8 ? VALUES[name] : null) : null
  },
  picture: (state) => insertItem(state, kinds.picture, 7),
  film: (state) => insertItem(state, kinds.film, 8),
  sound: (state) => insertItem(state, kinds.sound, 9),
  link: (state, random) => insertLink(state, pick(["page:1", "https://a.example/"], random), "the walks"),
  unlink: (state) => removeLink(state),
  move: section(moveSection),
  shift: section(shiftSection),
  title: (state, random) => state.tr.setDocAttribute("title", pick(WORDS, random)),
  undo: by(undo),
  redo: by(redo),
  caret: (state, random) => state.tr.setSelection(Selection.near(somewhere(state, random))),
  select: (state, random) => {
    const [from, to] = [somewhere(state, random), somewhere(state, random)]
    return state.tr.setSelection(TextSelection.between(from, to))
  },
  all: (state, random) => (random() < 0.3 ? state.tr.setSelection(new AllSelection(state.doc)) : null),
  node: (state, random) => {
    const found: number[] = []
    state.doc.descendants((node, position) => {
      if (node.type === kinds.picture || node.type === kinds.divider) found.push(position)
    })
    return found.length ? state.tr.setSelection(NodeSelection.create(state.doc, pick(found, random))) : null
  },
}

function sequence(seed: number, length: number) {
  const random = randomFrom(seed)
  const start = STARTS[seed % STARTS.length] as Node
  let state = EditorState.create({ doc: start, plugins: [...tablePlugins(), history(), regionsPlugin] })
  const done: string[] = []
  const documents: unknown[] = []
  for (let count = 0; count < length; count++) {
    const name = pick(Object.keys(ACTIONS), random)
    done.push(name)
    const tr = (ACTIONS[name] as Action)(state, random)
    if (!tr) continue
    state = state.apply(tr)
    state.doc.check()
    if (tr.docChanged) documents.push(textOf(state.doc).document)
  }
  for (let guard = 0; undoDepth(state) > 0 && guard < 10_000; guard++) {
    undo(state, (tr) => {
      state = state.apply(tr)
    })
  }
  return { seed, done, documents, undone: state.doc.eq(start) }
}

const [count = 1000, length = 25, first = 1] = process.argv.slice(2).map(Number)
for (let seed = first; seed < first + count; seed++)
  process.stdout.write(`${JSON.stringify(sequence(seed, length))}\n`)

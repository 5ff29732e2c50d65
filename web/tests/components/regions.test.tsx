/** The editor's regions: what keys, commands and pastes do where there are several. */
import { readdirSync, readFileSync } from "node:fs"
import { baseKeymap, chainCommands } from "prosemirror-commands"
import { history, undo } from "prosemirror-history"
import { Slice } from "prosemirror-model"
import { AllSelection, type Command, EditorState, TextSelection } from "prosemirror-state"
import { expect, test } from "vitest"
import { upgraded, versionOf } from "../../src/document/upgrades"
import { anchorsOf } from "../../src/editor/anchors"
import { insertBlock, insertItem, linesAfter } from "../../src/editor/bringing"
import { kinds, levelAbove, replaceAll } from "../../src/editor/commands"
import { landed } from "../../src/editor/landing"
import { blockAt, blocksOf, regionAt, regionsPlugin, withoutRegions } from "../../src/editor/regions"
import { schema, toEditor } from "../../src/editor/schema"
import { moveSection, sectionsOf } from "../../src/editor/sections"
import { deleteTable, tablePlugins } from "../../src/editor/tables"
import { headingOver } from "../../src/editor/together"

const FORMATS = "../tests/fixtures/formats"
const p = (words: string) => kinds.paragraph.create(null, words ? schema.text(words) : null)
const h = (level: number, words: string) => kinds.heading.create({ level }, schema.text(words))
const region = (name: string, ...blocks: ReturnType<typeof p>[]) => kinds.region.create({ name }, blocks)
const page = (...regions: ReturnType<typeof region>[]) => kinds.doc.create({ title: "Walks" }, regions)
const TWO = page(region("main", h(2, "One"), p("a")), region("side", h(2, "Two"), p("b"), h(3, "Three")))
const plugins = [regionsPlugin, history(), ...tablePlugins()]
const stateOf = (doc = TWO, at = 1) => {
  const state = EditorState.create({ doc, plugins })
  return state.apply(state.tr.setSelection(TextSelection.near(doc.resolve(at))))
}
const texts = (state: EditorState) =>
  state.doc.children.map((each) => [each.attrs.name, ...each.children.map((block) => block.textContent)])
const run = (state: EditorState, command: Command) => {
  let after = state
  command(state, (tr) => {
    after = state.apply(tr)
  })
  return after
}
const endOf = (state: EditorState, words: string) => {
  const found = blocksOf(state.doc).find(({ node }) => node.textContent === words)
  if (!found) throw new Error(words)
  return found.position + 1 + words.length
}
const caretIn = (state: EditorState, words: string, offset = words.length) =>
  state.apply(
    state.tr.setSelection(TextSelection.create(state.doc, endOf(state, words) - words.length + offset)),
  )
const BACKSPACE = baseKeymap.Backspace as Command
const DELETE = chainCommands(baseKeymap.Delete as Command)

test("Backspace and Delete join nothing across the edge of a region", () => {
  const state = stateOf()
  expect(texts(run(caretIn(state, "Two", 0), BACKSPACE))).toEqual(texts(state))
  expect(texts(run(caretIn(state, "a"), DELETE))).toEqual(texts(state))
})

test("a selection ends where its region does", () => {
  const state = stateOf()
  const [$in, $out] = [state.doc.resolve(endOf(state, "a")), state.doc.resolve(endOf(state, "b"))]
  const between = regionsPlugin.props.createSelectionBetween
  const forward = between?.call(regionsPlugin, null as never, $in, $out)
  const back = between?.call(regionsPlugin, null as never, $out, $in)
  expect([forward?.anchor, forward?.head]).toEqual([endOf(state, "a"), endOf(state, "a")])
  expect([back?.anchor, regionAt(state.doc, back?.head ?? 0)]).toEqual([endOf(state, "b"), "side"])
  expect(between?.call(regionsPlugin, null as never, $in, $in)).toBeNull()
})

test("everything selected and deleted leaves every region, and comes back at one press", () => {
  const state = stateOf()
  const all = state.apply(state.tr.setSelection(new AllSelection(state.doc)))
  const gone = all.apply(all.tr.deleteSelection())
  expect(texts(gone)).toEqual([
    ["main", ""],
    ["side", ""],
  ])
  gone.doc.check()
  expect(texts(run(gone, undo))).toEqual(texts(state))
  expect(texts(all.apply(all.tr.insertText("x")))).toEqual([
    ["main", "x"],
    ["side", ""],
  ])
})

test("what is brought in with everything selected stands in a region", () => {
  const state = stateOf()
  const all = state.apply(state.tr.setSelection(new AllSelection(state.doc)))
  for (const tr of [
    insertBlock(all, kinds.aside, { sort: "tip" }),
    linesAfter(all, ["one", "two"]),
    insertItem(all, kinds.picture, 1),
  ]) {
    const { doc } = all.apply(tr)
    doc.check()
    expect(doc.children.map((each) => each.attrs.name)).toEqual(["main", "side"])
  }
})

test("a block goes in behind the one at the caret, in its region, and a line follows at its end", () => {
  const state = stateOf()
  const after = state.apply(insertBlock(caretIn(state, "a"), kinds.divider))
  expect(after.doc.children.map((each) => each.children.map(({ type }) => type.name))).toEqual([
    ["heading", "paragraph", "divider", "paragraph"],
    ["heading", "paragraph", "heading"],
  ])
})

test("a table that is all of a region goes, and a line is left", () => {
  const cell = kinds.table_cell.create(null, p("c"))
  const table = kinds.table.create(null, kinds.table_grid.create(null, kinds.table_row.create(null, cell)))
  const state = caretIn(stateOf(page(region("main", p("a")), region("side", table))), "a")
  const inside = state.apply(
    state.tr.setSelection(TextSelection.near(state.doc.resolve(state.doc.content.size - 6), -1)),
  )
  expect(inside.selection.$from.parent.textContent).toBe("c")
  const after = run(inside, deleteTable)
  expect(texts(after)).toEqual([
    ["main", "a"],
    ["side", ""],
  ])
  after.doc.check()
})

test("what was copied from several regions is pasted without them", () => {
  const slice = withoutRegions(TWO.slice(2, TWO.content.size - 2))
  expect(slice.content.content.map(({ type }) => type.name)).toEqual([
    "heading",
    "paragraph",
    "heading",
    "paragraph",
    "heading",
  ])
  const state = caretIn(stateOf(page(region("main", p("x")), region("side", p("y")))), "x")
  const after = state.apply(state.tr.replaceSelection(slice))
  expect(texts(after)).toEqual([
    ["main", "xOne", "a", "Two", "b", "Three"],
    ["side", "y"],
  ])
  expect(withoutRegions(Slice.empty)).toBe(Slice.empty)
})

test("sections, anchors, levels and places are counted within regions and through them", () => {
  const state = stateOf()
  expect(
    sectionsOf(TWO).map(({ words, region: name, from, to }) => [words, name, TWO.slice(from, to).size]),
  ).toEqual([
    ["One", "main", 8],
    ["Two", "side", 15],
    ["Three", "side", 7],
  ])
  const [one, two] = sectionsOf(TWO)
  expect(one && moveSection(state, one, 1)).toBeNull()
  expect(two && moveSection(state, two, -1)).toBeNull()
  expect(anchorsOf(TWO).map(({ anchor }) => anchor)).toEqual(["one", "two", "three"])
  expect(levelAbove(caretIn(state, "b"))).toBe(2)
  expect(blockAt(caretIn(state, "b").selection.$head)).toBe(3)
  expect([headingOver(TWO, 3), headingOver(TWO, 1), headingOver(page(region("main", p("a"))), 0)]).toEqual([
    "Two",
    "One",
    null,
  ])
})

test("another text in place of everything touches no more than differs, region by region", () => {
  const state = stateOf()
  const other = page(
    region("main", h(2, "One"), p("a")),
    region("side", h(2, "Two"), p("new"), h(3, "Three")),
  )
  const tr = replaceAll(state, other)
  expect([tr.steps.length, tr.doc.eq(other)]).toEqual([1, true])
  const { from = 0 } = tr.steps[0] as unknown as { from: number }
  expect(regionAt(TWO, from)).toBe("side")
  const fewer = page(region("main", p("alone")))
  const after = state.apply(replaceAll(state, fewer))
  expect(texts(after)).toEqual([["main", "alone"]])
  expect(texts(run(after, undo))).toEqual(texts(state))
})

test("a text from elsewhere lands in the region of its place", () => {
  const state = caretIn(stateOf(), "b")
  const place = { from: state.selection.from, to: state.selection.to }
  const after = state.apply(landed(state, place, page(region("main", p("c"), p("d")))))
  expect(texts(after)[1]).toEqual(["side", "Two", "b", "c", "d", "Three"])
})

test.each(readdirSync(FORMATS))("a document of version %s is made what the core makes of it", (version) => {
  const read = (name: string) => JSON.parse(readFileSync(`${FORMATS}/${version}/${name}`, "utf8"))
  const made = upgraded(read("document.json"))
  expect(made).toEqual(read("of-the-present.json"))
  expect(versionOf(made)).toBe(versionOf(TWO.toJSON()))
  toEditor({ title: "", description: "", document: made }).check()
})

/** Bringing something in: nothing that is there goes, and no paragraph is cut in two. */
import { history, undo } from "prosemirror-history"
import { AllSelection, EditorState, NodeSelection, TextSelection, type Transaction } from "prosemirror-state"
import { expect, test } from "vitest"
import { insertBlock, insertInline, insertItem } from "../../src/editor/bringing"
import { kinds } from "../../src/editor/commands"
import { regionsPlugin } from "../../src/editor/regions"
import { schema } from "../../src/editor/schema"

const p = (words = "") => kinds.paragraph.create(null, words ? schema.text(words) : null)
const h = (words: string) => kinds.heading.create({ level: 2 }, schema.text(words))
const item = (...blocks: ReturnType<typeof p>[]) => kinds.list_item.create(null, blocks)
const list = (...items: ReturnType<typeof p>[]) => kinds.bulleted_list.create(null, items)
const stateOf = (...blocks: ReturnType<typeof p>[]) =>
  EditorState.create({
    doc: kinds.doc.create(null, kinds.region.create({ name: "main" }, blocks)),
    plugins: [regionsPlugin, history()],
  })

/** The state with what lies between two words selected, or the caret at an offset of one. */
function at(state: EditorState, words: string, from = 0, to = from, last = words): EditorState {
  const found: Record<string, number> = {}
  state.doc.descendants((node, position) => {
    if (node.isTextblock) found[node.textContent] ??= position + 1
  })
  const selection = TextSelection.create(
    state.doc,
    (found[words] ?? Number.NaN) + from,
    (found[last] ?? Number.NaN) + to,
  )
  return state.apply(state.tr.setSelection(selection))
}
const shown = (state: EditorState) =>
  state.doc.firstChild?.children.map(({ type, textContent }) => `${type.name}:${textContent}`)

/** What stands there after something was brought in; taken back, it is as it was. */
function after(state: EditorState, make: (state: EditorState) => Transaction) {
  const made = state.apply(make(state))
  made.doc.check()
  let back = made
  undo(made, (tr) => {
    back = made.apply(tr)
  })
  expect(back.doc.eq(state.doc)).toBe(true)
  return shown(made)
}
const picture = (state: EditorState) => insertItem(state, kinds.picture, 7)
const PICTURE = "picture:"

test("a picture stands behind the paragraph of the caret, before it at its start, in place of an empty one", () => {
  const state = stateOf(p("gloves and boots"), p(""), p("after"))
  expect(after(at(state, "gloves and boots", 6), picture)?.slice(0, 2)).toEqual([
    "paragraph:gloves and boots",
    PICTURE,
  ])
  expect(after(at(state, "gloves and boots", 16), picture)?.[1]).toBe(PICTURE)
  expect(after(at(state, "gloves and boots"), picture)?.slice(0, 2)).toEqual([
    PICTURE,
    "paragraph:gloves and boots",
  ])
  expect(after(at(state, ""), picture)).toEqual(["paragraph:gloves and boots", PICTURE, "paragraph:after"])
})

test("what is selected stays, be it a heading, several blocks, a picture or everything", () => {
  const state = stateOf(h("Locks"), p("one two"), kinds.picture.create({ item: 3 }), p("end"))
  const all = ["heading:Locks", "paragraph:one two", PICTURE, "paragraph:end"]
  expect(after(at(state, "Locks", 0, 5), picture)).toEqual([all[0], PICTURE, ...all.slice(1)])
  expect(after(at(state, "Locks", 2, 3, "one two"), picture)).toEqual([
    ...all.slice(0, 2),
    PICTURE,
    ...all.slice(2),
  ])
  const chosen = state.apply(state.tr.setSelection(NodeSelection.create(state.doc, 1 + 7 + 9)))
  expect(after(chosen, picture)).toEqual([...all.slice(0, 3), PICTURE, all[3]])
  const whole = state.apply(state.tr.setSelection(new AllSelection(state.doc)))
  expect(after(whole, picture)).toEqual([...all, PICTURE])
  for (const type of [kinds.table, kinds.divider, kinds.preformatted, kinds.equation, kinds.call_to_action])
    expect(
      after(at(state, "Locks", 0, 5), (now) =>
        insertBlock(now, type, type === kinds.equation ? { latex: "x" } : {}),
      )?.[0],
    ).toBe(all[0])
})

test("in an item it stands within the item, and never before its first words", () => {
  const state = stateOf(list(item(p("one two")), item(p("three"))))
  const inside = (from: number) => {
    const now = at(state, "one two", from)
    return now
      .apply(picture(now))
      .doc.firstChild?.firstChild?.firstChild?.children.map(({ type }) => type.name)
  }
  expect([inside(3), inside(0)]).toEqual([
    ["paragraph", "picture"],
    ["paragraph", "picture"],
  ])
})

test("where it may not stand it stands behind what holds the words", () => {
  const call = kinds.call_to_action.create({ href: null }, schema.text("Get a licence"))
  expect(after(at(stateOf(call, p("end")), "Get a licence", 4), picture)).toEqual([
    "call_to_action:Get a licence",
    PICTURE,
    "paragraph:end",
  ])
})

test("an aside or a quotation holds what is selected, a heading and a list too, and loses no word", () => {
  const state = stateOf(h("Bring"), list(item(p("gloves")), item(p("boots"))), p("end"))
  const selected = at(state, "Bring", 0, 5, "boots")
  const aside = (now: EditorState) => insertBlock(now, kinds.aside, { sort: "tip" })
  expect(after(selected, aside)).toEqual(["aside:Bringglovesboots", "paragraph:end"])
  expect(after(selected, (now) => insertBlock(now, kinds.quotation))).toEqual([
    "quotation:Bringglovesboots",
    "paragraph:end",
  ])
  expect(after(at(state, "Bring", 2), aside)).toEqual([
    "heading:Bring",
    "aside:",
    "bulleted_list:glovesboots",
    "paragraph:end",
  ])
})

test("a call to action takes a whole line that is selected as its label, and no part of one", () => {
  const call = (now: EditorState) => insertBlock(now, kinds.call_to_action)
  const state = stateOf(p("Get a licence"), p("end"))
  expect(after(at(state, "Get a licence", 0, 13), call)).toEqual([
    "call_to_action:Get a licence",
    "paragraph:end",
  ])
  expect(after(at(state, "Get a licence", 0, 3), call)).toEqual([
    "paragraph:Get a licence",
    "call_to_action:",
    "paragraph:end",
  ])
})

test("a sign and an equation come behind the words that are selected", () => {
  const state = at(stateOf(p("Lock 4 bridge")), "Lock 4 bridge", 0, 6)
  expect(after(state, (now) => insertInline(now, " →"))).toEqual(["paragraph:Lock 4 → bridge"])
  const formula = (now: EditorState) => insertInline(now, kinds.formula.create({ latex: "h" }))
  const made = state.apply(formula(state))
  expect(made.doc.textBetween(0, made.doc.content.size, "", "#")).toBe("Lock 4# bridge")
})

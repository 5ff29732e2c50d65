/** What lands while somebody writes on: their words stay where they are, and what lands where it was meant to. */
import { EditorState, NodeSelection, TextSelection, type Transaction } from "prosemirror-state"
import { expect, test } from "vitest"
import { besideWhole, insertWhole } from "../../src/editor/bringing"
import { kinds, replaceAll } from "../../src/editor/commands"
import { landed } from "../../src/editor/landing"
import { type Place, Places } from "../../src/editor/places"
import { regionsPlugin } from "../../src/editor/regions"
import { schema } from "../../src/editor/schema"

const p = (words = "") => kinds.paragraph.create(null, words ? schema.text(words) : null)
const picture = (item: number) => kinds.picture.create({ item })
const text = (...blocks: ReturnType<typeof p>[]) =>
  kinds.doc.create(null, kinds.region.create({ name: "main" }, blocks))

/** Somebody who writes, and what they await. */
class Desk {
  places = new Places()
  state: EditorState

  constructor(...blocks: ReturnType<typeof p>[]) {
    this.state = EditorState.create({ doc: text(...blocks), plugins: [regionsPlugin] })
  }

  private apply(tr: Transaction) {
    const { state, transactions } = this.state.applyTransaction(tr)
    this.state = state
    for (const each of transactions) this.places.follow(each.mapping)
  }
  does(tr: Transaction) {
    this.places.goesOn()
    this.apply(tr)
  }
  goesTo(position: number) {
    this.does(this.state.tr.setSelection(TextSelection.create(this.state.doc, position)))
  }
  types(words: string) {
    for (const sign of words) this.does(this.state.tr.insertText(sign))
  }
  holds(bias: -1 | 1 = 1) {
    return this.places.hold(this.state.selection, bias)
  }
  private land(place: Place, make: (isAwaited: boolean) => Transaction) {
    this.places.land(place, this.state, make, (tr) => this.apply(tr))
    this.state.doc.check()
  }
  shows(item: number, place: Place) {
    this.land(place, (isAwaited) => insertWhole(this.state, picture(item), place.to, isAwaited))
  }
  reads(place: Place, ...blocks: ReturnType<typeof p>[]) {
    this.land(place, () => landed(this.state, place, text(...blocks)))
  }
  becomes(place: Place, doc: ReturnType<typeof p>) {
    this.land(place, () => replaceAll(this.state, doc))
  }
  get seen() {
    return this.state.doc.firstChild?.children.map(({ type, attrs, textContent }) =>
      type === kinds.picture ? attrs.item : textContent,
    )
  }
}

const ORDERS = [
  [0, 1, 2],
  [0, 2, 1],
  [1, 0, 2],
  [1, 2, 0],
  [2, 0, 1],
  [2, 1, 0],
]

test("what is awaited is selected when it is there", () => {
  const desk = new Desk(p("one two"), p("end"))
  desk.goesTo(5)
  desk.shows(7, desk.holds())
  expect(desk.seen).toEqual(["one two", 7, "end"])
  expect(desk.state.selection).toBeInstanceOf(NodeSelection)
})

test("letters typed on take the place of nothing, wherever one writes", () => {
  const blocks = [p("one two"), p(""), p("end")]
  for (const meant of [2, 5, 9, 11, 14])
    for (const goesOn of [2, 5, 9, 11, 14]) {
      const desk = new Desk(...blocks)
      desk.goesTo(meant)
      const [first, second] = [desk.holds(), desk.holds()]
      desk.goesTo(goesOn)
      desk.types("AB")
      desk.shows(1, first)
      desk.types("CD")
      desk.shows(2, second)
      desk.types("EF")
      expect(desk.seen?.join(""), `${meant} ${goesOn}`).toContain("ABCDEF")
      expect(desk.seen?.filter((each) => typeof each === "number")).toEqual([1, 2])
      expect(desk.state.doc.textContent.replace("ABCDEF", "")).toBe("one twoend")
    }
})

test("who waits where nothing is written yet stays there, and no letter takes the place of what came", () => {
  const desk = new Desk(p("one"), p(""), picture(9))
  desk.goesTo(7)
  const place = desk.holds()
  desk.goesTo(3)
  desk.goesTo(7)
  desk.shows(1, place)
  desk.types("AB")
  expect(desk.seen).toEqual(["one", "AB", 1, 9])
})

test("several stand in the order in which they were given, whichever comes first", () => {
  for (const at of [2, 4, 5, 7, 9, 12])
    for (const order of ORDERS)
      for (const leaves of [false, true]) {
        const desk = new Desk(p("one"), p(""), p("two"), p("end"))
        desk.goesTo(at)
        const places = [desk.holds(), desk.holds(), desk.holds()]
        if (leaves) desk.goesTo(16)
        for (const index of order) desk.shows(index, places[index] as Place)
        if (leaves) desk.types("AB")
        expect(
          desk.seen?.filter((each) => typeof each === "number"),
          `${at} ${order} ${leaves}`,
        ).toEqual([0, 1, 2])
        expect(desk.state.doc.textContent).toBe(leaves ? "onetwoenABd" : "onetwoend")
      }
})

test("one that never comes holds up no other", () => {
  const desk = new Desk(p("one"))
  desk.goesTo(2)
  const places = [desk.holds(), desk.holds(), desk.holds()]
  desk.places.release(places[0] as Place)
  desk.shows(2, places[2] as Place)
  desk.shows(1, places[1] as Place)
  expect(desk.seen).toEqual([1, 2, "one"])
})

test("a text that is read meanwhile stands before what is typed on, the caret behind all of it", () => {
  for (const blocks of [[p("NEW")], [p("NEW"), kinds.heading.create({ level: 2 }, schema.text("S"))]]) {
    const desk = new Desk(p("one two"), p("end"))
    desk.goesTo(6)
    const place = desk.holds(-1)
    desk.types("ab")
    desk.reads(place, ...blocks)
    desk.types("cd")
    expect(desk.state.doc.textContent).toBe(
      `one ${blocks.map((each) => each.textContent).join("")}abcdtwoend`,
    )
  }
})

test("a page of other regions comes to who has gone elsewhere on the empty page, too", () => {
  const desk = new Desk(p(""), p(""))
  desk.goesTo(2)
  const place = desk.holds()
  desk.goesTo(4)
  const region = (name: string, words: string) => kinds.region.create({ name }, [p(words)])
  desk.becomes(place, kinds.doc.create(null, [region("side", "one"), region("foot", "two")]))
  expect(desk.state.doc.children.map(({ attrs, textContent }) => [attrs.name, textContent])).toEqual([
    ["side", "one"],
    ["foot", "two"],
  ])
})

test("a text in place of an empty paragraph takes along who is there", () => {
  const desk = new Desk(p("one"), p(""), picture(9))
  desk.goesTo(7)
  const place = desk.holds(-1)
  desk.goesTo(3)
  desk.goesTo(7)
  desk.reads(place, p("NEW"), p("LAST"))
  desk.types("ab")
  expect(desk.seen).toEqual(["one", "NEW", "LASTab", 9])
})

test("words typed while something is selected as a whole stand behind it", () => {
  const select = (desk: Desk, position: number) =>
    desk.does(desk.state.tr.setSelection(NodeSelection.create(desk.state.doc, position)))
  const types = (desk: Desk, words: string) => {
    const beside = besideWhole(desk.state)
    if (beside) desk.does(beside)
    desk.types(words)
  }
  const last = new Desk(p("one"), picture(9))
  select(last, 6)
  types(last, "ab")
  expect(last.seen).toEqual(["one", 9, "ab"])
  const free = new Desk(picture(9), p(""), p("end"))
  select(free, 1)
  types(free, "ab")
  expect(free.seen).toEqual([9, "ab", "end"])
  const inLine = new Desk(
    kinds.paragraph.create(null, [
      schema.text("so "),
      kinds.formula.create({ latex: "x" }),
      schema.text("!"),
    ]),
  )
  select(inLine, 5)
  types(inLine, "ab")
  expect(inLine.state.doc.textContent).toContain("ab!")
  expect(besideWhole(new Desk(p("one")).state)).toBeNull()
})

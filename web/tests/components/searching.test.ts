/** Finding and replacing on the page, wherever words stand. */
import { history, undo } from "prosemirror-history"
import { EditorState } from "prosemirror-state"
import { expect, test } from "vitest"
import { whatChanged } from "../../src/editor/changed"
import { schema, toEditor } from "../../src/editor/schema"
import { hitsIn, replaced, shown } from "../../src/editor/searching"

const link = (href: string) => ({ type: "link", attrs: { href } })
const text = (words: string, ...marks: object[]) => ({
  type: "text",
  text: words,
  ...(marks.length ? { marks } : {}),
})
const strong = { type: "strong" }

const doc = toEditor({
  title: "Lock walks",
  description: "Walks along each lock.",
  document: {
    type: "doc",
    attrs: { version: 2 },
    content: [
      {
        type: "region",
        attrs: { name: "main" },
        content: [
          { type: "paragraph", content: [text("The lo"), text("ck", strong), text(" is locked. Lock!")] },
          {
            type: "paragraph",
            content: [
              text("See "),
              text("the ", link("https://a.example/lock")),
              text("list", link("https://a.example/lock"), strong),
            ],
          },
          { type: "picture", attrs: { item: 1, alt: "A lock", caption: "Lock 4" } },
          { type: "call_to_action", attrs: { href: "https://a.example/?lock=1" }, content: [text("Go")] },
        ],
      },
    ],
  },
} as never)

const state = () => EditorState.create({ doc, schema, plugins: [history()] })
const all = { words: "lock", matchCase: false, wholeWords: false }
const sorts = (wanted: typeof all) => hitsIn(doc, wanted).map(({ attribute }) => attribute ?? "words")

test("words are found in the text across its marks, in alt texts, captions and addresses, title and description", () => {
  expect(sorts(all)).toEqual([
    "title",
    "description",
    "words",
    "words",
    "words",
    "href",
    "alt",
    "caption",
    "href",
  ])
  expect(sorts({ ...all, matchCase: true })).toEqual(["description", "words", "words", "href", "alt", "href"])
  expect(sorts({ ...all, wholeWords: true }).filter((each) => each === "words")).toHaveLength(2)
  expect(sorts({ ...all, words: "" })).toEqual([])
  expect(sorts({ ...all, words: "(lock" })).toEqual([])
})

test("a hit is selected where it stands", () => {
  const hit = hitsIn(doc, all).find(({ attribute }) => attribute === null)
  const now = state().apply(shown(state(), hit as never))
  expect(now.doc.textBetween(now.selection.from, now.selection.to)).toBe("lock")
})

test("all are replaced as one step of undo, with the marks that the words had", () => {
  let now = state()
  const { tr, left } = replaced(now, hitsIn(doc, all), "gate")
  expect(left).toBe(0)
  now = now.apply(tr)
  expect(hitsIn(now.doc, all)).toEqual([])
  expect(now.doc.attrs.title).toBe("gate walks")
  const words = now.doc.firstChild?.firstChild
  expect(words?.textContent).toBe("The gate is gateed. gate!")
  expect(
    now.doc.firstChild
      ?.child(1)
      .child(2)
      .marks.map(({ type }) => type.name),
  ).toEqual(["link", "strong"])
  const hrefs = new Set<string>()
  now.doc.descendants((node) => {
    for (const mark of node.marks) if (mark.type.name === "link") hrefs.add(mark.attrs.href)
  })
  expect([...hrefs]).toEqual(["https://a.example/gate"])
  undo(now, (back) => {
    now = now.apply(back)
  })
  expect(now.doc.eq(doc)).toBe(true)
})

test("an address that would lead nowhere stays, and is counted", () => {
  const wanted = { ...all, words: "https://a.example/" }
  const { tr, left } = replaced(state(), hitsIn(doc, wanted), "no address ")
  expect(left).toBe(2)
  expect(tr.docChanged).toBe(false)
})

test("what undo did is said in words", () => {
  const base = state()
  const typed = base.apply(base.tr.insertText("old ", 6))
  expect(whatChanged(base.doc, typed.doc)).toBe("“old” is back")
  expect(whatChanged(typed.doc, base.doc)).toBe("“old” is gone")
  const renamed = base.apply(base.tr.setDocAttribute("title", "Walks"))
  expect(whatChanged(base.doc, renamed.doc)).toBe("the title is “Walks”")
  const position = hitsIn(doc, all).find(({ attribute }) => attribute === "alt")?.from ?? 0
  const without = base.apply(base.tr.delete(position, position + 1))
  expect(whatChanged(base.doc, without.doc)).toBe("the picture is gone")
})

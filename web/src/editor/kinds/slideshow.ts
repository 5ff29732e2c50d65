/** Slideshows: pictures of one proportion, one after another, with two lines each. */
import { t } from "@lingui/core/macro"
import type { Attrs, DOMOutputSpec } from "prosemirror-model"
import { drawn } from "./drawn"
import type { EditorKind } from "./kind"
import { settingAttributes, settingOf } from "./shown"

const SETTING = ["ratio", "place", "words", "stay", "change"] as const

export const slideshow: EditorKind = {
  node: {
    draggable: true,
    atom: true,
    toDOM: ({ attrs }) => [
      "div",
      {
        class: "slideshow",
        ...settingAttributes(SETTING, attrs),
        ...(attrs.moves ? {} : { "data-moves": "no" }),
        ...(attrs.name ? { "data-name": attrs.name } : {}),
      },
      0,
    ],
    parseDOM: [
      {
        tag: "div.slideshow",
        getAttrs: (dom) => ({
          ...settingOf("slideshow", SETTING, dom),
          moves: dom.getAttribute("data-moves") !== "no",
          name: dom.getAttribute("data-name") || null,
        }),
      },
    ],
  },
  view: drawn("section", t`No slide stands in this slideshow yet.`),
  offers: [{ name: t`Slideshow`, says: t`pictures one after another, with a few words each` }],
}

/** The two lines of a slide; the first that there is leads where the slide does. */
function linesOf({ heading, words, href }: Attrs): DOMOutputSpec[] {
  const lines: [string, string | null][] = [
    ["slide-heading", heading || (href && !words ? " " : null)],
    ["slide-words", words],
  ]
  const said = lines.filter(([, line]) => line)
  return said.map(([name, line], index) => [
    "p",
    { class: name },
    ...(href && index === 0 ? [["a", { href }, line] as const] : [line]),
  ]) as DOMOutputSpec[]
}

export const slide: EditorKind = {
  node: {
    selectable: false,
    toDOM: ({ attrs }) => [
      "div",
      { class: "slide" },
      ["div", { class: "slide-picture" }, 0],
      ...linesOf(attrs),
    ],
    parseDOM: [
      {
        tag: "div.slide",
        context: "slideshow/",
        priority: 60,
        contentElement: (dom) =>
          (dom as HTMLElement).querySelector<HTMLElement>(".slide-picture") ?? (dom as HTMLElement),
        getAttrs: (dom) => ({
          heading: dom.querySelector(".slide-heading")?.textContent?.trim() || null,
          words: dom.querySelector(".slide-words")?.textContent?.trim() || null,
          href: dom.querySelector("p > a")?.getAttribute("href") || null,
        }),
      },
    ],
  },
}

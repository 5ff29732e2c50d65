/** Animations drawn of lines. */
import { drawn } from "./drawn"
import type { EditorKind } from "./kind"
import { number, settingAttributes, settingOf } from "./shown"

const SETTING = ["width", "place", "space", "border", "speed", "times", "start", "delay", "colours"] as const

export const animation: EditorKind = {
  node: {
    draggable: true,
    toDOM: ({ attrs }) => [
      "figure",
      { class: "animation", ...settingAttributes(SETTING, attrs) },
      [
        "img",
        {
          src: `item:${attrs.item}`,
          ...(attrs.alt ? { alt: attrs.alt } : {}),
          ...(attrs.decorative ? { "data-decorative": "" } : {}),
        },
      ],
      ...(attrs.caption ? [["figcaption", attrs.caption] as const] : []),
    ],
    parseDOM: [
      {
        tag: "figure.animation",
        getAttrs: (dom) => {
          const image = dom.querySelector('img[src^="item:"]')
          if (!image) return false
          return {
            item: number(image.getAttribute("src")),
            ...settingOf("animation", SETTING, dom),
            alt: image.getAttribute("alt") || null,
            decorative: image.hasAttribute("data-decorative"),
            caption: dom.querySelector("figcaption")?.textContent || null,
          }
        },
      },
    ],
  },
  view: drawn("div"),
}

/** Galleries: pictures as any others, side by side. */
import { t } from "@lingui/core/macro"
import { drawn } from "./drawn"
import type { EditorKind } from "./kind"
import { settingAttributes, settingOf } from "./shown"

const SETTING = ["form", "size", "ratio"] as const

export const gallery: EditorKind = {
  node: {
    draggable: true,
    atom: true,
    toDOM: ({ attrs }) => [
      "div",
      {
        class: "gallery",
        ...settingAttributes(SETTING, attrs),
        ...(attrs.title ? { "data-title": attrs.title } : {}),
      },
      0,
    ],
    parseDOM: [
      {
        tag: "div.gallery[data-form]",
        getAttrs: (dom) => ({
          ...settingOf("gallery", SETTING, dom),
          title: dom.getAttribute("data-title") || null,
        }),
      },
    ],
  },
  view: drawn("div", t`No picture stands in this gallery yet.`),
  offers: [{ name: t`Gallery`, says: t`many pictures side by side, each to be seen large` }],
}

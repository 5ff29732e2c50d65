/** Kinds that are as the core describes them, and that the Shelf offers. */
import type { EditorKind } from "./kind"

export const quotation: EditorKind = {
  offers: [{ name: "Quotation", says: "words of somebody else, with their source" }],
}

export const divider: EditorKind = {
  offers: [{ name: "Divider", says: "a line where the subject changes" }],
}

export const preformatted: EditorKind = {
  offers: [{ name: "Preformatted text", says: "code, or lines that stand as they are" }],
}

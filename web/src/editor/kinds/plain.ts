/** Kinds that are as the core describes them, and that the Shelf offers. */
import { t } from "@lingui/core/macro"
import type { EditorKind } from "./kind"

export const quotation: EditorKind = {
  offers: [{ name: t`Quotation`, says: t`words of somebody else, with their source` }],
}

export const divider: EditorKind = {
  offers: [{ name: t`Divider`, says: t`a line where the subject changes` }],
}

export const preformatted: EditorKind = {
  offers: [{ name: t`Preformatted text`, says: t`code, or lines that stand as they are` }],
}

/** The formats a page goes out as: the ending of its file, and what it is called. */
import { t } from "@lingui/core/macro"

export const EXPORTS = [
  ["docx", "DOCX"],
  ["odt", "ODT"],
  ["md", "Markdown"],
  ["html", "HTML"],
  ["txt", t`Text`],
] as const

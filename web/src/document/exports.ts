/** The formats a page goes out as: the ending of its file, and what it is called. */
export const EXPORTS = [
  ["docx", "DOCX"],
  ["odt", "ODT"],
  ["md", "Markdown"],
  ["html", "HTML"],
  ["txt", "Text"],
] as const

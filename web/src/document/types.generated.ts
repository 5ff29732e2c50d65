// Generated from the document schema by `npm run generate`. Do not edit.

/** the body of a page */
export interface DocNode {
  type: "doc"
  attrs: { version: number }
  content: (ParagraphNode | HeadingNode | BulletedListNode | NumberedListNode | PreformattedNode | DividerNode | PictureNode)[]
}

/** running text */
export interface ParagraphNode {
  type: "paragraph"
  content?: (TextNode | LineBreakNode)[]
}

/** a heading; level 1 is the page's title and stands outside the document */
export interface HeadingNode {
  type: "heading"
  attrs: { level: number }
  content?: (TextNode | LineBreakNode)[]
}

/** a list without an order */
export interface BulletedListNode {
  type: "bulleted_list"
  content: ListItemNode[]
}

/** a list whose order matters */
export interface NumberedListNode {
  type: "numbered_list"
  attrs: { start: number }
  content: ListItemNode[]
}

/** one item of a list; lists and pictures may stand inside it */
export interface ListItemNode {
  type: "list_item"
  content: (ParagraphNode | BulletedListNode | NumberedListNode | PictureNode)[]
}

/** code or other text whose lines stand as they are; each line end is a line_break */
export interface PreformattedNode {
  type: "preformatted"
  attrs: { language: string | null }
  content?: (TextNode | LineBreakNode)[]
}

/** a change of subject, shown as a line */
export interface DividerNode {
  type: "divider"
}

/** a picture of the media library. alt is None where the item's own alt text serves */
export interface PictureNode {
  type: "picture"
  attrs: { item: number; alt: string | null; decorative: boolean }
}

/** words */
export interface TextNode {
  type: "text"
  text: string
  marks?: AnyMark[]
}

/** a new line in the same paragraph */
export interface LineBreakNode {
  type: "line_break"
  marks?: AnyMark[]
}

/** a link, to an address as in references.py */
export interface LinkMark {
  type: "link"
  attrs: { href: string }
}

/** words of importance */
export interface StrongMark {
  type: "strong"
}

/** words that are stressed */
export interface EmphasisMark {
  type: "emphasis"
}

/** words underlined */
export interface UnderlineMark {
  type: "underline"
}

/** words no longer right */
export interface StrikeMark {
  type: "strike"
}

/** raised, as in an ordinal */
export interface SuperscriptMark {
  type: "superscript"
}

/** lowered, as in a formula */
export interface SubscriptMark {
  type: "subscript"
}

/** words of a program or of a key */
export interface CodeMark {
  type: "code"
}

export type AnyNode = DocNode | ParagraphNode | HeadingNode | BulletedListNode | NumberedListNode | ListItemNode | PreformattedNode | DividerNode | PictureNode | TextNode | LineBreakNode
export type AnyMark = LinkMark | StrongMark | EmphasisMark | UnderlineMark | StrikeMark | SuperscriptMark | SubscriptMark | CodeMark

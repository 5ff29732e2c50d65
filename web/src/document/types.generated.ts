// Generated from the document schema by `npm run generate`. Do not edit.

/** the body of a page */
export interface DocNode {
  type: "doc"
  attrs: { version: number }
  content: (ParagraphNode | HeadingNode | BulletedListNode | NumberedListNode | PictureNode)[]
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

export type AnyNode = DocNode | ParagraphNode | HeadingNode | BulletedListNode | NumberedListNode | ListItemNode | PictureNode | TextNode | LineBreakNode
export type AnyMark = LinkMark | StrongMark | EmphasisMark

// Generated from the document schema by `npm run generate`. Do not edit.

/** the body of a page: its regions, main first, none twice. What the page is called elsewhere rides along: label in the navigation, search_title in search results, None where the title serves. share is the picture of the library that stands for the page where it is shared, share_focus (x,y in ten-thousandths) what stays of it */
export interface DocNode {
  type: "doc"
  attrs: { version: number; label: string | null; search_title: string | null; share: number | null; share_focus: string | null }
  content: RegionNode[]
}

/** a part of the page that the theme gives a place of its own; main is always there */
export interface RegionNode {
  type: "region"
  attrs: { name: string }
  content: (ParagraphNode | HeadingNode | BulletedListNode | NumberedListNode | TableNode | PreformattedNode | QuotationNode | AsideNode | DividerNode | PictureNode | EquationNode | CallToActionNode | FilmNode | SoundNode | HostedNode | DownloadsNode | GalleryNode | SlideshowNode | PaperNode | AnimationNode | PostNode | ReadNextNode)[]
}

/** running text. style is a text style of the theme; align is None at the start of the line */
export interface ParagraphNode {
  type: "paragraph"
  attrs: { style: string | null; align: string | null }
  content?: (TextNode | LineBreakNode | FormulaNode)[]
}

/** a heading; level 1 is the page's title and stands outside the document. anchor holds its address once something links to it, whatever becomes of its words */
export interface HeadingNode {
  type: "heading"
  attrs: { level: number; align: string | null; anchor: string | null }
  content?: (TextNode | LineBreakNode | FormulaNode)[]
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

/** one item of a list; lists, pictures and preformatted text may stand inside it. anchor is set where something links to it, as a footnote's number does to the note */
export interface ListItemNode {
  type: "list_item"
  attrs: { anchor: string | null }
  content: (ParagraphNode | BulletedListNode | NumberedListNode | PreformattedNode | PictureNode | FilmNode | SoundNode | HostedNode | PaperNode | AnimationNode | PostNode)[]
}

/** a table: its caption, if any, and its grid */
export interface TableNode {
  type: "table"
  content: (TableCaptionNode | TableGridNode)[]
}

/** what the table shows */
export interface TableCaptionNode {
  type: "table_caption"
  content?: (TextNode | LineBreakNode | FormulaNode)[]
}

/** the rows of a table. Every place of the grid belongs to just one cell */
export interface TableGridNode {
  type: "table_grid"
  content: TableRowNode[]
}

/** a row; it may hold no cell of its own where cells above reach into it */
export interface TableRowNode {
  type: "table_row"
  content?: (TableCellNode | TableHeaderNode)[]
}

/** a cell */
export interface TableCellNode {
  type: "table_cell"
  attrs: { colspan: number; rowspan: number }
  content: (ParagraphNode | BulletedListNode | NumberedListNode | PreformattedNode | PictureNode | FilmNode | SoundNode | HostedNode | PaperNode | AnimationNode | PostNode)[]
}

/** a cell that names its column or its row */
export interface TableHeaderNode {
  type: "table_header"
  attrs: { colspan: number; rowspan: number }
  content: (ParagraphNode | BulletedListNode | NumberedListNode | PreformattedNode | PictureNode | FilmNode | SoundNode | HostedNode | PaperNode | AnimationNode | PostNode)[]
}

/** code or other text whose lines stand as they are; each line end is a line_break */
export interface PreformattedNode {
  type: "preformatted"
  attrs: { language: string | null }
  content?: (TextNode | LineBreakNode)[]
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

/** words of somebody else, and where they come from */
export interface QuotationNode {
  type: "quotation"
  content: (QuotationWordsNode | QuotationSourceNode)[]
}

/** what is quoted */
export interface QuotationWordsNode {
  type: "quotation_words"
  content: (ParagraphNode | BulletedListNode | NumberedListNode | PreformattedNode | PictureNode | FilmNode | SoundNode | HostedNode | PaperNode | AnimationNode | PostNode)[]
}

/** who said it, and where */
export interface QuotationSourceNode {
  type: "quotation_source"
  content?: (TextNode | LineBreakNode | FormulaNode)[]
}

/** something beside the text: a note, a tip or a warning */
export interface AsideNode {
  type: "aside"
  attrs: { sort: string }
  content: (ParagraphNode | BulletedListNode | NumberedListNode | PreformattedNode | PictureNode | EquationNode | FilmNode | SoundNode | HostedNode | PaperNode | AnimationNode | PostNode)[]
}

/** a change of subject, shown as a line */
export interface DividerNode {
  type: "divider"
}

/** a picture of the media library. alt is None where the item's own alt text serves; caption stands below it. width is in CSS pixels, None as wide as its place; turn (quarter turns), straighten (tenths of a degree), crop (x,y,width,height), ratio and focus (x,y) say what is made of the original, in ten-thousandths of its sides; None leaves it to the item (media/editing.py) */
export interface PictureNode {
  type: "picture"
  attrs: { item: number; alt: string | null; decorative: boolean; caption: string | null; width: number | null; place: string | null; space: string | null; border: string | null; turn: number | null; straighten: number | null; crop: string | null; ratio: string | null; focus: string | null }
}

/** an equation on a line of its own */
export interface EquationNode {
  type: "equation"
  attrs: { latex: string }
}

/** an equation within a line */
export interface FormulaNode {
  type: "formula"
  attrs: { latex: string }
  marks?: AnyMark[]
}

/** what the reader should do next: a link that stands out. href is None until it is chosen */
export interface CallToActionNode {
  type: "call_to_action"
  attrs: { href: string | null; emphasis: string }
  content?: TextNode[]
}

/** a film of the media library. width is in CSS pixels, None as wide as its place. cover is the picture before it plays: a still after that part of the film (in percent) or at a moment (in milliseconds), or a picture of the library; None is the first still. autoplay is always without sound, and never for who wants things to stand still. transcript: all of it below, or behind a press; None for none */
export interface FilmNode {
  type: "film"
  attrs: { item: number; caption: string | null; width: number | null; place: string | null; space: string | null; border: string | null; cover: string | null; transcript: string | null; loop: boolean; autoplay: boolean }
}

/** a sound of the media library. Its caption is the item's title where none is given; transcript as of a film */
export interface SoundNode {
  type: "sound"
  attrs: { item: number; caption: string | null; transcript: string | null; loop: boolean }
}

/** a film at another host, an item of the media library. Its frame is asked for once a reader presses. width, place, space and border as of a film; cover is a picture of the library, None the one that the host has. start is in seconds; it, captions, muted and loop are for players that honour them */
export interface HostedNode {
  type: "hosted"
  attrs: { item: number; caption: string | null; width: number | null; place: string | null; space: string | null; border: string | null; cover: string | null; start: number | null; captions: boolean; muted: boolean; loop: boolean }
}

/** documents of the media library as a list, with what each is. title stands above it; new_window opens them in a window of its own, and says so */
export interface DownloadsNode {
  type: "downloads"
  attrs: { title: string | null; new_window: boolean }
  content?: DownloadNode[]
}

/** one document of such a list. words are those of its link, None the item's title; description stands below */
export interface DownloadNode {
  type: "download"
  attrs: { item: number; words: string | null; description: string | null }
}

/** many pictures side by side, each of which can be seen large. form says how: even tiles, all of the proportion ratio, or a wall whose rows are of one height; size says how large; title stands above */
export interface GalleryNode {
  type: "gallery"
  attrs: { title: string | null; form: string; size: string; ratio: string }
  content?: PictureNode[]
}

/** pictures of one proportion (ratio), one after another. name is what it is called for who does not see it. Each stays for so many milliseconds and changes in so many; they move by themselves only where moves says so, and stop when told. words says where those of a slide stand: below its picture, or over it */
export interface SlideshowNode {
  type: "slideshow"
  attrs: { name: string | null; ratio: string; place: string | null; words: string; moves: boolean; stay: number; change: number }
  content?: SlideNode[]
}

/** one picture of a slideshow. heading and words are its two lines; href is where it leads, None nowhere */
export interface SlideNode {
  type: "slide"
  attrs: { heading: string | null; words: string | null; href: string | null }
  content?: PictureNode[]
}

/** a document of the media library, its pages shown as pictures with their words: from first to last (None the last there is; 40 at most), one below the other, or turned one after another */
export interface PaperNode {
  type: "paper"
  attrs: { item: number; caption: string | null; first: number; last: number | null; turned: boolean }
}

/** an animation drawn of lines. alt is what it shows, None where the item’s own serves; speed is in percent of its own; times says how often it plays, None again and again; start says what sets it going: being seen, the pointer over it, or a press; delay, in milliseconds, is before that. colours are pairs “from-to” of six hexadecimal digits each, for this use. width, place, space and border as of a film */
export interface AnimationNode {
  type: "animation"
  attrs: { item: number; alt: string | null; decorative: boolean; caption: string | null; width: number | null; place: string | null; space: string | null; border: string | null; speed: number; times: number | null; start: string; delay: number; colours: string | null }
}

/** a post of a network, an item of the media library: its words with who wrote it, when, and where it is. pictures are the numbers of its pictures in the library, with a blank between; caption stands below it */
export interface PostNode {
  type: "post"
  attrs: { item: number; pictures: string | null; caption: string | null }
}

/** pages to read next, as a list. title stands above it, None for the usual one */
export interface ReadNextNode {
  type: "read_next"
  attrs: { title: string | null }
  content?: FurtherNode[]
}

/** one of them. words are those of its link, None the title of the page; why stands below it */
export interface FurtherNode {
  type: "further"
  attrs: { href: string | null; words: string | null; why: string | null }
}

/** a link, to an address as in references.py */
export interface LinkMark {
  type: "link"
  attrs: { href: string; title: string | null; new_window: boolean }
}

/** a short form, with the words it stands for */
export interface AbbreviationMark {
  type: "abbreviation"
  attrs: { expansion: string }
}

/** words in another language, by its tag (BCP 47) */
export interface LanguageMark {
  type: "language"
  attrs: { code: string }
}

/** words in a colour of the theme's palette */
export interface ToneMark {
  type: "tone"
  attrs: { name: string }
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

export type AnyNode = DocNode | RegionNode | ParagraphNode | HeadingNode | BulletedListNode | NumberedListNode | ListItemNode | TableNode | TableCaptionNode | TableGridNode | TableRowNode | TableCellNode | TableHeaderNode | PreformattedNode | TextNode | LineBreakNode | QuotationNode | QuotationWordsNode | QuotationSourceNode | AsideNode | DividerNode | PictureNode | EquationNode | FormulaNode | CallToActionNode | FilmNode | SoundNode | HostedNode | DownloadsNode | DownloadNode | GalleryNode | SlideshowNode | SlideNode | PaperNode | AnimationNode | PostNode | ReadNextNode | FurtherNode
export type AnyMark = LinkMark | AbbreviationMark | LanguageMark | ToneMark | StrongMark | EmphasisMark | UnderlineMark | StrikeMark | SuperscriptMark | SubscriptMark | CodeMark

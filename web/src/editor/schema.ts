/**
 * The editor's schema, built from the one that the core generates. Nothing about the format is written here, save how
 * the kinds without a plain element are drawn.
 *
 * The page's title and description ride along as attributes of the document node, so that one undo history and one
 * way of saving serve for everything; `textOf` takes them apart again.
 */
import {
  type DOMOutputSpec,
  type Mark,
  type MarkSpec,
  type Node,
  type NodeSpec,
  Schema,
  type TagParseRule,
} from "prosemirror-model"
import { ASIDES, LONGEST_REFERENCE } from "../document/rules"
import generated from "../document/schema.generated.json"
import type { DocNode } from "../document/types.generated"

interface ElementSpec {
  tag: string
  attributes: Record<string, string>
  also: string[]
  class: string
}
type Attrs = Record<
  string,
  { required?: boolean; default?: unknown; pattern?: string; range?: [number, number] }
>

/** An attribute written into the HTML, unless it has its default value. */
function htmlAttributes(element: ElementSpec, attrs: Attrs, values: Record<string, unknown>) {
  const written: Record<string, string> = element.class ? { class: element.class } : {}
  for (const [name, from] of Object.entries(element.attributes)) {
    const spec = attrs[from]
    if (spec?.required || values[from] !== spec?.default)
      written[name] = values[from] === true ? "" : String(values[from])
  }
  return written
}

const LEVELS = [2, 3, 4, 5, 6]

function parseRules(element: ElementSpec, attrs: Attrs): TagParseRule[] {
  const valuesOf = (dom: HTMLElement) => {
    const values: Record<string, unknown> = {}
    for (const [name, to] of Object.entries(element.attributes)) {
      const spec = attrs[to]
      const value = dom.getAttribute(name)
      if (value === null) {
        if (spec?.required) return false
      } else if (typeof spec?.default === "boolean") values[to] = true
      else if (spec?.range) {
        const number = Number.parseInt(value, 10)
        if (Number.isFinite(number)) values[to] = Math.min(spec.range[1], Math.max(spec.range[0], number))
      } else if (!spec?.pattern || new RegExp(`^(?:${spec.pattern})$`).test(value)) values[to] = value
      else if (spec.required) return false
    }
    return allowed(values) ? values : false
  }
  if (element.tag === "h{level}") {
    const lowered = { tag: "h1", attrs: { level: 2 } }
    const ruleOf = (level: number) => ({
      tag: `h${level}`,
      getAttrs: (dom: HTMLElement) => ({ ...valuesOf(dom), level }),
    })
    return [lowered, ...LEVELS.map(ruleOf)]
  }
  const only = element.class ? `.${element.class}` : ""
  return [element.tag, ...element.also].map((tag) => ({ tag: tag + only, getAttrs: valuesOf }))
}

/** Addresses that the schema refuses are not taken in by paste either; the words stay. */
function allowed(values: Record<string, unknown>): boolean {
  return !("href" in values) || isReference(String(values.href))
}

const pattern = new RegExp(
  `^(?:${generated.marks.find((mark) => mark.name === "link")?.attrs.href?.pattern ?? "(?!)"})$`,
)

/** Whether an address may stand in a document. */
export function isReference(address: string): boolean {
  return address.length <= LONGEST_REFERENCE && pattern.test(address)
}

interface Kind {
  name: string
  attrs: Attrs
  element: ElementSpec | null
}
interface NodeDescription extends Kind {
  content: string
  group: string
  inline: boolean
  marks: boolean
  defining: boolean
  tableRole: string
}
interface MarkDescription extends Kind {
  element: ElementSpec
  inclusive: boolean
}
const described = generated as unknown as { nodes: NodeDescription[]; marks: MarkDescription[] }

function nodeSpec(kind: NodeDescription): NodeSpec {
  const { attrs, element } = kind
  const spec: NodeSpec = {
    group: kind.group || undefined,
    inline: kind.inline,
    defining: kind.defining,
    attrs: Object.fromEntries(
      Object.entries(attrs).map(([name, each]) => [name, each.required ? {} : { default: each.default }]),
    ),
  }
  if (kind.content) spec.content = kind.content
  else if (kind.name !== "text") spec.atom = true
  if (/inline|text/.test(kind.content)) spec.marks = kind.marks ? "_" : ""
  if (kind.tableRole) {
    spec.tableRole = kind.tableRole
    spec.selectable = false
  }
  if (/cell|row|table/.test(kind.tableRole) || kind.name === "table") spec.isolating = true
  if (element) {
    spec.parseDOM = parseRules(element, attrs)
    spec.toDOM = (node: Node): DOMOutputSpec => {
      const tag = element.tag.replace("{level}", String(node.attrs.level))
      const written = htmlAttributes(element, attrs, node.attrs)
      return kind.content ? [tag, written, 0] : [tag, written]
    }
  }
  if (kind.name === "line_break") spec.selectable = false
  Object.assign(spec, OWN[kind.name])
  if (kind.name === "doc")
    spec.attrs = { ...spec.attrs, title: { default: "" }, description: { default: "" } }
  return spec
}

const latexOf = (dom: HTMLElement) => {
  const latex = dom.getAttribute("data-latex") ?? ""
  return latex ? { latex } : false
}

const pictureOf = (image: Element) => ({
  item: Number.parseInt(image.getAttribute("src")?.slice(5) ?? "", 10),
  alt: image.getAttribute("alt") || null,
  decorative: image.hasAttribute("data-decorative"),
})

/** The attributes of a picture that the storable form writes as `data-NAME` of its figure; all but the first four. */
const pictureAttrs = Object.entries(described.nodes.find(({ name }) => name === "picture")?.attrs ?? {})
const PICTURE_SETTING = pictureAttrs.slice(4)

/** How a picture stands and what is made of it, as far as it is well said. */
function settingOf(figure: Element) {
  const setting: Record<string, unknown> = {}
  for (const [name, { range, pattern }] of PICTURE_SETTING) {
    const value = figure.getAttribute(`data-${name}`)
    if (value === null) continue
    if (range) {
      if (/^-?\d{1,5}$/.test(value) && Number(value) >= range[0] && Number(value) <= range[1])
        setting[name] = Number(value)
    } else if (new RegExp(`^(?:${pattern})$`).test(value)) setting[name] = value
  }
  return setting
}

const settingAttributes = (attrs: Record<string, unknown>) =>
  Object.fromEntries(
    PICTURE_SETTING.filter(([name]) => attrs[name] !== null).map(([name]) => [
      `data-${name}`,
      String(attrs[name]),
    ]),
  )

/**
 * The kinds that are more than one element. Within the editor pictures and equations are drawn by their node views;
 * these forms serve copying and pasting.
 */
const OWN: Record<string, Partial<NodeSpec>> = {
  picture: {
    draggable: true,
    toDOM: (node) => [
      "figure",
      { class: "picture", ...settingAttributes(node.attrs) },
      [
        "img",
        {
          src: `item:${node.attrs.item}`,
          ...(node.attrs.alt === null ? {} : { alt: node.attrs.alt }),
          ...(node.attrs.decorative ? { "data-decorative": "" } : {}),
        },
      ],
      ...(node.attrs.caption ? [["figcaption", node.attrs.caption]] : []),
    ],
    parseDOM: [
      {
        tag: "figure.picture",
        getAttrs: (dom) => {
          const image = dom.querySelector('img[src^="item:"]')
          const caption = dom.querySelector("figcaption")?.textContent || null
          return image ? { ...pictureOf(image), ...settingOf(dom), caption } : false
        },
      },
      {
        tag: 'img[src^="item:"]',
        getAttrs: pictureOf,
      },
    ],
  },
  aside: {
    toDOM: (node) => [
      "div",
      { class: "aside", "data-sort": node.attrs.sort, role: "note" },
      ["p", { class: "aside-label", contenteditable: "false" }, ASIDES[node.attrs.sort] ?? ""],
      ["div", { class: "aside-text" }, 0],
    ],
    parseDOM: [
      {
        tag: "div.aside",
        contentElement: "div.aside-text",
        getAttrs: (dom) => {
          const sort = dom.getAttribute("data-sort") ?? ""
          return dom.querySelector("div.aside-text") ? { sort: sort in ASIDES ? sort : "note" } : false
        },
      },
    ],
  },
  table: {
    toDOM: () => ["div", { class: "table" }, ["table", 0]],
    parseDOM: [{ tag: "table", contentElement: (dom) => withOneBody(dom as HTMLElement) }],
  },
  equation: {
    toDOM: (node) => ["div", { class: "equation", "data-latex": node.attrs.latex }],
    parseDOM: [{ tag: "div.equation", getAttrs: latexOf }],
  },
  formula: {
    toDOM: (node) => ["span", { class: "formula", "data-latex": node.attrs.latex }],
    parseDOM: [{ tag: "span.formula", getAttrs: latexOf }],
  },
  call_to_action: {
    // With an address of its own, browsers put what is typed at the end of a link behind it, and out of the block.
    toDOM: (node) => [
      "p",
      { class: "call", "data-emphasis": node.attrs.emphasis },
      ["a", { role: "link", ...(node.attrs.href ? { "data-href": node.attrs.href } : {}) }, 0],
    ],
    parseDOM: [
      {
        tag: "p.call",
        priority: 60,
        contentElement: "a",
        getAttrs: (dom) => {
          const link = dom.querySelector("a")
          const href = link?.getAttribute("href") ?? link?.getAttribute("data-href") ?? null
          const emphasis = dom.getAttribute("data-emphasis") === "quiet" ? "quiet" : "main"
          return { href: href && isReference(href) ? href : null, emphasis }
        },
      },
    ],
  },
}

/** Tables come with their rows in several parts or in none; here they stand in one. */
function withOneBody(table: HTMLElement): HTMLElement {
  const rows = [...table.querySelectorAll("tr")].filter((row) => row.closest("table") === table)
  const body = table.ownerDocument.createElement("tbody")
  const caption = table.querySelector("caption")
  body.append(...rows)
  table.replaceChildren(...(caption ? [caption] : []), body)
  return table
}

function markSpec(kind: MarkDescription): MarkSpec {
  const { attrs } = kind
  return {
    inclusive: kind.inclusive,
    attrs: Object.fromEntries(
      Object.entries(attrs).map(([name, each]) => [name, each.required ? {} : { default: each.default }]),
    ),
    parseDOM: parseRules(kind.element, attrs),
    toDOM: (mark: Mark) => [kind.element.tag, htmlAttributes(kind.element, attrs, mark.attrs), 0],
  }
}

export const schema = new Schema({
  nodes: Object.fromEntries(described.nodes.map((kind) => [kind.name, nodeSpec(kind)])),
  marks: Object.fromEntries(described.marks.map((kind) => [kind.name, markSpec(kind)])),
})

/** What is saved of a page. */
export interface PageText {
  title: string
  description: string
  document: DocNode
}

/** The document with title and description on board, as the editor works on it. */
export function toEditor(text: PageText): Node {
  const { title, description, document } = text
  return schema.nodeFromJSON({ ...document, attrs: { ...document.attrs, title, description } })
}

/** Title, description and the document as the core knows it. */
export function textOf(doc: Node): PageText {
  const { title, description, ...attrs } = doc.attrs
  return { title, description, document: { ...doc.toJSON(), attrs } as DocNode }
}

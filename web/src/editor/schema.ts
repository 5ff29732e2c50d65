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
import generated from "../document/schema.generated.json"
import type { DocNode } from "../document/types.generated"

interface ElementSpec {
  tag: string
  attributes: Record<string, string>
  also: string[]
}
type Attrs = Record<string, { required?: boolean; default?: unknown }>

/** An attribute written into the HTML, unless it has its default value. */
function htmlAttributes(element: ElementSpec, attrs: Attrs, values: Record<string, unknown>) {
  const written: Record<string, string> = {}
  for (const [name, from] of Object.entries(element.attributes)) {
    const spec = attrs[from]
    if (spec?.required || values[from] !== spec?.default) written[name] = String(values[from])
  }
  return written
}

const LEVELS = [2, 3, 4, 5, 6]

function parseRules(element: ElementSpec, attrs: Attrs): TagParseRule[] {
  if (element.tag === "h{level}") {
    const lowered = { tag: "h1", attrs: { level: 2 } }
    return [lowered, ...LEVELS.map((level) => ({ tag: `h${level}`, attrs: { level } }))]
  }
  return [element.tag, ...element.also].map((tag) => ({
    tag,
    getAttrs: (dom) => {
      const values: Record<string, unknown> = {}
      for (const [name, to] of Object.entries(element.attributes)) {
        const value = dom.getAttribute(name)
        if (value === null) {
          if (attrs[to]?.required) return false
        } else {
          values[to] = typeof attrs[to]?.default === "number" ? Number.parseInt(value, 10) || 0 : value
        }
      }
      return allowed(values) ? values : false
    },
  }))
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
  return address.length <= 2000 && pattern.test(address)
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
  if (kind.content === "inline*") spec.marks = kind.marks ? "_" : ""
  if (element) {
    spec.parseDOM = parseRules(element, attrs)
    spec.toDOM = (node: Node): DOMOutputSpec => {
      const tag = element.tag.replace("{level}", String(node.attrs.level))
      const written = htmlAttributes(element, attrs, node.attrs)
      return kind.content ? [tag, written, 0] : [tag, written]
    }
  }
  if (kind.name === "line_break") spec.selectable = false
  if (kind.name === "picture") Object.assign(spec, pictureSpec)
  if (kind.name === "doc")
    spec.attrs = { ...spec.attrs, title: { default: "" }, description: { default: "" } }
  return spec
}

/** Within the editor a picture is drawn by its node view; this form serves copying and pasting. */
const pictureSpec: Partial<NodeSpec> = {
  draggable: true,
  toDOM: (node) => [
    "figure",
    { class: "picture" },
    [
      "img",
      {
        src: `item:${node.attrs.item}`,
        ...(node.attrs.alt === null ? {} : { alt: node.attrs.alt }),
        ...(node.attrs.decorative ? { "data-decorative": "" } : {}),
      },
    ],
  ],
  parseDOM: [
    {
      tag: 'img[src^="item:"]',
      getAttrs: (dom) => ({
        item: Number.parseInt(dom.getAttribute("src")?.slice(5) ?? "", 10),
        alt: dom.getAttribute("alt") || null,
        decorative: dom.hasAttribute("data-decorative"),
      }),
    },
  ],
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

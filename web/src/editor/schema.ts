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
import {
  type Attrs,
  described,
  type ElementSpec,
  isReference,
  type MarkDescription,
  type NodeDescription,
} from "../document/described"
import type { AnyNode, DocNode } from "../document/types.generated"
import { upgraded } from "../document/upgrades"
import { KINDS } from "./kinds"

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
  Object.assign(spec, KINDS[kind.name as AnyNode["type"]]?.node)
  if (kind.name === "region") {
    Object.assign(spec, { isolating: true, selectable: false })
    spec.toDOM = (node: Node): DOMOutputSpec => ["div", { class: "text", "data-region": node.attrs.name }, 0]
  }
  if (kind.name === "doc")
    spec.attrs = { ...spec.attrs, title: { default: "" }, description: { default: "" } }
  return spec
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
  const { title, description } = text
  const document = upgraded(text.document)
  return schema.nodeFromJSON({ ...document, attrs: { ...document.attrs, title, description } })
}

/** Title, description and the document as the core knows it. */
export function textOf(doc: Node): PageText {
  const { title, description, ...attrs } = doc.attrs
  return { title, description, document: { ...doc.toJSON(), attrs } as DocNode }
}

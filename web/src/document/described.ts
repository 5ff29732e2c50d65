/** The kinds as the core describes them, and the addresses that may stand in a document. */
import { LONGEST_REFERENCE } from "./rules"
import generated from "./schema.generated.json"

export interface ElementSpec {
  tag: string
  attributes: Record<string, string>
  also: string[]
  class: string
}
export type Attrs = Record<
  string,
  { required?: boolean; default?: unknown; pattern?: string; range?: [number, number] }
>

export interface Kind {
  name: string
  attrs: Attrs
  element: ElementSpec | null
}
export interface NodeDescription extends Kind {
  content: string
  group: string
  inline: boolean
  marks: boolean
  defining: boolean
  tableRole: string
}
export interface MarkDescription extends Kind {
  element: ElementSpec
  inclusive: boolean
}
export const described = generated as unknown as { nodes: NodeDescription[]; marks: MarkDescription[] }

const pattern = new RegExp(
  `^(?:${generated.marks.find((mark) => mark.name === "link")?.attrs.href?.pattern ?? "(?!)"})$`,
)

/** Whether an address may stand in a document. */
export function isReference(address: string): boolean {
  return address.length <= LONGEST_REFERENCE && pattern.test(address)
}

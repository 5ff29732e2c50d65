/**
 * Blocks as readers get them, asked of the server: for kinds that the sheet does not draw itself. What is asked for in
 * one go is one request; what was answered once is not asked again until something else is known of its items.
 */
import type { Node } from "prosemirror-model"
import { ask, type BlockOut, client } from "../api/client"
import { textOf } from "./schema"

/** In milliseconds: how long after a failure it is asked again, as when the connection is away. */
const AGAIN = 3000
const KEPT = 300

interface Wanted {
  key: string
  node: Node
  region: string
}

export class Drawn {
  private answers = new Map<string, BlockOut>()
  private waiting = new Map<string, Wanted>()
  private timer = 0

  constructor(
    private page: number,
    private tell: () => void,
  ) {}

  /** A block of a region; undefined until the server has drawn it. `stamp` says what is known of its items. */
  of(node: Node, region: string, stamp: string): BlockOut | undefined {
    const key = `${region} ${stamp} ${JSON.stringify(node.toJSON())}`
    const answer = this.answers.get(key)
    if (answer) return answer
    if (!this.waiting.has(key)) this.waiting.set(key, { key, node, region })
    this.soon(0)
    return undefined
  }

  private soon(wait: number) {
    if (this.timer || !this.waiting.size) return
    this.timer = window.setTimeout(() => void this.fetch(), wait)
  }

  private async fetch() {
    const wanted = [...this.waiting.values()]
    const names = ["main", ...new Set(wanted.map(({ region }) => region).filter((name) => name !== "main"))]
    const { schema } = (wanted[0] as Wanted).node.type
    const {
      doc,
      region: regionType,
      paragraph,
    } = schema.nodes as Record<string, (typeof schema)["topNodeType"]>
    if (!doc || !regionType || !paragraph) return
    const order: (Wanted | null)[] = []
    const regions = names.map((name) => {
      const here = wanted.filter(({ region }) => region === name)
      order.push(...(here.length ? here : [null]))
      return regionType.create({ name }, here.length ? here.map(({ node }) => node) : [paragraph.create()])
    })
    const body = { document: textOf(doc.create(null, regions)).document }
    try {
      const params = { path: { page_id: this.page } }
      const made = await ask(client.POST("/api/pages/{page_id}/blocks", { params, body }))
      order.forEach((each, index) => {
        const block = made[index]
        if (!each || !block) return
        this.answers.set(each.key, block)
        this.waiting.delete(each.key)
      })
      for (const key of this.answers.keys()) {
        if (this.answers.size <= KEPT) break
        this.answers.delete(key)
      }
      this.timer = 0
      this.soon(0)
      this.tell()
    } catch {
      // Away, or too often: what waits is asked for again by and by. What nobody shows any more is not.
      this.timer = 0
      this.waiting.clear()
      window.setTimeout(this.tell, AGAIN)
    }
  }
}

/**
 * Blocks as readers get them, asked of the server: for kinds that the sheet does not draw itself. What is asked for in
 * one go is one request; what was answered once is not asked again until something else is known of its items, or what
 * it waits for may be made.
 */
import type { Node } from "prosemirror-model"
import { ask, type BlockOut, client } from "../api/client"
import { textOf } from "./schema"

/** In milliseconds: how long after a failure it is asked again, as when the connection is away. */
const AGAIN = 3000
/** In milliseconds: after how long a block that waits is asked for again; each time twice as long, up to a minute. */
const SOON = 2000
const LONGEST = 60_000
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
  /** Blocks that wait for something to be made: how often they were asked for again, and whether they are to be now. */
  private late = new Map<string, { tries: number; due: boolean }>()

  constructor(
    private page: number,
    private tell: () => void,
  ) {}

  /** A block of a region; undefined until the server has drawn it. `stamp` says what is known of its items. */
  of(node: Node, region: string, stamp: string): BlockOut | undefined {
    const key = `${region} ${stamp} ${JSON.stringify(node.toJSON())}`
    const answer = this.answers.get(key)
    const late = this.late.get(key)
    if (answer && !(answer.waits && (late?.due ?? true))) return answer
    if (late) late.due = false
    if (!this.waiting.has(key)) this.waiting.set(key, { key, node, region })
    this.soon(0)
    return answer
  }

  /** How many of the blocks that were shown last wait for something to be made. */
  get waits(): number {
    return this.late.size
  }

  /** Those of these blocks that are still shown by and by are asked for again. */
  private again(keys: readonly string[]) {
    const theirs = () => keys.flatMap((key) => this.late.get(key) ?? [])
    const tries = Math.max(...theirs().map((each) => each.tries))
    window.setTimeout(
      () => {
        for (const each of theirs()) each.due = true
        this.tell()
        for (const key of keys) if (this.late.get(key)?.due) this.late.delete(key)
      },
      Math.min(LONGEST, SOON * 2 ** tries),
    )
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
        const tries = (this.late.get(each.key)?.tries ?? -1) + 1
        if (block.waits) this.late.set(each.key, { tries, due: false })
        else this.late.delete(each.key)
      })
      const late = wanted.map(({ key }) => key).filter((key) => this.late.has(key))
      if (late.length) this.again(late)
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
      for (const late of this.late.values()) late.due = true
      window.setTimeout(this.tell, AGAIN)
    }
  }
}

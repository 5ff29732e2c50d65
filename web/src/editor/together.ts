/** Who else writes on this page, and where; and what they have saved, which the saver takes in. */
import { t } from "@lingui/core/macro"
import type { Node } from "prosemirror-model"
import { type EditorState, Plugin, PluginKey } from "prosemirror-state"
import { Decoration, DecorationSet } from "prosemirror-view"
import { ask, client, type Together as Told } from "../api/client"
import { blockAt, blocksOf } from "./regions"
import type { Saver } from "./saver"
import type { Sheet } from "./sheet"

export type Writer = Told["others"][number]

/** In milliseconds: how often is asked while others write here, while nobody else does, and while nobody looks. */
const OFTEN = 1500
const NOW_AND_THEN = 3000
const SELDOM = 15_000

export class Together {
  private watchers = new Set<() => void>()
  private others: readonly Writer[] = []
  /** Whether the server's disk has room for more than texts. */
  room = true
  private window = crypto.randomUUID()
  private timer: number | undefined
  private ended = false

  constructor(
    private pageId: number,
    private sheet: Sheet,
    private saver: Saver,
  ) {
    document.addEventListener("visibilitychange", this.seen)
    void this.ask()
  }

  private seen = () => {
    if (!document.hidden) void this.ask()
  }

  watch = (watcher: () => void): (() => void) => {
    this.watchers.add(watcher)
    return () => this.watchers.delete(watcher)
  }

  get = (): readonly Writer[] => this.others

  hasRoom = (): boolean => this.room

  private async ask() {
    window.clearTimeout(this.timer)
    const block = blockAt(this.sheet.state.selection.$head)
    try {
      const told = await ask(
        client.POST("/api/pages/{page_id}/writing", {
          params: { path: { page_id: this.pageId } },
          body: { window: this.window, block },
        }),
      )
      if (this.ended) return
      this.hear(told.others, told.room)
      this.saver.stillOpen(told.clashes)
      await this.saver.heardOf(told.revision)
    } catch {
      // The saver tells of a server that is away; who is here is not known then.
      if (!this.ended) this.hear([])
    }
    if (this.ended) return
    const wait = document.hidden ? SELDOM : this.others.length ? OFTEN : NOW_AND_THEN
    window.clearTimeout(this.timer)
    this.timer = window.setTimeout(() => void this.ask(), wait)
  }

  private hear(others: readonly Writer[], room = this.room) {
    if (room === this.room && JSON.stringify(others) === JSON.stringify(this.others)) return
    this.room = room
    this.others = others
    this.sheet.dispatch(withWriters(this.sheet.state, others))
    for (const watcher of this.watchers) watcher()
  }

  destroy() {
    this.ended = true
    window.clearTimeout(this.timer)
    document.removeEventListener("visibilitychange", this.seen)
    const path = { page_id: this.pageId, window: this.window }
    void ask(
      client.DELETE("/api/pages/{page_id}/writing/{window}", { params: { path }, keepalive: true }),
    ).catch(() => {})
  }
}

/** The heading that a block stands under, or null at the beginning of the text. */
export function headingOver(doc: Node, block: number): string | null {
  const before = blocksOf(doc).slice(0, block + 1)
  return before.findLast(({ node }) => node.type.name === "heading")?.node.textContent ?? null
}

const key = new PluginKey<DecorationSet>("writers")

export const writersPlugin = new Plugin({
  key,
  state: {
    init: () => DecorationSet.empty,
    apply(tr, before) {
      const told = tr.getMeta(key) as readonly Writer[] | undefined
      if (told) return marked(tr.doc, told)
      return tr.docChanged ? before.map(tr.mapping, tr.doc) : before
    },
  },
  props: {
    decorations: (state) => key.getState(state),
  },
})

function marked(doc: Node, writers: readonly Writer[]): DecorationSet {
  const names = new Map<number, string[]>()
  for (const { block, name, own } of writers) {
    if (block === null || block === undefined) continue
    names.set(block, [...(names.get(block) ?? []), own ? t`Your other window` : name])
  }
  const marks: Decoration[] = []
  for (const [index, { node, position }] of names.size ? blocksOf(doc).entries() : []) {
    const here = names.get(index)
    if (!here) continue
    const attributes = { class: "is-written-by-others", "data-writers": here.join(", ") }
    marks.push(Decoration.node(position, position + node.nodeSize, attributes))
  }
  return DecorationSet.create(doc, marks)
}

const withWriters = (state: EditorState, writers: readonly Writer[]) =>
  state.tr.setMeta(key, writers).setMeta("addToHistory", false)

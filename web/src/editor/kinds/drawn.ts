/**
 * Kinds that the server draws: what stands on the sheet is the very HTML that readers get, so that nothing is said twice
 * of how they look. What is within is written in the Shelf.
 */
import { t } from "@lingui/core/macro"
import type { Node } from "prosemirror-model"
import type { EditorView } from "prosemirror-view"
import type { Known } from "../known"
import { regionAt } from "../regions"
import { ItemView } from "./view"

/** What a module of the theme gives: it makes its block do what it does for readers, and returns what ends that. */
interface Module {
  begin?(block: HTMLElement, moves: boolean): () => void
}

/** Asks for what moves to move, and to stand still again. */
export const PLAY = "drawn-play"
/** Told by a selected block when one of its parts, a picture of a gallery say, is pressed: `pressedPart` says which. */
export const PRESSED = "drawn-pressed"
const PARTS = "li, .slide"
const pressed = new WeakMap<globalThis.Node, number>()

/** The part of a block on the sheet that was pressed last, from 0, once; null where none was. */
export function pressedPart(block: globalThis.Node): number | null {
  const index = pressed.get(block) ?? null
  pressed.delete(block)
  return index
}

interface Options {
  tag: "div" | "section" | "nav"
  /** Said on the sheet where there is nothing yet for readers to see. */
  empty: string
}

class DrawnView extends ItemView {
  private shown = ""
  private classes: string[] = []
  private end: (() => void) | null = null
  private scripts: readonly string[] = []
  private moving = false

  constructor(
    node: Node,
    view: EditorView,
    known: Known,
    position: () => number | undefined,
    private options: Options,
  ) {
    super(options.tag, node, view, known, position)
    this.dom.contentEditable = "false"
    this.dom.addEventListener(PLAY, (event) => void this.play((event as CustomEvent<boolean>).detail))
    this.dom.addEventListener("mousedown", (event) => this.press(event.target as Element))
    this.start()
  }

  /** The first press selects the whole, and its particulars begin with what is said of it; a further one is for a part. */
  private press(target: Element) {
    if (!this.dom.classList.contains("ProseMirror-selectednode")) return
    const parts = [...this.dom.querySelectorAll(PARTS)]
    const index = parts.findIndex((part) => part.contains(target))
    // What readers do not get is not drawn; which is which is known only where all are.
    if (index < 0 || parts.length !== this.node.childCount) return
    pressed.set(this.dom, index)
    this.dom.dispatchEvent(new CustomEvent(PRESSED))
  }

  protected draw() {
    const block = this.known.drawn(this.node, regionAt(this.view.state.doc, this.position() ?? 0))
    // Until it comes, what stood there stays.
    if (!block && this.shown) return
    const key = block ? block.html || "-" : ""
    if (key === this.shown && this.dom.hasChildNodes()) return
    this.shown = key
    this.stop()
    this.scripts = block?.scripts ?? []
    const made = this.page.createElement("template")
    made.innerHTML = block?.html ?? ""
    const root = made.content.firstElementChild
    for (const { name } of [...this.dom.attributes])
      if (name.startsWith("data-") || name.startsWith("aria-") || name === "role")
        this.dom.removeAttribute(name)
    this.dom.classList.remove(...this.classes)
    this.classes = root ? [...root.classList] : ["drawn-waits"]
    this.dom.classList.add(...this.classes)
    if (!root) {
      const told = this.page.createElement("p")
      told.textContent = block ? this.options.empty : ""
      this.dom.replaceChildren(told)
      return
    }
    for (const { name, value } of [...root.attributes])
      if (name !== "class") this.dom.setAttribute(name, value)
    this.dom.replaceChildren(...root.childNodes)
    // Nothing within is a stop on the way through the text.
    for (const each of this.dom.querySelectorAll<HTMLElement>("a, button, summary, [tabindex]"))
      each.tabIndex = -1
    void this.play(false)
  }

  /** Has its modules begin, moving or standing still. */
  private async play(moving: boolean) {
    this.stop()
    this.moving = moving
    const shown = this.shown
    const modules = await Promise.all(
      this.scripts.map((address) => import(/* @vite-ignore */ address).catch(() => ({})) as Promise<Module>),
    )
    if (shown !== this.shown || moving !== this.moving || this.end) return
    const ends = modules.map(({ begin }) => begin?.(this.dom, moving))
    this.end = () => {
      for (const end of ends) end?.()
    }
    for (const each of this.dom.querySelectorAll<HTMLElement>("button")) each.tabIndex = -1
  }

  private stop() {
    this.end?.()
    this.end = null
  }

  override deselectNode() {
    super.deselectNode()
    if (this.moving) void this.play(false)
  }

  /** Its own buttons can be pressed; all else selects it. */
  override stopEvent(event: Event): boolean {
    return Boolean((event.target as Element | null)?.closest?.("button"))
  }

  override destroy() {
    super.destroy()
    this.stop()
  }
}

/** The view of a kind that the server draws. */
export const drawn =
  (tag: Options["tag"], empty: string = t`Readers see nothing here yet.`) =>
  (node: Node, view: EditorView, known: Known, position: () => number | undefined) =>
    new DrawnView(node, view, known, position, { tag, empty })

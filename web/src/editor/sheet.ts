/**
 * The sheet: an editor within the page itself.
 *
 * The page stands in a frame of its own, so that its stylesheet and ours cannot meet and its width is a reader's. The
 * title is a plain editable heading outside the document; its words live in the same state as everything else.
 */
import { t } from "@lingui/core/macro"
import { dropCursor } from "prosemirror-dropcursor"
import { gapCursor } from "prosemirror-gapcursor"
import { closeHistory, history, redo, undo } from "prosemirror-history"
import { type Attrs, Fragment, type Node, type NodeType, Slice } from "prosemirror-model"
import { EditorState, NodeSelection, Selection, TextSelection, type Transaction } from "prosemirror-state"
import { Mapping, ReplaceStep, type Step } from "prosemirror-transform"
import { EditorView } from "prosemirror-view"
import type { Change, Clash, Finding, ItemOut, Repair } from "../api/client"
import { setAttrs } from "./blocks"
import { insertWhole } from "./bringing"
import { clashesPlugin, withClashes } from "./clashes"
import { type Clip, clipboardSerializer, clipOf, isOwn } from "./clipboard"
import { insertLink, kinds, replaceAll } from "./commands"
import { findingsOf, findingsPlugin, openFindings, sinceCheck, without, withShown } from "./findings"
import { heardPlugin, withHeard } from "./heard"
import { keyPlugins } from "./keys"
import { viewsOf } from "./kinds"
import { scopesPlugin } from "./kinds/scopes"
import type { Known } from "./known"
import { applyChanges } from "./placement"
import { type Place, Places } from "./places"
import { givesRegions, regionsPlugin } from "./regions"
import { schema } from "./schema"
import { foundPlugin } from "./searching"
import { rememberStanding } from "./standing"
import { writersPlugin } from "./together"

export interface SheetOptions {
  frame: HTMLIFrameElement
  doc: Node
  known: Known
  editable: boolean
  /** A key was pressed on the sheet; returns whether it meant something, in which case nothing more is done. */
  onKey(event: KeyboardEvent, sheet: Sheet): boolean
  /** The particulars of what is selected are gone to. */
  onParticulars(): void
  /** Files dropped or pasted onto the sheet. */
  onFiles(files: File[], sheet: Sheet): void
  /** A text was pasted. `plain`: only its words are wanted. */
  onPaste(clip: Clip, plain: boolean, sheet: Sheet): void
}

/** Whether a kind of node is shown as a whole. */
const isShown = (type: NodeType) =>
  [
    kinds.picture,
    kinds.film,
    kinds.sound,
    kinds.hosted,
    kinds.downloads,
    kinds.gallery,
    kinds.slideshow,
    kinds.read_next,
    kinds.paper,
    kinds.animation,
    kinds.post,
  ].includes(type)

/** The node that shows an item of the library; a post with its pictures. */
export function shownBy(item: ItemOut): Node {
  if (item.kind === "document") return kinds.paper.create({ item: item.id })
  const pictures = item.post?.pictures.join(" ") || null
  return kinds[item.kind].create({ item: item.id, ...(item.kind === "post" ? { pictures } : {}) })
}

/** The history joins changes that bear the same number of a composition; input methods count from 1. */

const FACT_GROUPS = {
  title: 1_000_000_007,
  description: 1_000_000_009,
  label: 1_000_000_011,
  search_title: 1_000_000_013,
  share: 1_000_000_015,
  share_focus: 1_000_000_017,
}

/** In milliseconds: how long after the last key of typing the interface is drawn anew, and how long at most. */
const CALM = 120
const LONGEST_CALM = 2000

/** Whether a change only puts a few letters in place of a few others, or is the title being typed. */
function isTyping(tr: Transaction): boolean {
  if (tr.getMeta(TYPING)) return true
  return tr.docChanged && tr.steps.every((step) => step instanceof ReplaceStep && isText(step.slice))
}

const isText = ({ content, openStart, openEnd }: Slice) =>
  openStart === 0 && openEnd === 0 && content.size <= 4 && (content.firstChild?.isText ?? false)

const TYPING = "typing"

/**
 * Has the editor read where the caret is before it acts on a key. The browser tells of a moved caret a little later
 * than it moves it; End and Enter pressed quickly on a busy machine would otherwise break the line in the wrong place.
 */
function readSelection(view: EditorView): false {
  ;(view as unknown as { domObserver: { flush(): void } }).domObserver.flush()
  return false
}

/** Plain text for preformatted text: each line end is a line break. */
function linesOf(text: string): Slice {
  const nodes = text
    .split(/\r\n?|\n/)
    .flatMap((line, index) => [
      ...(index ? [kinds.line_break.create()] : []),
      ...(line ? [schema.text(line.replaceAll("\t", "    "))] : []),
    ])
  return new Slice(Fragment.from(nodes), 0, 0)
}

export class Sheet {
  readonly view: EditorView
  private title: HTMLElement
  private ended = new AbortController()
  private watchers = new Set<() => void>()
  private calm = new Set<() => void>()
  private calmTimer: number | undefined
  private typingSince = 0
  private followers = new Set<(steps: readonly Step[]) => void>()
  private places = new Places()
  /** Whether what is just being dispatched is nothing that whoever writes here does. */
  private comesIn = false
  private isStill = false
  private waiting: (() => void)[] = []
  private pastingHere = false
  private stepNumber = 2_000_000_000

  constructor(readonly options: SheetOptions) {
    const page = options.frame.contentDocument
    const text = page?.querySelector<HTMLElement>(".regions")
    const title = page?.querySelector<HTMLElement>(".title")
    if (!page || !text || !title) throw new Error(t`The sheet is not a page.`)
    this.title = page.createElement("span")
    title.replaceChildren(this.title)
    this.view = new EditorView(
      { mount: text },
      {
        state: this.fresh(options.doc),
        editable: () => options.editable,
        attributes: { role: "textbox", "aria-multiline": "true", "aria-label": t`The text of the page` },
        nodeViews: viewsOf(options.known),
        dispatchTransaction: (tr) => this.apply(tr),
        clipboardTextParser: (text, $context) =>
          $context.parent.type === kinds.preformatted ? linesOf(text) : (null as unknown as Slice),
        // Before the editor's own: that would parse all of a paste first.
        handleDOMEvents: {
          keydown: (view) => readSelection(view),
          paste: (_view, event) => this.paste(event),
          drop: (view, event) => view.dragging === null && this.dropped(event),
        },
        handleKeyDown: (_view, event) => this.leavesByTab(event) || options.onKey(event, this),
        clipboardSerializer,
      },
    )
    this.bindTitle(options.editable)
    const { signal } = this.ended
    const inert = (event: Event) => {
      if ((event.target as Element).closest?.("a")) event.preventDefault()
    }
    page.addEventListener("click", inert, { signal })
    const sized = (event: Event) => {
      const { position, width } = (event as CustomEvent<{ position: number; width: number }>).detail
      this.setShown(position, { width })
    }
    page.addEventListener("item-sized", sized, { signal })
    page.addEventListener("keydown", (event) => options.onKey(event, this), { signal })
    // The site's own links and buttons lead nowhere here: they are no stops on the way through the page.
    for (const link of page.querySelectorAll<HTMLElement>("a, button, input, summary"))
      if (!text.contains(link)) link.tabIndex = -1
  }

  /** Tab goes from what is selected as a whole to its particulars, not past them. */
  private leavesByTab(event: KeyboardEvent): boolean {
    const selected = this.state.selection instanceof NodeSelection
    if (!selected || event.key !== "Tab" || event.shiftKey || event.ctrlKey || event.altKey) return false
    event.preventDefault()
    this.options.onParticulars()
    return true
  }

  private fresh(doc: Node): EditorState {
    // A picture that comes first is not selected from the start: the browser has its caret in the text all the same.
    const text = Selection.findFrom(doc.resolve(0), 1, true)
    return EditorState.create({
      doc,
      selection: text ?? undefined,
      plugins: [
        ...keyPlugins(),
        history({ newGroupDelay: 600 }),
        dropCursor({ color: "#6a3d7c", width: 3 }),
        gapCursor(),
        regionsPlugin,
        findingsPlugin,
        heardPlugin,
        clashesPlugin,
        foundPlugin,
        scopesPlugin,
        writersPlugin,
      ],
    })
  }

  get state(): EditorState {
    return this.view.state
  }

  watch = (watcher: () => void): (() => void) => {
    this.watchers.add(watcher)
    return () => this.watchers.delete(watcher)
  }

  /** Tells the steps of every change of the text, those that plugins add to it included. */
  follow = (follower: (steps: readonly Step[]) => void): (() => void) => {
    this.followers.add(follower)
    return () => this.followers.delete(follower)
  }

  /**
   * Like `watch`, for what stands around the sheet: while words are being typed it is told a moment later, so that
   * drawing the interface anew never comes between a key and its sign on the sheet. Everything else is told at once.
   */
  watchCalmly = (watcher: () => void): (() => void) => {
    this.calm.add(watcher)
    return () => this.calm.delete(watcher)
  }

  private tellCalm(typing: boolean) {
    if (typing) {
      this.typingSince ||= performance.now()
      const wait = Math.min(CALM, this.typingSince + LONGEST_CALM - performance.now())
      window.clearTimeout(this.calmTimer)
      this.calmTimer = window.setTimeout(() => this.tellCalm(false), Math.max(0, wait))
      return
    }
    window.clearTimeout(this.calmTimer)
    this.typingSince = 0
    for (const watcher of this.calm) watcher()
  }

  private apply(given: Transaction) {
    if (!this.comesIn && (given.docChanged || given.selectionSet)) this.places.goesOn()
    const { state, transactions } = this.state.applyTransaction(given)
    this.view.updateState(state)
    for (const tr of transactions) if (tr.docChanged) this.changed(tr)
    for (const watcher of this.watchers) watcher()
    const amidst = this.typingSince > 0 && !given.docChanged && !given.selectionSet
    this.tellCalm(amidst || transactions.every(isTyping))
  }

  private changed(tr: Transaction) {
    for (const follower of this.followers) follower(tr.steps)
    this.places.follow(tr.mapping)
    this.showTitle()
  }

  dispatch(tr: Transaction | null) {
    if (tr) this.view.dispatch(tr)
  }

  /** What surrounds the sheet is drawn anew at once, although words are just being typed. */
  tellNow() {
    this.tellCalm(false)
  }

  /**
   * Dispatch something that is a step of undo of its own, whatever was done just before. `goesOn`: it belongs to the
   * last one that did not, however slowly it follows.
   */
  step(tr: Transaction | null, goesOn = false) {
    if (!goesOn) this.stepNumber += 1
    // As of long ago, so that what is typed right after it is a step of its own.
    tr?.setMeta("composition", this.stepNumber).setTime(1)
    this.dispatch(tr && (goesOn ? tr : closeHistory(tr)))
  }

  /** Set attributes of the block at a position. */
  set(position: number, attrs: Attrs, goesOn = false) {
    this.step(setAttrs(this.state, position, attrs), goesOn)
  }

  /** Set how a picture or film stands, or what is made of it; it stays selected. */
  setShown(position: number, attrs: Attrs, goesOn = false) {
    const node = this.state.doc.nodeAt(position)
    if (!node || !isShown(node.type)) return
    const tr = setAttrs(this.state, position, attrs)
    tr.setSelection(NodeSelection.create(tr.doc, position))
    this.step(tr, goesOn)
    if (["width", "place", "space", "border"].some((name) => name in attrs))
      rememberStanding(node.type.name, { ...node.attrs, ...attrs })
  }

  /** Put another node in the place of one that is shown as a whole; it stays selected. */
  setWhole(position: number, made: Node, goesOn = false) {
    const node = this.state.doc.nodeAt(position)
    if (!node || node.type !== made.type) return
    const tr = this.state.tr.replaceWith(position, position + node.nodeSize, made)
    tr.setSelection(NodeSelection.create(tr.doc, position))
    this.step(tr, goesOn)
  }

  /** Put documents where the place was marked, as a list of downloads. */
  addDownloads(items: readonly ItemOut[], place: Place) {
    this.options.known.add(items)
    if (!items.length) return this.release(place)
    const entries = items.map(({ id }) => kinds.download.create({ item: id }))
    this.landWhole(place, kinds.downloads.create(null, entries))
  }

  /** Put pictures where the place was marked, as a gallery or a slideshow. */
  addPictures(items: readonly ItemOut[], place: Place, as: "gallery" | "slideshow") {
    this.options.known.add(items)
    const pictures = items
      .filter(({ kind }) => kind === "picture")
      .map(({ id }) => kinds.picture.create({ item: id }))
    if (!pictures.length) return this.release(place)
    const held = as === "gallery" ? pictures : pictures.map((each) => kinds.slide.create(null, each))
    this.landWhole(place, kinds[as].create(null, held))
  }

  /**
   * Set the page's title or description, or what it is called elsewhere. Changes of one that follow one another are one
   * step of undo.
   */
  setFact(name: keyof typeof FACT_GROUPS, value: string | number | null, onSheet = false) {
    const tr = this.state.tr.setDocAttribute(name, value).setMeta("composition", FACT_GROUPS[name])
    this.dispatch(tr.setMeta(TYPING, onSheet))
  }

  focus() {
    this.options.frame.contentWindow?.focus()
    this.view.focus()
  }

  /**
   * Keep the selection's place while something is fetched; text may be written meanwhile. With a `bias` of -1 what is
   * written at the caret stands behind the place, otherwise before it.
   */
  hold(bias: -1 | 1, at: Place = this.state.selection): Place {
    return this.places.hold(at, bias)
  }

  release(place: Place) {
    this.places.release(place)
  }

  /** While the text is written elsewhere, in the source, what would land waits. */
  holdStill(still: boolean) {
    this.isStill = still
    if (!still) for (const go of this.waiting.splice(0)) go()
  }

  async whenFree(): Promise<void> {
    if (this.isStill) await new Promise<void>((go) => this.waiting.push(go))
  }

  /** Whether whoever writes here has gone on since a place was kept. */
  wasLeft(place: Place): boolean {
    return this.places.wasLeft(place)
  }

  /**
   * Dispatch what lands at a place, as a step of undo of its own. For whoever awaits it, what landed is selected and
   * seen; whoever went on meanwhile stays where they are.
   */
  land(place: Place, make: (isAwaited: boolean) => Transaction) {
    this.places.land(place, this.state, make, (tr) => this.takesIn(() => this.step(tr)))
  }

  /** Do what is nothing that whoever writes here does. */
  private takesIn(dispatch: () => void) {
    this.comesIn = true
    try {
      dispatch()
    } finally {
      this.comesIn = false
    }
  }

  private landWhole(place: Place, node: Node) {
    this.land(place, (isAwaited) => insertWhole(this.state, node, place.to, isAwaited))
  }

  /** Put an item where the place was marked: a picture or film as such, a document as a link to it. */
  addItem(item: ItemOut, place: Place, name: string) {
    this.options.known.add([item])
    if (item.kind !== "document") return this.landWhole(place, shownBy(item))
    this.land(place, () => {
      const near = Selection.near(this.state.doc.resolve(place.to), -1)
      const there = this.state.apply(this.state.tr.setSelection(near))
      const tr = insertLink(there, `item:${item.id}`, name)
      const made = this.state.tr
      for (const step of tr.steps) made.step(step)
      return made.setSelection(TextSelection.near(made.doc.resolve(made.mapping.map(near.to))))
    })
  }

  /** Shows the place of a finding and puts the caret there; one of the page as a whole has none. */
  showFinding(index: number, focus = true) {
    const placed = findingsOf(this.state)[index]
    if (!placed) return
    this.dispatch(withShown(this.state, index))
    if (placed.from < 0) return
    const tr = this.state.tr
    const node = tr.doc.nodeAt(placed.from)
    if (node && isShown(node.type)) tr.setSelection(NodeSelection.create(tr.doc, placed.from))
    else if (placed.finding.span) tr.setSelection(TextSelection.create(tr.doc, placed.from, placed.to))
    else tr.setSelection(Selection.near(tr.doc.resolve(placed.from + 1)))
    if (focus) this.focus()
    this.dispatch(tr.scrollIntoView())
  }

  /** Makes a repair as one step of undo. False where the text there is no longer what was checked. */
  repair(finding: Finding, repair: Repair): boolean {
    return this.mend([[finding, repair]])
  }

  /** Makes the first repairs of all findings of a check as one step of undo. */
  mendAll(check: string): boolean {
    const these = openFindings(this.state).filter(
      ({ finding }) => finding.check === check && finding.together,
    )
    return this.mend(these.map(({ finding }) => [finding, finding.repairs[0] as Repair]))
  }

  private mend(repairs: [Finding, Repair][]): boolean {
    const since = sinceCheck(this.state)
    if (!since || !this.options.editable) return false
    const tr = this.state.tr
    if (!repairs.every(([, repair]) => applyChanges(tr, repair.changes, since.doc, since.since))) return false
    const mended = repairs.map(([finding]) => finding)
    this.step(without(tr, mended).scrollIntoView())
    return true
  }

  /**
   * Take in what others have changed, made for the text `then`, from which it leads to `now`; `since` says how places
   * have moved from `then` to what stands here. Caret, selection and the way back through one's own changes stay.
   * False, with nothing done, where it meets words that were written here since, or letters are just being put
   * together by an input method.
   */
  takeIn(changes: readonly Change[], then: Node, now: Node, since: Mapping): boolean {
    if (this.view.composing) return false
    const state = EditorState.create({ doc: then })
    const alone = state.tr
    const tr = this.state.tr
    if (applyChanges(alone, changes, then, new Mapping()) && alone.doc.eq(now)) {
      if (!applyChanges(tr, changes, then, since)) return false
    } else {
      if (since.maps.length) return false
      for (const step of replaceAll(state, now).steps) tr.step(step)
    }
    if (!tr.docChanged) return true
    const { selection } = this.state
    if (selection instanceof TextSelection) {
      // What comes in right at the caret stands behind it.
      const $place = (position: number) => tr.doc.resolve(tr.mapping.map(position, -1))
      tr.setSelection(TextSelection.between($place(selection.anchor), $place(selection.head)))
    }
    this.takesIn(() => this.dispatch(givesRegions(tr.setMeta("addToHistory", false))))
    return true
  }

  /**
   * Marks where the wordings of these stand, and of no others, by their paths in the text `then`, whose places `since`
   * maps to now; without a text, only those stay that are marked.
   */
  mark(clashes: readonly Clash[], then: Node | null = null, since = new Mapping()) {
    const tr = withClashes(this.state, clashes, then, since)
    if (tr) this.dispatch(tr)
  }

  /** Shows the block that is being heard, or (null) none. */
  hear(path: readonly number[] | null) {
    this.dispatch(withHeard(this.state, path))
    this.view.dom.querySelector(".is-heard")?.scrollIntoView({ block: "center" })
  }

  goTo(position: number) {
    this.focus()
    const tr = this.state.tr
    this.dispatch(tr.setSelection(Selection.near(tr.doc.resolve(position + 1))))
    const dom = this.view.nodeDOM(position)
    if (dom && "scrollIntoView" in dom) (dom as HTMLElement).scrollIntoView({ block: "start" })
  }

  /** What comes from elsewhere is read by the server; what comes from a sheet, or into preformatted text, is not. */
  private paste(event: ClipboardEvent): boolean {
    if (this.pastingHere || !this.options.editable) return false
    const clip = clipOf(event.clipboardData)
    if (!clip) return false
    if ("files" in clip) {
      event.preventDefault()
      this.options.onFiles(clip.files, this)
      return true
    }
    if (isOwn(clip.html) || this.state.selection.$from.parent.type === kinds.preformatted) return false
    event.preventDefault()
    const { shiftKey } = (this.view as unknown as { input: { shiftKey: boolean } }).input
    this.options.onPaste(clip, shiftKey, this)
    return true
  }

  /** Have the browser read what was pasted, where the server cannot; one step of undo. */
  pasteHere({ html, text }: Clip, place: Place) {
    const mine = this.wasLeft(place) ? this.hold(1) : null
    this.select(place)
    this.pastingHere = true
    try {
      if (html) this.view.pasteHTML(html)
      else this.view.pasteText(text)
    } finally {
      this.pastingHere = false
    }
    if (!mine) return
    this.release(mine)
    this.select(mine)
  }

  private select({ from, to }: Place) {
    const { doc, tr } = this.state
    this.step(tr.setSelection(TextSelection.between(doc.resolve(from), doc.resolve(to))))
  }

  /** Files and text that were dragged from elsewhere come in where they were dropped. */
  private dropped(event: DragEvent): boolean {
    const files = [...(event.dataTransfer?.files ?? [])]
    const clip = files.length ? { files } : clipOf(event.dataTransfer)
    if (!clip || !this.options.editable || ("html" in clip && isOwn(clip.html))) return false
    event.preventDefault()
    const found = this.view.posAtCoords({ left: event.clientX, top: event.clientY })
    if (found) this.dispatch(this.state.tr.setSelection(Selection.near(this.state.doc.resolve(found.pos))))
    if ("files" in clip) this.options.onFiles(clip.files, this)
    else this.options.onPaste(clip, false, this)
    return true
  }

  private bindTitle(editable: boolean) {
    const title = this.title
    title.className = "title-words"
    if (editable) {
      title.setAttribute("contenteditable", "plaintext-only")
      title.setAttribute("role", "textbox")
      title.setAttribute("aria-label", t`The title of the page`)
    }
    title.spellcheck = true
    title.addEventListener("input", () => {
      const words = (title.textContent ?? "").replace(/\s+/g, " ")
      this.setFact("title", words, true)
    })
    title.addEventListener("keydown", (event) => {
      const atEnd = event.key === "ArrowDown"
      if ((event.key === "Enter" && !event.isComposing) || atEnd) {
        event.preventDefault()
        this.view.focus()
        this.dispatch(this.state.tr.setSelection(Selection.atStart(this.state.doc)))
      }
    })
    title.addEventListener("beforeinput", (event) => {
      const back = { historyUndo: undo, historyRedo: redo }[event.inputType]
      if (back) {
        event.preventDefault()
        back(this.state, (tr) => this.dispatch(tr))
      }
    })
    this.showTitle()
  }

  private showTitle() {
    const words = this.state.doc.attrs.title as string
    if ((this.title.textContent ?? "").replace(/\s+/g, " ") !== words) this.title.textContent = words
  }

  destroy() {
    this.ended.abort()
    window.clearTimeout(this.calmTimer)
    this.view.destroy()
    this.holdStill(false)
  }
}

/** Films and sounds on the sheet: the same elements with the same attributes as on the live page. They stand still while
 * one writes, and play on a press in the Shelf. */
import { t } from "@lingui/core/macro"
import type { Node } from "prosemirror-model"
import type { EditorView } from "prosemirror-view"
import { ask, client } from "../../api/client"
import { coverItem, type FilmAttrs, filmShown, playable, sizeAttrs } from "../../document/films"
import { FILMS } from "../../document/rules"
import type { Known } from "../known"
import { putAtCorner, sizeHandle, tellSized } from "./handle"
import type { EditorKind } from "./kind"
import { number, setTo, settingAttributes, settingOf } from "./shown"
import { ItemView } from "./view"

const STANDING = ["place", "space", "border"] as const
const { setting: SETTING, played: PLAYED } = FILMS
const TAGS = { film: "video", sound: "audio" } as const
type Kind = keyof typeof TAGS

class FilmView extends ItemView {
  private figure: HTMLElement
  private player: HTMLMediaElement
  private caption: HTMLElement
  private waiting: HTMLElement
  private words: HTMLElement | null = null
  /** What the transcript was last drawn from. */
  private written = ""
  private drawn = ""

  constructor(node: Node, view: EditorView, known: Known, position: () => number | undefined) {
    super("div", node, view, known, position)
    const { page } = this
    this.figure = page.createElement("figure")
    this.player = page.createElement(TAGS[this.kind])
    this.player.controls = true
    this.player.preload = "none"
    this.player.tabIndex = -1
    this.caption = page.createElement("figcaption")
    this.waiting = page.createElement("p")
    this.waiting.className = "film-waits"
    if (this.kind === "film")
      this.handle = sizeHandle(page, {
        of: () => {
          const item = this.known.item(this.attrs.item)
          return item ? { item, attrs: sizeAttrs(this.attrs), room: this.room } : null
        },
        begun: () => this.player.getBoundingClientRect().width,
        show: (width, height) => {
          setTo(this.player, { width, height })
          this.putHandle()
        },
        done: (width) => tellSized(this.dom, this.position(), width),
        undone: () => this.draw(),
      })
    this.dom.append(this.figure)
    this.start()
  }

  private get kind() {
    return this.node.type.name as Kind
  }

  private get attrs() {
    return this.node.attrs as FilmAttrs
  }

  private putHandle() {
    if (this.handle?.parentNode) putAtCorner(this.handle, this.player, this.attrs.place === "end")
  }

  protected draw() {
    const { attrs, kind } = this
    this.dom.classList.add(kind)
    for (const name of STANDING) setTo(this.dom, { [`data-${name}`]: (attrs[name] as string) ?? null })
    const item = this.known.item(attrs.item)
    const there = item?.kind === kind && playable(item)
    this.dom.classList.toggle("is-unknown", !there)
    if (!item || !there) {
      this.waiting.textContent = item ? waitingFor(item) : ""
      this.figure.replaceChildren(this.waiting)
      return
    }
    if (this.waiting.parentNode) this.waiting.remove()
    if (!this.player.parentNode) this.figure.prepend(this.player)
    this.player.setAttribute("aria-label", item.title)
    this.player.loop = attrs.loop
    if (kind === "film") {
      const number = coverItem(attrs.cover)
      const at = filmShown(item, attrs, this.room, number === null ? undefined : this.known.item(number))
      setTo(this.player, { width: at.width, height: at.height, poster: at.poster || null })
      this.player.muted = attrs.autoplay
    }
    this.load(item.film)
    const words = attrs.caption || (kind === "sound" ? item.title : "")
    this.caption.textContent = words
    if (words && !this.caption.parentNode) this.figure.append(this.caption)
    if (!words) this.caption.remove()
    this.putHandle()
    this.transcribe()
  }

  /** Its files and words; the same again are not loaded again. */
  private load(film: NonNullable<ReturnType<Known["item"]>>["film"]) {
    const wanted = JSON.stringify(film ?? null)
    if (wanted === this.drawn) return
    this.drawn = wanted
    const sources = (film?.sources ?? []).map(({ address, mime, media }) => {
      const source = this.page.createElement("source")
      setTo(source, { src: address, type: mime, media: media || null })
      return source
    })
    const tracks = (film?.tracks ?? []).map((each) => {
      const track = this.page.createElement("track")
      setTo(track, { kind: each.sort, srclang: each.language, label: each.name, src: each.address })
      return track
    })
    this.player.replaceChildren(...sources, ...tracks)
    this.player.load()
  }

  /** The transcript as readers get it, which the server makes of the captions. */
  private transcribe() {
    const { transcript, item } = this.attrs
    const tracks = this.known.item(item)?.film?.tracks ?? []
    const wanted = JSON.stringify([transcript, item, transcript && tracks])
    if (wanted === this.written) return
    this.written = wanted
    this.words?.remove()
    this.words = null
    if (!transcript || !tracks.length) return
    const params = { path: { item_id: item }, query: { language: this.page.documentElement.lang } }
    ask(client.GET("/api/items/{item_id}/transcript", { params })).then(
      (found) => {
        if (this.written === wanted && found.paragraphs.length) this.dom.append(this.transcript(found))
      },
      () => {
        this.written = ""
      },
    )
  }

  private transcript(found: { name: string; language: string; paragraphs: string[] }) {
    const folded = this.attrs.transcript === "folded"
    const words = this.page.createElement(folded ? "details" : "div")
    const name = this.page.createElement(folded ? "summary" : "p")
    words.className = "transcript"
    words.lang = found.language
    if (folded) name.tabIndex = -1
    else name.className = "transcript-name"
    name.textContent = found.name
    const paragraphs = found.paragraphs.map((each) => {
      const paragraph = this.page.createElement("p")
      paragraph.textContent = each
      return paragraph
    })
    words.append(name, ...paragraphs)
    this.words = words
    return words
  }

  protected override hold(handle: HTMLElement) {
    if (!this.player.parentNode) return
    this.figure.append(handle)
    this.putHandle()
  }

  override deselectNode() {
    super.deselectNode()
    this.player.pause()
  }

  override destroy() {
    this.player.pause()
    super.destroy()
  }
}

function waitingFor({ title, progress, problem }: { title: string; progress: number; problem: string }) {
  if (problem) return t`“${title}” cannot be played: ${problem}`
  return progress ? t`“${title}” is being made ready: ${progress}% done.` : t`“${title}” is being made ready.`
}

const kindOf = (name: Kind): EditorKind => ({
  node: {
    draggable: true,
    toDOM: ({ attrs }) => [
      "figure",
      { class: name, ...settingAttributes(SETTING[name], attrs) },
      [
        TAGS[name],
        {
          src: `item:${attrs.item}`,
          ...Object.fromEntries(PLAYED[name].filter((each) => attrs[each]).map((each) => [each, ""])),
        },
      ],
      ...(attrs.caption ? [["figcaption", attrs.caption] as const] : []),
    ],
    parseDOM: [
      {
        tag: `figure.${name}`,
        getAttrs: (dom) => {
          const player = dom.querySelector(`${TAGS[name]}[src^="item:"]`)
          const caption = dom.querySelector("figcaption")?.textContent || null
          if (!player) return false
          const played = Object.fromEntries(PLAYED[name].map((each) => [each, player.hasAttribute(each)]))
          const item = number(player.getAttribute("src"))
          return { item, ...settingOf(name, SETTING[name], dom), ...played, caption }
        },
      },
    ],
  },
  view: (node, view, known, position) => new FilmView(node, view, known, position),
})

export const film = kindOf("film")
export const sound = kindOf("sound")

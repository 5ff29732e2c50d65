/**
 * How a picture is cut, how wide it is shown, and from which files: what the core's `media/editing.py` and
 * `media/shown.py` say, for the sheet, which cannot wait for the server while something is being dragged.
 * `tests/outside/test_pictures_against_core.py` holds the two together.
 */
import type { ItemOut } from "../api/client"
import { PICTURES } from "./rules"

export const { unit: UNIT, edge: EDGE, steepest: STEEPEST } = PICTURES
const DENSEST = PICTURES.densest
const AVIF = "image/avif"
const WEBP = "image/webp"
const OLDER = ["image/jpeg", "image/png", "image/gif", "image/svg+xml"]

/** What is made of the original; null leaves it to the item. */
export interface Edits {
  turn: number | null
  straighten: number | null
  crop: string | null
  ratio: string | null
  focus: string | null
}
export const NO_EDITS: Edits = { turn: null, straighten: null, crop: null, ratio: null, focus: null }

/** How much room a theme gives to pictures in a region, in CSS pixels: in running text, and reaching beyond it. */
export interface Room {
  column: number
  wide: number
}

export type Standing = "start" | "end" | "centre" | "wide"

/** A picture's attributes, as far as its size and files depend on them. */
export interface PictureAttrs extends Edits {
  width: number | null
  place: Standing | null
}

export type Box = [x: number, y: number, width: number, height: number]

/** What is to be done to the original, complete. */
export interface Cut {
  turn: number
  straighten: number
  crop: Box
}
export const WHOLE: Box = [0, 0, UNIT, UNIT]

/** Half to even, as Python rounds. */
export function rounded(value: number): number {
  const low = Math.floor(value)
  const rest = value - low
  if (rest !== 0.5) return rest < 0.5 ? low : low + 1
  return low % 2 === 0 ? low : low + 1
}

/** A short name for a cut, as files bear it; "" where nothing is done. */
export function keyOf({ turn, straighten, crop }: Cut): string {
  if (!turn && !straighten && crop.every((each, index) => each === WHOLE[index])) return ""
  return [turn, straighten, ...crop].join(".")
}

/** How much of either side is left after straightening, from 0 to 1. */
export function straightenedShare(width: number, height: number, tenths: number): number {
  const angle = (Math.abs(tenths) / 10 / 180) * Math.PI
  const [cosine, sine] = [Math.cos(angle), Math.sin(angle)]
  return Math.min(width / (width * cosine + height * sine), height / (width * sine + height * cosine))
}

/** Width and height after turning and straightening. */
export function upright(cut: Pick<Cut, "turn" | "straighten">, width: number, height: number) {
  const [wide, high] = cut.turn % 2 ? [height, width] : [width, height]
  const share = straightenedShare(wide, high, cut.straighten)
  return [wide * share, high * share] as const
}

/** Width and height in pixels of what is left of an original. */
export function sizeAfter(cut: Cut, width: number, height: number) {
  const [wide, high] = upright(cut, width, height)
  return [
    Math.max(1, rounded((wide * cut.crop[2]) / UNIT)),
    Math.max(1, rounded((high * cut.crop[3]) / UNIT)),
  ] as const
}

const numbers = (text: string) => text.split(/[,:]/).map(Number)

/** The cut for one use of a picture: what the use leaves open is the item's. */
export function cutOf(used: Edits, own: Edits, width: number, height: number): Cut {
  const turn = used.turn ?? own.turn ?? 0
  const straighten = used.straighten ?? own.straighten ?? 0
  const framed = used.crop !== null || used.ratio !== null ? used : own
  const cut: Cut = { turn, straighten, crop: WHOLE }
  if (framed.crop !== null) {
    const [left = 0, top = 0, wide = UNIT, high = UNIT] = numbers(framed.crop)
    const x = Math.min(left, UNIT - 1)
    const y = Math.min(top, UNIT - 1)
    return {
      ...cut,
      crop: [x, y, Math.max(1, Math.min(wide, UNIT - x)), Math.max(1, Math.min(high, UNIT - y))],
    }
  }
  if (framed.ratio === null) return cut
  const focus = used.focus ?? own.focus ?? `${UNIT / 2},${UNIT / 2}`
  const [across = 1, down = 1] = numbers(framed.ratio)
  const [x = 0, y = 0] = numbers(focus).map((each) => Math.min(UNIT, each))
  return { ...cut, crop: framedBy(across / down, [x, y], ...upright(cut, width, height)) }
}

/** The largest rectangle of a proportion, as near round the focal point as it can be. */
export function framedBy(proportion: number, focus: readonly number[], width: number, height: number): Box {
  const wide = Math.max(1, rounded(Math.min(1, (proportion * height) / width) * UNIT))
  const high = Math.max(1, rounded(Math.min(1, width / proportion / height) * UNIT))
  const start = (middle: number, size: number) =>
    Math.min(Math.max(0, middle - Math.floor(size / 2)), UNIT - size)
  return [start(focus[0] ?? 0, wide), start(focus[1] ?? 0, high), wide, high]
}

export const isDrawn = (item: ItemOut) => item.files.some((file) => file.mime === "image/svg+xml")

/** What is cut from an item at a use. A drawing of lines is shown whole. */
export function cutAt(item: ItemOut, attrs: Edits): Cut {
  if (isDrawn(item)) return { turn: 0, straighten: 0, crop: WHOLE }
  return cutOf(attrs, { ...NO_EDITS, ...item.edits }, item.width, item.height)
}

/** The widest a picture may be made at a place, and how wide it is where nothing is said. */
export function widths(item: ItemOut, attrs: PictureAttrs, { column, wide }: Room) {
  const natural = sizeAfter(cutAt(item, attrs), item.width, item.height)
  const beside = attrs.place === "start" || attrs.place === "end"
  const room = beside ? Math.floor((column * 2) / 3) : attrs.place === "wide" ? wide : column
  const own = isDrawn(item) ? wide : natural[0]
  return {
    natural,
    room,
    most: Math.min(room, own),
    usual: Math.min(beside ? Math.floor(column / 2) : room, natural[0]),
  }
}

export interface Shown {
  width: number
  height: number
  src: string
  srcset: string
  sizes: string
  sources: { type: string; srcset: string }[]
  cut: string
}

type File = ItemOut["files"][number]

/** How a picture is shown at a use: the same as the published page says. */
export function shown(item: ItemOut, attrs: PictureAttrs, room: Room): Shown {
  const cut = keyOf(cutAt(item, attrs))
  const { natural, most, usual } = widths(item, attrs, room)
  const width = Math.min(attrs.width ?? usual, most)
  const height = Math.max(1, rounded((natural[1] * width) / natural[0]))
  const exact = item.files.filter((file) => file.cut === cut)
  const files = exact.length ? exact : item.files.filter((file) => !file.cut)
  const older = files.filter(({ mime }) => OLDER.includes(mime))
  const fallback = older.length ? older : files
  const edges = 2 * EDGE
  return {
    width,
    height,
    src: nearest(fallback, width)?.address ?? "",
    srcset: fallback.length > 1 ? srcset(fallback, width) : "",
    sizes: `(min-width: ${width + edges}px) ${width}px, calc(100vw - ${edges}px)`,
    sources: [AVIF, WEBP].flatMap((type) => {
      const those = files.filter(({ mime }) => mime === type)
      return those.length &&
        !(those.length === fallback.length && those.every((each) => fallback.includes(each)))
        ? [{ type, srcset: srcset(those, width) }]
        : []
    }),
    // Whether the files of this very cut are there already.
    cut: exact.length ? "" : cut,
  }
}

function nearest(files: File[], width: number): File | undefined {
  const farness = (file: File) => [Number(file.width < width), Math.abs(file.width - width)] as const
  return [...files].sort((one, other) => {
    const [a, b] = [farness(one), farness(other)]
    return a[0] - b[0] || a[1] - b[1]
  })[0]
}

function srcset(files: File[], width: number): string {
  const ordered = [...files].sort((one, other) => one.width - other.width)
  const enough = ordered.find((file) => file.width >= width * DENSEST) ?? ordered.at(-1)
  return ordered
    .filter((file) => file.width <= (enough?.width ?? 0))
    .map((file) => `${file.address} ${file.width}w`)
    .join(", ")
}

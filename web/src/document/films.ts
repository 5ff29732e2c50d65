/**
 * How a film is shown before it plays: what the core's `media/playing.py` says, for the sheet. Its files and its words
 * come from the server as readers get them. `tests/outside/test_pictures_against_core.py` holds the two together.
 */
import type { ItemOut } from "../api/client"
import { NO_EDITS, type PictureAttrs, type Room, shown } from "./pictures"
import { FILMS } from "./rules"

export interface FilmAttrs {
  item: number
  caption: string | null
  width: number | null
  place: PictureAttrs["place"]
  space: string | null
  border: string | null
  cover: string | null
  transcript: "below" | "folded" | null
  loop: boolean
  autoplay: boolean
}

export const FIRST_STILL = FILMS.first_still

/** Of a film, what its size depends on, as pictures have it. */
export const sizeAttrs = ({ width, place }: Pick<FilmAttrs, "width" | "place">): PictureAttrs => ({
  ...NO_EDITS,
  width,
  place,
})

/** The number of the picture that is a film's cover; null where that is a still of its own. */
export function coverItem(cover: string | null): number | null {
  return cover?.startsWith("item-") ? Number(cover.slice(5)) : null
}

export interface FilmShown {
  width: number
  height: number
  poster: string
}

/** A film's size, and the picture before it plays. `pictured` is the picture of the library that its cover names. */
export function filmShown(
  item: ItemOut,
  attrs: Pick<FilmAttrs, "width" | "place" | "cover">,
  room: Room,
  pictured?: ItemOut,
): FilmShown {
  const { width, height } = shown(item, sizeAttrs(attrs), room)
  if (pictured?.files.length)
    return { width, height, poster: shown(pictured, sizeAttrs({ width, place: null }), room).src }
  const stills = (cut: string) =>
    item.files.filter((file) => file.cut === cut).sort((one, other) => one.width - other.width)
  const own = coverItem(attrs.cover) === null && attrs.cover ? stills(attrs.cover) : []
  const found = own.length ? own : stills(FIRST_STILL)
  return { width, height, poster: (found.find((file) => file.width >= width) ?? found.at(-1))?.address ?? "" }
}

/** Whether there is a file that browsers play. */
export const playable = (item: ItemOut) => item.files.some(({ cut }) => cut === item.kind)

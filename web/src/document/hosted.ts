/**
 * How a film at another host is shown before it is pressed: what the core's `media/playing.py` says, for the sheet.
 * `tests/outside/test_pictures_against_core.py` holds the two together.
 */
import type { ItemOut } from "../api/client"
import { type FilmAttrs, sizeAttrs } from "./films"
import { type Room, shown } from "./pictures"

export interface HostedAttrs
  extends Pick<FilmAttrs, "item" | "caption" | "width" | "place" | "space" | "border" | "cover"> {
  start: number | null
  captions: boolean
  muted: boolean
  loop: boolean
}

/** The item with the size of its film in place of that of its cover. */
export const asFilm = (item: ItemOut): ItemOut =>
  item.hosted ? { ...item, width: item.hosted.width, height: item.hosted.height } : item

export interface HostedShown {
  width: number
  height: number
  /** The address of its cover; empty where there is none. */
  cover: string
}

/** Its size, and its cover. `pictured` is the picture of the library that its cover names. */
export function hostedShown(
  item: ItemOut,
  attrs: Pick<HostedAttrs, "width" | "place">,
  room: Room,
  pictured?: ItemOut,
): HostedShown {
  const { width, height } = shown(asFilm(item), sizeAttrs(attrs), room)
  const picture = pictured?.files.length ? pictured : item
  const cover = picture.files.length ? shown(picture, sizeAttrs({ width, place: null }), room).src : ""
  return { width, height, cover }
}

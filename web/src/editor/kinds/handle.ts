/** The corner by which what is shown is made larger or smaller: it follows the pointer, and the text hears of it once. */
import { t } from "@lingui/core/macro"
import type { ItemOut } from "../../api/client"
import { type PictureAttrs, type Room, shown, widths } from "../../document/pictures"

const SMALLEST = 16

/** What is dragged: the item with the size that counts, how it stands, and the room there. */
export interface Dragged {
  item: ItemOut
  attrs: PictureAttrs
  room: Room
}

interface Hooks {
  /** What is dragged just now; null where nothing can be. */
  of(): Dragged | null
  /** How wide it stands there now, in CSS pixels. */
  begun(): number
  /** Shows it in another size. */
  show(width: number, height: number): void
  /** It was let go at this width. */
  done(width: number): void
  /** It was not to be: shows it as it was. */
  undone(): void
}

export function sizeHandle(page: Document, hooks: Hooks): HTMLElement {
  const handle = page.createElement("span")
  handle.className = "size-handle"
  handle.setAttribute("aria-hidden", "true")
  handle.title = t`Drag to change the size`
  handle.addEventListener("pointerdown", (event) => {
    const dragged = hooks.of()
    if (!dragged) return
    event.preventDefault()
    event.stopPropagation()
    const { item, attrs, room } = dragged
    const { most } = widths(item, attrs, room)
    const begun = hooks.begun()
    const towards = attrs.place === "end" ? -1 : attrs.place === "centre" || attrs.place === "wide" ? 2 : 1
    const widthAt = (moved: PointerEvent) =>
      Math.round(Math.max(SMALLEST, Math.min(most, begun + (moved.clientX - event.clientX) * towards)))
    const follow = (moved: PointerEvent) => {
      const { width, height } = shown(item, { ...attrs, width: widthAt(moved) }, room)
      hooks.show(width, height)
      handle.dataset.told = width === most ? t`${width} px, the most` : t`${width} px`
    }
    const ended = new AbortController()
    const { signal } = ended
    const stop = () => {
      ended.abort()
      delete handle.dataset.told
    }
    handle.setPointerCapture(event.pointerId)
    handle.addEventListener("pointermove", follow, { signal })
    handle.addEventListener(
      "pointerup",
      (last) => {
        stop()
        hooks.done(widthAt(last))
      },
      { signal },
    )
    handle.addEventListener(
      "pointercancel",
      () => {
        stop()
        hooks.undone()
      },
      { signal },
    )
  })
  return handle
}

/** Tells the sheet that something was made larger or smaller. */
export function tellSized(element: HTMLElement, position: number | undefined, width: number) {
  if (position === undefined) return
  element.dispatchEvent(new CustomEvent("item-sized", { bubbles: true, detail: { position, width } }))
}

/** Puts the handle at the corner of what is shown, where that has a caption below it. */
export function putAtCorner(handle: HTMLElement, shownAt: HTMLElement, atStart: boolean) {
  const side = shownAt.offsetLeft + (atStart ? 0 : shownAt.offsetWidth)
  handle.style.top = `${shownAt.offsetTop + shownAt.offsetHeight - 11}px`
  handle.style.left = `${side - 11}px`
  handle.style.right = handle.style.bottom = "auto"
}

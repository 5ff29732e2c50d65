/** The frame of a cut, and the point that must stay in it, moved by pointer and by keys. */
import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react"
import { type Box, UNIT } from "../document/pictures"

const STEP = 200
const LEAST = 400

const clamp = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value))

type Change = (box: Box, dx: number, dy: number) => Box

export const moved: Change = ([left, top, across, down], dx, dy) => [
  clamp(left + dx, 0, UNIT - across),
  clamp(top + dy, 0, UNIT - down),
  across,
  down,
]

/** Size from the corner where reading ends. */
export const sized: Change = ([left, top, across, down], dx, dy) => [
  left,
  top,
  clamp(across + dx, LEAST, UNIT - left),
  clamp(down + dy, LEAST, UNIT - top),
]

/** Size from the corner where reading begins; the other corner stays. */
export const fromStart: Change = ([left, top, across, down], dx, dy) => {
  const nextX = clamp(left + dx, 0, left + across - LEAST)
  const nextY = clamp(top + dy, 0, top + down - LEAST)
  return [nextX, nextY, across + left - nextX, down + top - nextY]
}

export type Edge = "left" | "top" | "right" | "bottom"

/** How much is cut off at an edge. */
export function cutAt([left, top, across, down]: Box, edge: Edge): number {
  return { left, top, right: UNIT - left - across, bottom: UNIT - top - down }[edge]
}

/** The frame with another edge; the three others stay where they are. */
export function withEdge(box: Box, edge: Edge, cut: number): Box {
  const at = (name: Edge) => (name === edge ? cut : cutAt(box, name))
  const most = (name: Edge, across: Edge) =>
    clamp(at(name), 0, name === edge ? UNIT - LEAST - at(across) : UNIT)
  const [left, right] = [most("left", "right"), most("right", "left")]
  const [top, bottom] = [most("top", "bottom"), most("bottom", "top")]
  return [left, top, UNIT - left - right, UNIT - top - bottom]
}

/** How far an arrow goes: with Ctrl a quarter as far. Null for any other key. */
function arrow(event: KeyboardEvent): [number, number] | null {
  const step = event.ctrlKey ? STEP / 4 : STEP
  const by: Record<string, [number, number]> = {
    ArrowLeft: [-step, 0],
    ArrowRight: [step, 0],
    ArrowUp: [0, -step],
    ArrowDown: [0, step],
  }
  const found = by[event.key]
  if (!found) return null
  event.preventDefault()
  event.stopPropagation()
  return found
}

interface Framed {
  crop: Box
  focus: readonly [number, number]
  disabled?: boolean
  /** `goesOn`: the same key is held down, and what comes belongs to one change. */
  onCrop(box: Box, goesOn?: boolean): void
  onFocus(x: number, y: number, goesOn?: boolean): void
}

/** `area` is the picture; `box` the frame as it is while it is dragged. */
export function useCutFrame({ crop, focus, disabled, onCrop, onFocus }: Framed) {
  const area = useRef<HTMLDivElement>(null)
  const [dragged, setDragged] = useState<Box | null>(null)
  const place = (event: PointerEvent) => {
    const bounds = area.current?.getBoundingClientRect()
    if (!bounds) return [0, 0] as const
    return [
      clamp((event.clientX - bounds.left) / bounds.width, 0, 1) * UNIT,
      clamp((event.clientY - bounds.top) / bounds.height, 0, 1) * UNIT,
    ] as const
  }
  const drag = (event: PointerEvent<HTMLElement>, change: Change) => {
    if (disabled) return
    event.preventDefault()
    event.stopPropagation()
    event.currentTarget.focus()
    const element = event.currentTarget
    const [fromX, fromY] = place(event)
    const begun = crop
    const ended = new AbortController()
    element.setPointerCapture(event.pointerId)
    const at = (pointer: unknown) => {
      const [toX, toY] = place(pointer as PointerEvent)
      return change(begun, toX - fromX, toY - fromY)
    }
    const { signal } = ended
    element.addEventListener("pointermove", (pointer) => setDragged(at(pointer)), { signal })
    element.addEventListener(
      "pointerup",
      (pointer) => {
        ended.abort()
        setDragged(null)
        const next = at(pointer)
        if (next.some((each, index) => Math.round(each) !== begun[index])) onCrop(next)
      },
      { signal },
    )
    element.addEventListener(
      "pointercancel",
      () => {
        ended.abort()
        setDragged(null)
      },
      { signal },
    )
  }
  const frameKey = (event: KeyboardEvent) => {
    const by = disabled ? null : arrow(event)
    if (by) onCrop((event.shiftKey ? sized : moved)(crop, ...by), event.repeat)
  }
  const toFocus = (x: number, y: number, goesOn = false) =>
    onFocus(clamp(x, 0, UNIT), clamp(y, 0, UNIT), goesOn)
  const focusKey = (event: KeyboardEvent) => {
    const by = disabled ? null : arrow(event)
    if (by) toFocus(focus[0] + by[0], focus[1] + by[1], event.repeat)
  }
  const focusAt = (event: PointerEvent<HTMLElement>) => {
    if (disabled) return
    event.preventDefault()
    event.currentTarget.focus()
    toFocus(...place(event))
  }
  return { area, box: dragged ?? crop, drag, frameKey, focusKey, focusAt }
}

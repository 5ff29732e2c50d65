/** How loud the film is, with the cues as bars on it: they are moved, made longer and shorter by dragging. */
import { Box, chakra, HStack } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { useQuery } from "@tanstack/react-query"
import { memo, type PointerEvent, useEffect, useMemo, useRef, useState } from "react"
import { answers } from "../../api/answers"
import type { Cue, ItemOut } from "../../api/client"
import { CAPTIONS } from "../../document/rules"
import { Act } from "../../look/Act"
import { clock } from "../../look/words"
import { written } from "./cues"

/** Milliseconds to which one level is given. */
const STEP = CAPTIONS.step
const QUIETEST = -60
const HIGH = 84
/** How much of the film is across, in seconds; null for all of it. */
const ACROSS = [10, 30, 120, null] as const
const EDGE = 8
/** Below this width, in pixels, a cue is no bar that could be dragged: it is painted, however many there are. */
const NARROW = 6
const INSET = 18

export interface OnCurve {
  onMoment(moment: number): void
  onAt(at: number): void
  /** A cue has new times. */
  onTimes(at: number, begin: number, end: number): void
}

interface Props extends OnCurve {
  item: ItemOut
  cues: readonly Cue[]
  at: number
  moment: number
}

/** The loudness of the film, in dB for each step; none where nothing is heard. */
function useLevels(item: ItemOut): number[] {
  const file = item.files.find(({ cut }) => cut === "levels")
  const answer = useQuery({
    queryKey: answers.levels(file?.address),
    queryFn: async () => (await (await fetch(file?.address ?? "")).json()) as number[],
    enabled: file !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
  })
  return answer.data ?? []
}

export const Curve = memo(function Curve(props: Props) {
  const { item, cues, at, moment, onMoment, onAt, onTimes } = props
  const box = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const painted = useRef<HTMLCanvasElement>(null)
  const [width, setWidth] = useState(0)
  const [across, setAcross] = useState<(typeof ACROSS)[number]>(30)
  const levels = useLevels(item)
  const whole = Math.max(1000, item.lasts)
  const span = Math.min(whole, across === null ? whole : across * 1000)
  // It turns like a page when the film has left it, so that it stands still while one reads it.
  const from = Math.max(0, Math.min(Math.floor(moment / (span * 0.9)) * span * 0.9, whole - span))
  const scale = width / span
  const x = (each: number) => (each - from) * scale

  useEffect(() => {
    const around = box.current
    if (!around) return
    const observer = new ResizeObserver(() => setWidth(around.clientWidth))
    observer.observe(around)
    return () => observer.disconnect()
  }, [])
  useEffect(() => {
    const drawing = begun(canvas.current, width)
    if (!drawing) return
    for (let pixel = 0; pixel < width; pixel++) {
      const first = Math.floor((from + pixel / scale) / STEP)
      const last = Math.max(first + 1, Math.floor((from + (pixel + 1) / scale) / STEP))
      let loudest = QUIETEST
      for (let index = first; index < last; index++) loudest = Math.max(loudest, levels[index] ?? QUIETEST)
      const high = ((loudest - QUIETEST) / -QUIETEST) * (HIGH - 12)
      drawing.fillRect(pixel, (HIGH - high) / 2, 1, Math.max(1, high))
    }
  }, [levels, width, from, scale])

  const heard = useMemo((): Heard => ({ onAt, onTimes }), [onAt, onTimes])
  const [bars, slim] = useMemo(() => {
    const shown = cues
      .map((cue, index) => ({ cue, index }))
      .filter(({ cue }) => cue.end >= from && cue.begin <= from + span)
    const isBar = ({ cue, index }: (typeof shown)[number]) =>
      index === at || (cue.end - cue.begin) * scale >= NARROW
    return [shown.filter(isBar), shown.filter((each) => !isBar(each))]
  }, [cues, at, from, span, scale])
  useEffect(() => {
    const drawing = begun(painted.current, width)
    if (!drawing) return
    drawing.globalAlpha = 0.6
    for (const { cue } of slim) {
      const left = Math.round((cue.begin - from) * scale)
      // A gap is kept between two, so that they can be told apart as long as there is a pixel for it.
      const right = Math.max(left + 1, Math.round((cue.end - from) * scale) - 1)
      drawing.fillRect(left, INSET, right - left, HIGH - 2 * INSET)
    }
  }, [slim, width, from, scale])
  return (
    <Box borderTopWidth="1px" borderColor="line" px="4" py="2" bg="ground">
      <HStack
        gap="1"
        pb="1"
        fontSize="sm"
        flexWrap="wrap"
        role="group"
        aria-label={t`How much of the film is seen`}
      >
        {ACROSS.map((each) => (
          <Act key={each} pressed={across === each} onPress={() => setAcross(each)}>
            {each === null ? t`all of it` : each < 60 ? t`${each} s` : t`${each / 60} min`}
          </Act>
        ))}
        <chakra.span ms="auto" color="quiet">
          {t`${written(moment)} of ${clock(item.lasts)}`}
        </chakra.span>
      </HStack>
      <Box
        ref={box}
        position="relative"
        h={`${HIGH}px`}
        bg="paper"
        borderWidth="1px"
        borderColor="line"
        overflow="hidden"
        cursor="text"
        // What can be done here by pointer alone is done in the lines by keys; who does not see it needs no picture.
        aria-hidden="true"
        data-part="curve"
        onPointerDown={(event) => {
          if (event.target !== event.currentTarget && event.target !== canvas.current) return
          onMoment(from + (event.clientX - event.currentTarget.getBoundingClientRect().left) / scale)
        }}
      >
        <chakra.canvas ref={canvas} position="absolute" inset="0" w="full" h="full" color="edge" />
        <chakra.canvas
          ref={painted}
          position="absolute"
          inset="0"
          w="full"
          h="full"
          color="press.solid"
          pointerEvents="none"
        />
        {bars.map(({ cue, index }) => (
          <Bar
            key={index}
            cue={cue}
            chosen={index === at}
            left={x(cue.begin)}
            width={Math.max(3, (cue.end - cue.begin) * scale)}
            scale={scale}
            index={index}
            heard={heard}
          />
        ))}
        <Box
          position="absolute"
          insetY="0"
          w="2px"
          bg="wrong"
          pointerEvents="none"
          style={{ left: `${x(moment)}px` }}
        />
      </Box>
    </Box>
  )
})

/** A canvas of the curve, empty, to be filled with its own colour; null while it has no size. */
function begun(canvas: HTMLCanvasElement | null, width: number): CanvasRenderingContext2D | null {
  const drawing = canvas?.getContext("2d")
  if (!canvas || !drawing || !width) return null
  const density = window.devicePixelRatio || 1
  canvas.width = width * density
  canvas.height = HIGH * density
  drawing.scale(density, density)
  drawing.fillStyle = getComputedStyle(canvas).color
  return drawing
}

/** What a bar tells; the same for as long as the curve is there. */
type Heard = Pick<Props, "onAt" | "onTimes">

interface BarProps {
  index: number
  heard: Heard
  cue: Cue
  chosen: boolean
  left: number
  width: number
  scale: number
}

/** A cue on the curve. Its times are told once, when it is let go. */
const Bar = memo(function Bar({ index, cue, chosen, left, width, scale, heard }: BarProps) {
  const [moved, setMoved] = useState<{ begin: number; end: number } | null>(null)
  const press = (event: PointerEvent<HTMLDivElement>) => {
    event.preventDefault()
    heard.onAt(index)
    const bar: HTMLElement = event.currentTarget
    const within = event.clientX - bar.getBoundingClientRect().left
    const edge = width < 3 * EDGE ? "" : within < EDGE ? "begin" : within > width - EDGE ? "end" : ""
    const start = event.clientX
    const ended = new AbortController()
    const { signal } = ended
    let times: { begin: number; end: number } | null = null
    bar.setPointerCapture(event.pointerId)
    bar.addEventListener(
      "pointermove",
      (now) => {
        const by = Math.round((now.clientX - start) / scale)
        if (!times && Math.abs(now.clientX - start) < 3) return
        const begin = edge === "end" ? cue.begin : Math.max(0, cue.begin + by)
        const end = edge === "begin" ? cue.end : edge === "end" ? cue.end + by : begin + cue.end - cue.begin
        times = {
          begin: edge === "begin" ? Math.min(begin, cue.end - 100) : begin,
          end: Math.max(end, begin + 100),
        }
        setMoved(times)
      },
      { signal },
    )
    const stop = () => {
      ended.abort()
      setMoved(null)
    }
    bar.addEventListener(
      "pointerup",
      () => {
        stop()
        if (times) heard.onTimes(index, times.begin, times.end)
      },
      { signal },
    )
    bar.addEventListener("pointercancel", stop, { signal })
  }
  const begin = moved ? left + (moved.begin - cue.begin) * scale : left
  const wide = moved ? (moved.end - moved.begin) * scale : width
  return (
    <Box
      data-part="bar"
      position="absolute"
      top={`${INSET}px`}
      bottom={`${INSET}px`}
      borderWidth="2px"
      borderColor={chosen ? "press.solid" : "edge"}
      bg={chosen ? "lit" : "ground"}
      opacity="0.86"
      fontSize="xs"
      lineHeight="1.25"
      px="1"
      overflow="hidden"
      cursor="grab"
      userSelect="none"
      title={`${written(moved?.begin ?? cue.begin)} – ${written(moved?.end ?? cue.end)}`}
      style={{ left: `${begin}px`, width: `${wide}px`, touchAction: "none" }}
      onPointerDown={press}
    >
      {wide > 3 * EDGE && (
        <>
          {cue.text}
          <Box position="absolute" insetY="0" left="0" w={`${EDGE}px`} cursor="ew-resize" />
          <Box position="absolute" insetY="0" right="0" w={`${EDGE}px`} cursor="ew-resize" />
        </>
      )}
    </Box>
  )
})

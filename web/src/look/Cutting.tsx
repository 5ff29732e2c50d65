/**
 * What is cut from a picture, turned and straightened, shown on the picture itself. The original is never changed.
 *
 * The frame is moved and sized with the pointer or with keys: arrows move it, with Shift they size it. In the other
 * way of framing, a ratio and a focal point, the point is what is moved.
 */

import { Box, Button, chakra, HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import type { ReactNode } from "react"
import type { ItemOut } from "../api/client"
import {
  type Box as Area,
  cutOf,
  type Edits,
  keyOf,
  NO_EDITS,
  STEEPEST,
  sizeAfter,
  UNIT,
  upright,
  WHOLE,
} from "../document/pictures"
import { previewOf } from "../editor/kinds/picture"
import { Act } from "./Act"
import { cutAt, type Edge, fromStart, moved, sized, useCutFrame, withEdge } from "./useCutFrame"

interface Props {
  item: ItemOut
  /** What is set here; null leaves it to `own`. */
  edits: Edits
  own: Edits
  disabled?: boolean
  onEdits(edits: Partial<Edits>, goesOn?: boolean): void
  children?: ReactNode
}

const RATIOS = [
  [t`as it is`, null],
  ["square", "1:1"],
  ["4:3", "4:3"],
  ["3:2", "3:2"],
  ["16:9", "16:9"],
  ["3:4 upright", "3:4"],
] as const
const EDGES: [string, Edge][] = [
  [t`Left`, "left"],
  [t`Top`, "top"],
  [t`Right`, "right"],
  [t`Bottom`, "bottom"],
]
type CutFrame = ReturnType<typeof useCutFrame>

const percent = (value: number) => `${value / (UNIT / 100)}%`

export function Cutting({ item, edits, own, disabled, onEdits, children }: Props) {
  const inherited = edits.crop === null && edits.ratio === null ? own : edits
  const turn = edits.turn ?? own.turn ?? 0
  const straighten = edits.straighten ?? own.straighten ?? 0
  const cut = cutOf(edits, own, item.width, item.height)
  const whole = { turn, straighten, crop: WHOLE }
  const [wide, high] = upright(whole, item.width, item.height)
  const byRatio = inherited.crop === null && inherited.ratio !== null
  const focus = (edits.focus ?? own.focus ?? `${UNIT / 2},${UNIT / 2}`).split(",").map(Number)
  const [x, y] = [focus[0] ?? UNIT / 2, focus[1] ?? UNIT / 2]

  const keep = (next: Area, goesOn = false) => {
    const [left, top, across, down] = next.map(Math.round)
    const all = left === 0 && top === 0 && across === UNIT && down === UNIT
    onEdits(
      { crop: all && own.crop === null ? null : `${left},${top},${across},${down}`, ratio: null },
      goesOn,
    )
  }
  const setFocus = (nextX: number, nextY: number, goesOn = false) =>
    onEdits({ focus: `${Math.round(nextX)},${Math.round(nextY)}` }, goesOn)
  const frame = useCutFrame({ crop: cut.crop, focus: [x, y], disabled, onCrop: keep, onFocus: setFocus })
  const { box } = frame
  const [width, height] = sizeAfter({ ...cut, crop: box }, item.width, item.height)
  const changed = Object.values(edits).some((each) => each !== null)

  return (
    <Stack gap="2" role="group" aria-label={t`Crop, turn and straighten`}>
      <Box
        ref={frame.area}
        position="relative"
        userSelect="none"
        maxW="100%"
        alignSelf="flex-start"
        lineHeight="0"
      >
        <chakra.img
          src={previewOf(item.id, keyOf(whole), 640)}
          alt=""
          draggable={false}
          maxW="100%"
          maxH="18rem"
          width={Math.round(wide)}
          css={{ aspectRatio: `${wide} / ${high}`, height: "auto", objectFit: "contain" }}
        />
        <Frame box={box} />
        {byRatio ? (
          <FocalPoint x={x} y={y} frame={frame} disabled={disabled} />
        ) : (
          <Handles width={width} height={height} frame={frame} disabled={disabled} />
        )}
      </Box>
      <Text fontSize="xs" color="quiet">
        <Trans>
          {width} × {height} pixels of {item.width} × {item.height}.{" "}
          {byRatio
            ? t`Press on what must stay in the picture, or move the ring with the arrows.`
            : t`Drag the frame or its corners, or use the arrows; Shift and arrows change its size.`}
        </Trans>
      </Text>
      {byRatio ? (
        <Numbers
          label={t`The focal point, in percent`}
          disabled={disabled}
          fields={[
            [t`From the left`, x, (value) => setFocus(value, y, true)],
            [t`From the top`, y, (value) => setFocus(x, value, true)],
          ]}
        />
      ) : (
        <Numbers
          label={t`Cut off at each edge, in percent`}
          disabled={disabled}
          fields={EDGES.map(([name, edge]) => [
            name,
            cutAt(box, edge),
            (value: number) => keep(withEdge(cut.crop, edge, value), true),
          ])}
        />
      )}
      <Proportions {...{ inherited, own, byRatio, disabled, onEdits }} crop={cut.crop} onCrop={keep} />
      <HStack gap="1" flexWrap="wrap" role="group" aria-label={t`Turn`}>
        <Act disabled={disabled} onPress={() => onEdits({ turn: (turn + 3) % 4, ...aside(inherited) })}>
          <Trans>Turn left</Trans>
        </Act>
        <Act disabled={disabled} onPress={() => onEdits({ turn: (turn + 1) % 4, ...aside(inherited) })}>
          <Trans>Turn right</Trans>
        </Act>
      </HStack>
      <chakra.label fontSize="sm">
        <Trans>
          Straighten by {(straighten / 10).toFixed(1)}°
          <chakra.input
            type="range"
            min={-STEEPEST}
            max={STEEPEST}
            step={5}
            value={straighten}
            disabled={disabled}
            display="block"
            w="full"
            onChange={(event) => onEdits({ straighten: Number(event.target.value) }, true)}
          />
        </Trans>
      </chakra.label>
      {changed && !disabled && (
        <Button size="xs" variant="outline" alignSelf="flex-start" onClick={() => onEdits(NO_EDITS)}>
          <Trans>Reset</Trans>
        </Button>
      )}
      {children}
    </Stack>
  )
}

interface NumbersProps {
  label: string
  disabled?: boolean
  /** What each says, its value and how to set it, in ten-thousandths. */
  fields: [string, number, (value: number) => void][]
}

/** Numbers in place of dragging, each with the browser's own steps up and down. */
function Numbers({ label, disabled, fields }: NumbersProps) {
  return (
    <chakra.fieldset fontSize="sm" disabled={disabled}>
      <chakra.legend fontWeight="600">{label}</chakra.legend>
      <HStack gap="2" flexWrap="wrap">
        {fields.map(([name, value, set]) => (
          <chakra.label key={name} fontSize="xs">
            {name}
            <chakra.input
              type="number"
              min={0}
              max={100}
              display="block"
              w="4.5rem"
              h="7"
              px="1"
              bg="paper"
              borderWidth="1px"
              borderColor="edge"
              value={Math.round(value / (UNIT / 100))}
              onChange={(event) => set((Number(event.target.value) * UNIT) / 100)}
            />
          </chakra.label>
        ))}
      </HStack>
    </chakra.fieldset>
  )
}

/** A frame of a rectangle does not fit a picture on its side: turning begins anew with the whole. */
const aside = ({ crop }: Edits): Partial<Edits> => (crop === null ? {} : { crop: WHOLE.join(",") })

/** What falls away is veiled; a line with a light and a dark part shows on any picture. */
function Frame({ box: [x, y, width, height] }: { box: Area }) {
  const path = t`M0 0H${UNIT}V${UNIT}H0zM${x} ${y}V${y + height}H${x + width}V${y}z`
  return (
    <chakra.svg
      viewBox={`0 0 ${UNIT} ${UNIT}`}
      preserveAspectRatio="none"
      aria-hidden
      position="absolute"
      inset="0"
      w="100%"
      h="100%"
      pointerEvents="none"
    >
      <path d={path} fill="#1d2733" fillOpacity="0.62" />
      <rect
        x={x}
        y={y}
        width={width}
        height={height}
        fill="none"
        stroke="#fff"
        strokeWidth="4"
        vectorEffect="non-scaling-stroke"
      />
      <rect
        x={x}
        y={y}
        width={width}
        height={height}
        fill="none"
        stroke="#6a3d7c"
        strokeWidth="2"
        vectorEffect="non-scaling-stroke"
      />
    </chakra.svg>
  )
}

interface HandlesProps {
  frame: CutFrame
  disabled?: boolean
}

function Handles({ width, height, frame, disabled }: HandlesProps & { width: number; height: number }) {
  const { box } = frame
  return (
    <Box
      role="slider"
      aria-roledescription={t`two-way slider`}
      tabIndex={disabled ? -1 : 0}
      aria-label={t`The frame. Arrows move it, Shift and arrows change its size.`}
      aria-disabled={disabled}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(box[0] / (UNIT / 100))}
      aria-valuetext={t`${width} by ${height} pixels, ${Math.round(box[0] / (UNIT / 100))} percent from the left, ${Math.round(box[1] / (UNIT / 100))} percent from the top`}
      position="absolute"
      left={percent(box[0])}
      top={percent(box[1])}
      width={percent(box[2])}
      height={percent(box[3])}
      cursor="move"
      touchAction="none"
      onPointerDown={(event) => frame.drag(event, moved)}
      onKeyDown={frame.frameKey}
    >
      <Box
        position="absolute"
        right="-6px"
        bottom="-6px"
        boxSize="18px"
        bg="press.solid"
        border="3px solid"
        borderColor="paper"
        cursor="nwse-resize"
        onPointerDown={(event) => frame.drag(event, sized)}
      />
      <Box
        position="absolute"
        left="-6px"
        top="-6px"
        boxSize="18px"
        bg="press.solid"
        border="3px solid"
        borderColor="paper"
        cursor="nwse-resize"
        onPointerDown={(event) => frame.drag(event, fromStart)}
      />
    </Box>
  )
}

function FocalPoint({ x, y, frame, disabled }: HandlesProps & { x: number; y: number }) {
  return (
    <Box
      role="slider"
      aria-roledescription={t`two-way slider`}
      tabIndex={disabled ? -1 : 0}
      aria-label={t`The focal point. Arrows move it.`}
      aria-disabled={disabled}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(x / (UNIT / 100))}
      aria-valuetext={t`${Math.round(x / (UNIT / 100))} percent across, ${Math.round(y / (UNIT / 100))} percent down`}
      position="absolute"
      left="0"
      top="0"
      width="100%"
      height="100%"
      cursor="crosshair"
      touchAction="none"
      onPointerDown={frame.focusAt}
      onKeyDown={frame.focusKey}
    >
      <Box
        position="absolute"
        left={percent(x)}
        top={percent(y)}
        boxSize="22px"
        ml="-11px"
        mt="-11px"
        border="3px solid #fff"
        outline="2px solid #1d2733"
        borderRadius="50%"
      />
    </Box>
  )
}

interface ProportionsProps {
  inherited: Edits
  own: Edits
  byRatio: boolean
  crop: Area
  disabled?: boolean
  onEdits: Props["onEdits"]
  onCrop(box: Area): void
}

function Proportions({ inherited, own, byRatio, crop, disabled, onEdits, onCrop }: ProportionsProps) {
  return (
    <HStack gap="1" flexWrap="wrap" role="group" aria-label={t`Proportions`}>
      {RATIOS.map(([name, ratio]) => (
        <Act
          key={name}
          disabled={disabled}
          pressed={
            ratio === null
              ? inherited.ratio === null && inherited.crop === null
              : byRatio && inherited.ratio === ratio
          }
          onPress={() =>
            onEdits(
              ratio === null
                ? {
                    ratio: null,
                    crop: own.crop !== null || own.ratio !== null ? WHOLE.join(",") : null,
                    focus: null,
                  }
                : { ratio, crop: null },
            )
          }
        >
          {name}
        </Act>
      ))}
      <Act
        disabled={disabled}
        pressed={inherited.crop !== null}
        onPress={() =>
          onCrop(crop.every((each, index) => each === WHOLE[index]) ? [500, 500, 9000, 9000] : crop)
        }
      >
        <Trans>free</Trans>
      </Act>
    </HStack>
  )
}

/** The measures of the interface: the steps of space, of type and of width that its parts are set in.

The library's own theme has hundreds more, each a custom property to be reckoned before the first screen is drawn. */
import { defineTokens } from "@chakra-ui/react"

const STEPS = [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4, 4.5, 5, 6, 7, 8, 9, 10, 11, 12, 14, 16, 20, 24]

/** A quarter of the letter's size a step. */
const spacing = Object.fromEntries(STEPS.map((step) => [step, { value: `${step / 4}rem` }]))

/** Size of type and its line height, in rem. */
const TYPE = {
  xs: [0.75, 1],
  sm: [0.875, 1.25],
  md: [1, 1.5],
  lg: [1.125, 1.75],
  xl: [1.25, 1.875],
  "2xl": [1.5, 2],
  "3xl": [1.875, 2.375],
  "4xl": [2.25, 2.75],
} as const

const sizesOfType = Object.entries(TYPE)

export const tokens = defineTokens({
  fonts: {
    body: { value: '"Atkinson Hyperlegible Next Variable", system-ui, sans-serif' },
    heading: { value: '"Literata Variable", Georgia, serif' },
    mono: { value: 'ui-monospace, "DejaVu Sans Mono", monospace' },
  },
  fontSizes: Object.fromEntries(sizesOfType.map(([name, [size]]) => [name, { value: `${size}rem` }])),
  fontWeights: { medium: { value: "500" }, semibold: { value: "600" } },
  radii: { l1: { value: "2px" }, l2: { value: "2px" } },
  durations: { moderate: { value: "200ms" } },
  cursor: { button: { value: "pointer" } },
  spacing,
  sizes: { ...spacing, full: { value: "100%" } },
})

/** Large type stands closer. */
const spacingOfType = (size: number) => (size > 2 ? { letterSpacing: "-0.025em" } : {})

export const textStyles = Object.fromEntries(
  sizesOfType.map(([name, [size, line]]) => [
    name,
    { value: { fontSize: name, lineHeight: `${line}rem`, ...spacingOfType(size) } },
  ]),
)

export const layerStyles = { disabled: { value: { opacity: "0.5", cursor: "not-allowed" } } }

export const breakpoints = { sm: "480px", md: "768px", lg: "1024px" }

/** The look of the authoring side: one Chakra system, one place for every colour and face. */
import { createSystem, defaultBaseConfig, defineConfig } from "@chakra-ui/react"
import {
  buttonRecipe,
  fieldSlotRecipe,
  headingRecipe,
  inputRecipe,
  textareaRecipe,
} from "@chakra-ui/react/theme"
import { breakpoints, layerStyles, textStyles, tokens } from "./scale"

const pair = (light: string, dark: string) => ({ value: { base: light, _dark: dark } })

/** What holds, is chosen or is current. */
const HELD = '[aria-pressed="true"], [aria-current="true"], [aria-selected="true"]'
const SYSTEM = { background: "Highlight !important", color: "HighlightText !important" }

const config = defineConfig({
  preflight: true,
  globalCss: {
    html: {
      colorPalette: "press",
      "--global-color-border": "colors.line",
      "--global-font-mono": "fonts.mono",
    },
    "*::placeholder": { color: "quiet" },
    "*::selection": { bg: "press.emphasized" },
    body: {
      bg: "ground",
      color: "ink",
      fontFamily: "body",
      fontSize: "md",
      lineHeight: "1.5",
      overflowWrap: "break-word",
    },
    button: { maxW: "full" },
    input: { accentColor: "press.solid" },
    // As the browser draws it, nothing done yet looks like all of it.
    progress: {
      appearance: "none",
      bg: "line",
      color: "press.solid",
      "&::-webkit-progress-bar": { bg: "line" },
      "&::-webkit-progress-value": { bg: "press.solid" },
      "&::-moz-progress-bar": { bg: "press.solid" },
      _highContrast: { appearance: "auto" },
    },
    "*": { _motionReduce: { transition: "none !important", animation: "none !important" } },
    "*:focus-visible": { outline: "3px solid", outlineColor: "press.solid", outlineOffset: "1px" },
    // Where the system sets the colours, grounds are lost: what holds, is chosen or current keeps the system's own.
    [HELD]: { _highContrast: { forcedColorAdjust: "none", ...SYSTEM } },
    [`:is(${HELD}) *`]: { _highContrast: { color: "HighlightText !important" } },
    ":disabled": { _highContrast: { color: "GrayText", opacity: "1" } },
  },
  theme: {
    recipes: { button: buttonRecipe, heading: headingRecipe, input: inputRecipe, textarea: textareaRecipe },
    slotRecipes: { field: fieldSlotRecipe },
    breakpoints,
    textStyles,
    layerStyles,
    tokens,
    semanticTokens: {
      colors: {
        ground: pair("#F6F7F5", "#15191E"),
        paper: pair("#FFFFFF", "#1C2229"),
        ink: pair("#1D2733", "#E7EAED"),
        // The names that the library's own parts ask for.
        border: { DEFAULT: { value: "{colors.edge}" }, error: { value: "{colors.wrong}" } },
        fg: { muted: { value: "{colors.quiet}" }, error: { value: "{colors.wrong}" } },
        white: { value: "#FFFFFF" },
        quiet: pair("#55606C", "#A9B2BC"),
        line: pair("#D3D8DA", "#38424D"),
        edge: pair("#7C8894", "#7F8B97"),
        live: pair("#2E6B4A", "#7FC8A4"),
        waits: pair("#9A4A12", "#E8A674"),
        wrong: pair("#A3262E", "#F29299"),
        lit: pair("#EFE6F3", "#3A2B44"),
        press: {
          border: { value: "{colors.edge}" },
          solid: pair("#6A3D7C", "#C9A0DA"),
          contrast: pair("#FFFFFF", "#1C2229"),
          fg: pair("#6A3D7C", "#D3AFE2"),
          muted: pair("#EFE6F3", "#3A2B44"),
          subtle: pair("#F6F0F8", "#2B2333"),
          emphasized: pair("#D9C6E2", "#553E63"),
          focusRing: pair("#6A3D7C", "#C9A0DA"),
        },
      },
    },
  },
})

export const system = createSystem(defaultBaseConfig, config)

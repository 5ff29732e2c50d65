import { chakra, HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import type { EditorState } from "prosemirror-state"
import { memo, useEffect } from "react"
import type { PageOut } from "../../../api/client"
import { markKinds } from "../../../editor/commands"
import {
  ALIGNS,
  groundAt,
  markValue,
  setAlign,
  setMark,
  setStyle,
  settingAt,
  VALUED,
} from "../../../editor/setting"
import type { Sheet } from "../../../editor/sheet"
import { Act } from "../../../look/Act"
import { Choice } from "../../../look/Choice"
import { useOfSheet } from "../useSheetState"
import { nameOfLanguage, useLanguages } from "./languages"
import { OneOf, Section, useThemeStyle, Words } from "./parts"

interface Props {
  sheet: Sheet
  palette: PageOut["palette"]
  editable: boolean
}

/** “small-print” is shown as “Small print”. */
const shown = (name: string) => name.charAt(0).toUpperCase() + name.slice(1).replaceAll("-", " ")

/** How the paragraph at the caret is set. */
export const ParagraphSetting = memo(function ParagraphSetting({ sheet, palette, editable }: Props) {
  useThemeFaces(sheet)
  const { any, align, style } = useOfSheet(sheet, settingAt)
  if (!any || !editable) return null
  const unknown = style && !palette.styles.includes(style) ? [style] : []
  return (
    <Section title={t`This paragraph`}>
      <OneOf
        label={t`Align`}
        ways={ALIGNS}
        value={align}
        onValue={(value) => setAlign(value)(sheet.state, (tr) => sheet.step(tr))}
      />
      {style !== undefined && (
        <Stack gap="1" role="group" aria-label={t`Text style`}>
          <Text fontSize="sm" fontWeight="600">
            <Trans>Text style</Trans>
          </Text>
          {[null, ...palette.styles, ...unknown].map((each) => (
            <StyleLine key={each ?? ""} sheet={sheet} name={each} pressed={style === each} />
          ))}
        </Stack>
      )}
    </Section>
  )
})

/** A text style, shown as it will look. */
function StyleLine({ sheet, name, pressed }: { sheet: Sheet; name: string | null; pressed: boolean }) {
  const style = useThemeStyle(sheet, "data-style", name)
  return (
    <chakra.button
      type="button"
      aria-pressed={pressed}
      textAlign="left"
      px="3"
      py="1"
      bg="white"
      borderWidth="1px"
      borderLeftWidth={pressed ? "5px" : "1px"}
      borderColor={pressed ? "press.solid" : "line"}
      cursor="pointer"
      style={style}
      onMouseDown={(event) => event.preventDefault()}
      onClick={() => setStyle(name)(sheet.state, (tr) => sheet.step(tr))}
    >
      {name ? shown(name) : t`Plain`}
    </chakra.button>
  )
}

function wordsAt(state: EditorState) {
  const { empty, $from } = state.selection
  return {
    tone: markValue(state, markKinds.tone)?.name as string | undefined,
    language: markValue(state, markKinds.language)?.code as string | undefined,
    expansion: markValue(state, markKinds.abbreviation)?.expansion as string | undefined,
    selected: !empty && $from.parent.isTextblock,
    allowed: $from.parent.type.spec.marks !== "",
    ground: groundAt(state),
  }
}

/** What is said of the selected words: what they stand for, their language, their tone. */
export const WordSetting = memo(function WordSetting({ sheet, palette, editable }: Props) {
  const languages = useLanguages()
  const { tone, language, expansion, selected, allowed, ground } = useOfSheet(sheet, wordsAt)
  if (!editable || !allowed || !(selected || tone || language || expansion)) return null

  const say = (name: keyof typeof VALUED, attrs: Record<string, string> | null, goesOn = false) => {
    const tr = setMark(sheet.state, VALUED[name], attrs)
    sheet.step(tr, goesOn)
  }
  const offered = palette.tones.filter((each) => each.ratios[ground] !== undefined)
  const options: [string, string][] = [["", t`That of the page`], ...languages]
  if (language && !languages.some(([code]) => code === language))
    options.push([language, nameOfLanguage(language)])
  return (
    <Section title={t`These words`}>
      <Words
        label={t`Short for`}
        value={expansion ?? ""}
        maxLength={200}
        placeholder={t`Varrow Canal Trust`}
        help={t`For an abbreviation: what it stands for.`}
        onWords={(words, goesOn) => say("abbreviation", words ? { expansion: words } : null, goesOn)}
      />
      <Choice
        label={t`Language`}
        value={language ?? ""}
        options={options}
        onChoice={(code) => say("language", code ? { code } : null)}
      />
      <Stack gap="1" role="group" aria-label={t`Tone, with its contrast`}>
        <Text fontSize="sm" fontWeight="600">
          <Trans>Tone</Trans>
        </Text>
        <HStack gap="1" flexWrap="wrap">
          <Act pressed={!tone} onPress={() => say("tone", null)}>
            <Trans>None</Trans>
          </Act>
          {offered.map((each) => (
            <chakra.button
              key={each.name}
              type="button"
              aria-pressed={tone === each.name}
              px="2"
              py="1"
              bg="white"
              borderWidth="1px"
              borderBottomWidth={tone === each.name ? "4px" : "1px"}
              borderColor={tone === each.name ? "press.solid" : "line"}
              cursor="pointer"
              fontSize="xs"
              style={{ color: each.colour }}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => say("tone", { name: each.name })}
            >
              {shown(each.name)} {each.ratios[ground]?.toFixed(1)}:1
            </chakra.button>
          ))}
        </HStack>
        {offered.length < palette.tones.length && (
          <Text fontSize="xs" color="quiet">
            <Trans>
              {palette.tones
                .filter((each) => !offered.includes(each))
                .map((each) => shown(each.name))
                .join(", ")}{" "}
              would fall below 4.5:1 on this ground.
            </Trans>
          </Text>
        )}
      </Stack>
    </Section>
  )
})

/** Loads the theme's fonts into this window too, so that its styles can be shown as they look. */
function useThemeFaces(sheet: Sheet) {
  useEffect(() => {
    for (const styles of sheet.view.dom.ownerDocument.styleSheets)
      for (const rule of styles.cssRules) {
        if (rule.constructor.name !== "CSSFontFaceRule") continue
        const { style } = rule as CSSFontFaceRule
        const family = style.getPropertyValue("font-family").replaceAll('"', "")
        const file = /url\("?(.+?)"?\)/.exec(style.getPropertyValue("src"))?.[1]
        const weight = style.getPropertyValue("font-weight")
        const slope = style.getPropertyValue("font-style") || "normal"
        const there = [...document.fonts].some((each) => each.family === family && each.style === slope)
        if (there || !file || !styles.href) continue
        document.fonts.add(
          new FontFace(family, `url("${new URL(file, styles.href)}")`, { weight, style: slope }),
        )
      }
  }, [sheet])
}

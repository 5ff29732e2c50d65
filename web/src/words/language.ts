/**
 * The language of the interface. Its words are marked where they stand in the code (`t`, `plural`, `Trans`) and are
 * gathered beside this file, a catalogue (gettext PO) for each language; `docs/words.md` says how one is added.
 */

import { i18n, type Messages } from "@lingui/core"

const CATALOGUES = import.meta.glob<{ messages: Messages }>("./*.po")

/** What numbers, days and times of day are set like, where the language alone does not tell. */
const SET_LIKE: Record<string, string> = { en: "en-GB" }

const OTHERWISE = "en"

export const languages = Object.keys(CATALOGUES).map((path) => path.slice("./".length, -".po".length))

/** Speak `wanted`, or English where there is no catalogue of it. */
export async function speak(wanted: string): Promise<void> {
  const language = languages.includes(wanted) ? wanted : OTHERWISE
  const catalogue = await CATALOGUES[`./${language}.po`]?.()
  document.documentElement.lang = language
  i18n.loadAndActivate({ locale: language, locales: SET_LIKE[language], messages: catalogue?.messages ?? {} })
}

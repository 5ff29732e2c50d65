/** Languages by name, as the browser calls them. */
import { t } from "@lingui/core/macro"
import { useMemo } from "react"

/** Tags as in BCP 47. Any other that a page holds already is kept and shown. */
const CODES =
  "ar bg bn ca cs cy da de el en es et eu fa fi fr ga gd gl gu he hi hr hu hy id is it ja ka ko la lt lv mk ms mt nb nl nn pa pl pt ro ru sco sk sl sq sr sv sw ta te th tr uk ur vi zh-Hans zh-Hant".split(
    " ",
  )

/** Names (Unicode CLDR) of languages that browsers leave out to be smaller. */
const LEFT_OUT: Record<string, string> = {
  gsw: t`Swiss German`,
  gv: t`Manx`,
  kw: t`Cornish`,
  nds: t`Low German`,
  sco: t`Scots`,
}

const names = new Intl.DisplayNames(["en"], { type: "language" })

export function nameOfLanguage(code: string): string {
  try {
    const name = names.of(code) ?? code
    return name === code ? (LEFT_OUT[code] ?? code) : name
  } catch {
    return code
  }
}

export function useLanguages(): [string, string][] {
  return useMemo(
    () =>
      CODES.map((code): [string, string] => [code, nameOfLanguage(code)]).sort((one, other) =>
        one[1].localeCompare(other[1]),
      ),
    [],
  )
}

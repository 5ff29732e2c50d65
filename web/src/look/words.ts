/** Numbers and dates in words, the same on every screen, as the language that is spoken has them. */

import { i18n } from "@lingui/core"
import { t } from "@lingui/core/macro"

const spoken = () => i18n.locales ?? i18n.locale

export const number = (count: number) => count.toLocaleString(spoken())

export const kilobytes = (bytes: number) =>
  bytes < 1024 * 1024 ? t`${Math.ceil(bytes / 1024)} kB` : t`${(bytes / 1024 / 1024).toFixed(1)} MB`

export const day = (moment: string) => new Date(moment).toLocaleDateString(spoken(), { dateStyle: "medium" })

/** Day and time of day, told as shortly as `parts` asks. */
export const moment = (
  at: string,
  parts: Intl.DateTimeFormatOptions = { dateStyle: "medium", timeStyle: "short" },
) => new Date(at).toLocaleString(spoken(), parts)

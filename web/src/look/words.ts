/** Numbers and dates in words, the same on every screen, as the language that is spoken has them. */

import { i18n } from "@lingui/core"
import { t } from "@lingui/core/macro"

const spoken = () => i18n.locales ?? i18n.locale

export const number = (count: number) => count.toLocaleString(spoken())

export const kilobytes = (bytes: number) =>
  bytes < 1024 * 1024 ? t`${Math.ceil(bytes / 1024)} kB` : t`${(bytes / 1024 / 1024).toFixed(1)} MB`

/** How long a film or a sound lasts: “1:05”, “1:02:05”. */
export function clock(milliseconds: number): string {
  const seconds = Math.round(milliseconds / 1000)
  const parts = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60]
  const shown = parts[0] ? parts : parts.slice(1)
  return shown.map((part, index) => (index ? String(part).padStart(2, "0") : part)).join(":")
}

export const day = (moment: string) => new Date(moment).toLocaleDateString(spoken(), { dateStyle: "medium" })

/** Day and time of day, told as shortly as `parts` asks. */
export const moment = (
  at: string,
  parts: Intl.DateTimeFormatOptions = { dateStyle: "medium", timeStyle: "short" },
) => new Date(at).toLocaleString(spoken(), parts)

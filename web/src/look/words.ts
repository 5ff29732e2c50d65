/** Numbers and dates in words, the same on every screen. */

export const kilobytes = (bytes: number) =>
  bytes < 1024 * 1024 ? `${Math.ceil(bytes / 1024)} kB` : `${(bytes / 1024 / 1024).toFixed(1)} MB`

export const day = (moment: string) => new Date(moment).toLocaleDateString("en-GB", { dateStyle: "medium" })

export const moment = (at: string) =>
  new Date(at).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })

/** “1 word”, “1,200 words”. */
export const counted = (number: number, one: string) =>
  `${number.toLocaleString("en-GB")} ${one}${number === 1 ? "" : "s"}`

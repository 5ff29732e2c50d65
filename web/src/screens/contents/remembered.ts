/** Which line of a site's tree somebody was at last in this window, so that they are there again when they come back. */
import { t } from "@lingui/core/macro"

const key = (site: number) => `contents:${site}`

/** What a page's line is known by. */
export const lineOf = (page: number) => t`page ${page}`

export const lastLine = (site: number) => sessionStorage.getItem(key(site)) ?? ""

export const rememberLine = (site: number, line: string) => sessionStorage.setItem(key(site), line)

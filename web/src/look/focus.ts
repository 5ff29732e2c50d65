/** Where the focus goes when what had it goes away: nobody who works by keyboard is sent back to the beginning. */

const STOPS =
  'a[href], button:not(:disabled), input:not(:disabled), select:not(:disabled), textarea:not(:disabled), [tabindex="0"]'

/** Whether something is drawn at all. */
export const shows = (element: Element) => element.checkVisibility({ visibilityProperty: true })

/** Whether nobody has gone anywhere yet: the focus is nowhere, or where a screen as a whole has it. */
export const isIdle = () => document.activeElement?.matches("body, main") ?? true

/** The first place within that the Tab key would stop at. */
export const firstStop = (within: Element): HTMLElement | null =>
  [...within.querySelectorAll<HTMLElement>(STOPS)].find(
    (each) => each.tabIndex >= 0 && shows(each) && !each.closest("[inert]"),
  ) ?? null

/** Parts that can have the focus themselves, with their name heard, where nothing better is left in them. */
const HOLDERS =
  "[role=tabpanel], section, aside, main, nav, header, footer, [role=region], [role=group], form"

export function hold(element: HTMLElement) {
  if (element.tabIndex < 0 && !element.hasAttribute("tabindex")) element.tabIndex = -1
  element.focus({ preventScroll: true })
}

/**
 * Watches for the focus falling to nowhere because what had it was taken away, and gives it to the nearest part around
 * that is still there; on a new screen to its main part. Call once.
 */
export function keepFocus() {
  let around: HTMLElement[] = []
  const lost = () => document.activeElement === document.body || document.activeElement === null
  document.addEventListener("focusin", ({ target }) => {
    around = []
    for (let each = target as HTMLElement | null; each; each = each.parentElement) around.push(each)
  })
  const mend = () => {
    const had = around[0]
    if (!had || !lost() || !document.hasFocus()) return
    if (had.isConnected && shows(had) && !had.matches(":disabled")) return
    const holder = around.slice(1).find((each) => each.isConnected && each.matches(HOLDERS) && shows(each))
    const place = holder ?? document.querySelector<HTMLElement>("[data-first], main")
    if (place) hold(place)
  }
  let soon = 0
  new MutationObserver(() => {
    if (soon || !around.length || !lost()) return
    // Whoever takes something away may have a better place in mind: that comes first.
    soon = window.setTimeout(() => {
      soon = 0
      mend()
    }, 60)
  }).observe(document, {
    childList: true,
    subtree: true,
    attributes: true,
    attributeFilter: ["disabled", "inert"],
  })
}

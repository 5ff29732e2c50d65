/** Colours that were put in place of others lately, in this browser: offered for the next one. */
const PLACE = "colours:recent"
const MOST = 8

export function recentColours(): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(PLACE) ?? "[]")
    return Array.isArray(kept) ? kept.filter((each) => /^[0-9a-f]{6}$/.test(String(each))).slice(0, MOST) : []
  } catch {
    return []
  }
}

export function rememberColour(colour: string) {
  try {
    const others = recentColours().filter((each) => each !== colour)
    localStorage.setItem(PLACE, JSON.stringify([colour, ...others].slice(0, MOST)))
  } catch {
    // A browser without room remembers none.
  }
}

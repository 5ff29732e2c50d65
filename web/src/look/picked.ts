/** Documents that were chosen in the library to be put onto a page: kept in this browser until they are, for a day. */
const PLACE = "library:picked"
const LONGEST = 24 * 3600 * 1000
const MOST = 200

interface Picked {
  items: number[]
  at: number
}

export function pick(items: readonly number[]) {
  localStorage.setItem(
    PLACE,
    JSON.stringify({ items: items.slice(0, MOST), at: Date.now() } satisfies Picked),
  )
}

export function picked(): number[] {
  try {
    const kept = JSON.parse(localStorage.getItem(PLACE) ?? "null") as Picked | null
    if (!kept || Date.now() - kept.at > LONGEST) return []
    return kept.items.filter((each) => Number.isInteger(each))
  } catch {
    return []
  }
}

export const putDown = () => localStorage.removeItem(PLACE)

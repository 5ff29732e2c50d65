import { useEffect, useState } from "react"
import type { Known } from "../../../editor/known"

/** Draws anew whenever something else is known of the items. */
export function useKnown(known: Known) {
  const [, draw] = useState(0)
  useEffect(() => known.watch(() => draw((count) => count + 1)), [known])
}

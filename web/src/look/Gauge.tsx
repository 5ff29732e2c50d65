/** The state of a page as a shape: a lock chamber seen from the side, and how far it is filled. */
import { t } from "@lingui/core/macro"
import type { components } from "../api/types.generated"

export type State = components["schemas"]["ContentsEntry"]["state"]

export const STATE_WORDS: Record<State, string> = {
  unpublished: t`Not published`,
  live: t`Live`,
  changed: t`Live, changes wait`,
}
const COLOURS: Record<State, string> = {
  unpublished: "var(--chakra-colors-quiet)",
  live: "var(--chakra-colors-live)",
  changed: "var(--chakra-colors-waits)",
}

/** Empty: not published. Full: live. Filled to a step: live, with changes that wait. */
export function Gauge({ state, size = 14 }: { state: State; size?: number }) {
  const water = { unpublished: null, live: t`M3 3h10v10H3z`, changed: t`M3 8h5v-3h5v8H3z` }[state]
  return (
    <svg width={size} height={size} viewBox="0 0 16 16" aria-hidden="true" style={{ flexShrink: 0 }}>
      {water && <path d={water} fill={COLOURS[state]} />}
      <path d="M2 1v13h12V1" fill="none" stroke={COLOURS[state]} strokeWidth="2" />
    </svg>
  )
}

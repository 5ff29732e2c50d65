/** Which chord does which act: the keys that come with it, and those that somebody has chosen instead. */
import { TEXT_ACTS, type TextAct } from "../../editor/acts"
import { DESK_ACTS, type DeskAct } from "./desk"

export type AnyAct = TextAct | DeskAct

/** By act: the chord somebody wants for it, or "" for none. */
export type OwnKeys = Readonly<Record<string, string>>

export const ACTS: readonly AnyAct[] = [...TEXT_ACTS, ...DESK_ACTS]

/** A second chord for the same act, as other programs have it. */
const ALSO: Readonly<Record<string, string>> = { redo: "Mod+Shift+Z" }

export const keysOf = ({ id, keys = "" }: AnyAct, own: OwnKeys): string => own[id] ?? keys

/** The act of each chord. What somebody chose comes before what another act came with. */
export function bindings(own: OwnKeys): ReadonlyMap<string, AnyAct> {
  const chosen = ACTS.filter(({ id }) => id in own)
  const others = ACTS.filter(({ id }) => !(id in own))
  const found = new Map<string, AnyAct>()
  for (const act of [...chosen, ...others]) {
    const also = act.id in own ? [] : [ALSO[act.id] ?? ""]
    for (const chord of [keysOf(act, own), ...also]) if (chord && !found.has(chord)) found.set(chord, act)
  }
  return found
}

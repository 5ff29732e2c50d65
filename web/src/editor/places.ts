/** Places that are kept while something is fetched, and how what lands at one leaves alone who writes on meanwhile. */
import { type EditorState, Selection, TextSelection, type Transaction } from "prosemirror-state"
import type { Mapping } from "prosemirror-transform"
import { givesRegionsAs } from "./regions"

/** A stretch of the text that is kept while something is fetched; it moves with what is written meanwhile. */
export interface Place {
  from: number
  to: number
}

interface Held extends Place {
  bias: -1 | 1
  /** How much the writer had done when it was kept. */
  acts: number
}

export class Places {
  private held = new Set<Held>()
  private acts = 0

  /**
   * With a `bias` of -1 what is written at the caret stands behind the place, otherwise before it. What lands at places
   * that were one stands in the order in which they were kept, whichever comes first.
   */
  hold({ from, to }: Place, bias: -1 | 1): Place {
    const place = { from, to, bias, acts: this.acts }
    this.held.add(place)
    return place
  }

  release(place: Place) {
    this.held.delete(place as Held)
  }

  /** Whoever writes has written, or gone somewhere. */
  goesOn() {
    this.acts += 1
  }

  /** Whether they have since this place was kept. */
  wasLeft(place: Place): boolean {
    return (place as Held).acts !== this.acts
  }

  follow(mapping: Mapping) {
    for (const place of this.held) {
      place.from = mapping.map(place.from, place.bias)
      place.to = Math.max(place.from, mapping.map(place.to, place.bias))
    }
  }

  /**
   * Have something land at a place: a change that selects it, or ends with the caret behind it. Whoever went on
   * meanwhile stays where they are.
   */
  land(
    place: Place,
    state: EditorState,
    make: (isAwaited: boolean) => Transaction,
    dispatch: (tr: Transaction) => void,
  ) {
    const isAwaited = !this.wasLeft(place)
    const made = make(isAwaited)
    const [start, end] = [startOf(made), made.selection.to]
    const order = [...this.held]
    const at = order.indexOf(place as Held)
    const same = (each: Held) => each.to === place.to
    const [earlier, later] = [order.slice(0, at).filter(same), order.slice(at + 1).filter(same)]
    this.release(place)
    dispatch(isAwaited ? made : leavingCaret(state, made))
    for (const each of earlier) if (each.to > start) Object.assign(each, { from: start, to: start })
    for (const each of later) Object.assign(each, { from: end, to: end })
  }
}

/** Where what a change puts in begins. */
function startOf({ mapping }: Transaction): number {
  const starts: number[] = []
  for (const [index, map] of mapping.maps.entries())
    map.forEach((_from, _to, start) => {
      starts.push(mapping.slice(index + 1).map(start, -1))
    })
  return Math.min(...starts)
}

/** The same change for somebody who writes elsewhere meanwhile: caret and selection stay with their words. */
function leavingCaret(state: EditorState, made: Transaction): Transaction {
  const tr = givesRegionsAs(made, state.tr)
  for (const step of made.steps) tr.step(step)
  const { deleted, pos } = tr.mapping.mapResult(state.selection.head)
  if (deleted && made.selection instanceof TextSelection)
    return tr.setSelection(TextSelection.create(tr.doc, made.selection.head))
  // A letter would take the place of what is selected as a whole.
  if (state.selection instanceof TextSelection && !(tr.selection instanceof TextSelection)) {
    const $at = tr.doc.resolve(pos)
    const text = Selection.findFrom($at, 1, true) ?? Selection.findFrom($at, -1, true)
    if (text) tr.setSelection(text)
  }
  return tr
}

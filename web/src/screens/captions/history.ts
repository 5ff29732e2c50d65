/** The cues as they are being written, with one way back and forth through every change. */
import { useReducer } from "react"
import type { Cue } from "../../api/client"

export interface Moment {
  cues: Cue[]
  /** The index of the cue that is meant. */
  at: number
  /** Whether nobody has held them against the film since they were drafted. */
  drafted: boolean
}

export interface History {
  now: Moment
  before: Moment[]
  after: Moment[]
  /** What is being typed in one go: changes with the same mark are one step. */
  mark: string
  /** Counts the changes, so that what is saved and checked can be told from what is there. */
  count: number
}

type Act =
  | { sort: "begin"; now: Moment }
  | { sort: "change"; now: Partial<Moment>; mark?: string }
  | { sort: "at"; at: number }
  | { sort: "undo" }
  | { sort: "redo" }

/** How many steps back are kept. */
const MOST = 500

export function stepped(history: History, act: Act): History {
  const { now, before, after, count } = history
  switch (act.sort) {
    case "begin":
      return { now: act.now, before: [], after: [], mark: "", count: count + 1 }
    case "at":
      return { ...history, now: { ...now, at: act.at }, mark: act.at === now.at ? history.mark : "" }
    case "change": {
      const goesOn = act.mark !== undefined && act.mark === history.mark
      const next = { ...now, ...act.now }
      return {
        now: next,
        before: goesOn ? before : [...before, now].slice(-MOST),
        after: [],
        mark: act.mark ?? "",
        count: count + 1,
      }
    }
    case "undo": {
      const last = before.at(-1)
      if (!last) return history
      return { now: last, before: before.slice(0, -1), after: [now, ...after], mark: "", count: count + 1 }
    }
    case "redo": {
      const [next, ...rest] = after
      if (!next) return history
      return { now: next, before: [...before, now], after: rest, mark: "", count: count + 1 }
    }
  }
}

const EMPTY: History = { now: { cues: [], at: 0, drafted: false }, before: [], after: [], mark: "", count: 0 }

export function useHistory() {
  return useReducer(stepped, EMPTY)
}

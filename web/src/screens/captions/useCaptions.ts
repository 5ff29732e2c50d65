/** Captions that are being written: loaded, saved by themselves, checked while one writes. */
import { t } from "@lingui/core/macro"
import { useEffect, useMemo, useRef, useState } from "react"
import {
  ask,
  type CaptionNote,
  type CaptionsBrief,
  type CaptionsOut,
  type Cue,
  client,
  Problem,
} from "../../api/client"
import { type History, type Moment, useHistory } from "./history"

const SAVED_AFTER = 700
const CHECKED_AFTER = 250
/** How long after a key the words are kept in this browser: what is written shall be seen first. */
const KEPT_AFTER = 50

/** Where what the server has not got yet is kept in this browser: by who writes it, for others may sit here too. */
const keptAs = (person: string, id: number) => `captions:${person}:${id}`

interface Kept {
  revision: number
  moment: Moment
}

function keptOf(place: string): Kept | null {
  try {
    return JSON.parse(localStorage.getItem(place) ?? "null") as Kept | null
  } catch {
    return null
  }
}

function keep(place: string, kept: Kept | null) {
  try {
    if (kept) localStorage.setItem(place, JSON.stringify(kept))
    else localStorage.removeItem(place)
  } catch {
    // A browser without room keeps nothing here; the server is asked all the same.
  }
}

const NOTHING = { notes: [] as CaptionNote[], total: 0, of: [] as readonly Cue[] }

/** What stands beside the script knows of the captions. */
export interface Beside {
  history: History
  brief: CaptionsBrief | null
  saving: "saved" | "waits" | "away" | "refused" | "clash"
  problem: string
  do: ReturnType<typeof useHistory>[1]
  /** Save at once what is not saved; false where that cannot be. */
  flush(): Promise<boolean>
  /** Somebody else has saved meanwhile: take theirs, or keep these. */
  settle(mine: boolean): void
  setBrief(brief: CaptionsBrief): void
}

export interface Captions extends Beside {
  loud: CaptionsOut["loud"]
  notes: CaptionNote[]
  total: number
  /** The cues of which the notes tell. */
  checkedCues: readonly Cue[]
}

export function useCaptions(id: number | null, person: string): Captions {
  const place = keptAs(person, id ?? 0)
  const [history, act] = useHistory()
  const [brief, setBrief] = useState<CaptionsBrief | null>(null)
  const [loud, setLoud] = useState<CaptionsOut["loud"]>([])
  const [notes, setNotes] = useState<{ notes: CaptionNote[]; total: number; of: readonly Cue[] }>(NOTHING)
  const [saving, setSaving] = useState<Captions["saving"]>("saved")
  const [problem, setProblem] = useState("")
  const [reloads, setReloads] = useState(0)
  const saved = useRef({ count: 0, revision: 0 })
  const latest = useRef(history)
  latest.current = history
  const running = useRef<Promise<boolean> | null>(null)

  // biome-ignore lint/correctness/useExhaustiveDependencies: reloads asks for it anew
  useEffect(() => {
    if (id === null) return
    let gone = false
    setBrief(null)
    ask(client.GET("/api/captions/{captions_id}", { params: { path: { captions_id: id } } })).then(
      ({ cues, loud, ...found }) => {
        if (gone) return
        const kept = keptOf(place)
        // What was sent may have arrived although nobody was told so.
        const arrived = kept && JSON.stringify(kept.moment.cues) === JSON.stringify(cues)
        if (arrived) keep(place, null)
        const mine = kept && !arrived ? kept.moment : null
        const clash = mine !== null && kept?.revision !== found.revision
        saved.current = { count: -1, revision: clash ? (kept?.revision ?? 0) : found.revision }
        setBrief(found)
        setLoud(loud)
        setProblem("")
        act({ sort: "begin", now: mine ?? { cues, at: 0, drafted: found.drafted } })
        setSaving(clash ? "clash" : mine ? "waits" : "saved")
        if (!mine) saved.current.count = latest.current.count + 1
      },
      (error: Error) => !gone && setProblem(error.message),
    )
    return () => {
      gone = true
    }
  }, [id, place, act, reloads])

  const save = (): Promise<boolean> => {
    running.current ??= sent().finally(() => {
      running.current = null
    })
    return running.current
  }
  const sent = async (): Promise<boolean> => {
    if (id === null) return true
    while (saved.current.count !== latest.current.count) {
      const { now, count } = latest.current
      const body = { revision: saved.current.revision, cues: now.cues, drafted: now.drafted }
      try {
        const done = await ask(
          client.PUT("/api/captions/{captions_id}", { params: { path: { captions_id: id } }, body }),
        )
        saved.current = { count, revision: done.revision }
        setBrief(done)
        setProblem("")
        if (latest.current.count === count) {
          keep(place, null)
          setSaving("saved")
        }
      } catch (error) {
        const status = error instanceof Problem ? error.status : 0
        // What the server does not take it would not take a second time, unless somebody signs in meanwhile.
        const refused = status >= 400 && status < 500 && status !== 401
        setSaving(status === 409 ? "clash" : refused ? "refused" : "away")
        setProblem((error as Error).message)
        return false
      }
    }
    return true
  }
  const saveNow = useRef(save)
  saveNow.current = save

  const keeping = useRef<number | null>(null)
  const keepNow = useRef(() => {})
  keepNow.current = () => {
    if (keeping.current === null) return
    window.clearTimeout(keeping.current)
    keeping.current = null
    if (latest.current.count === saved.current.count) return
    keep(place, { revision: saved.current.revision, moment: latest.current.now })
  }
  useEffect(() => {
    const kept = () => keepNow.current()
    window.addEventListener("pagehide", kept)
    return () => {
      window.removeEventListener("pagehide", kept)
      kept()
    }
  }, [])

  // Each change is kept here at once, and sent a little later; while somebody is asked whose words stay, only kept.
  const state = useRef(saving)
  state.current = saving
  useEffect(() => {
    if (id === null || !brief || history.count === saved.current.count) return
    keeping.current ??= window.setTimeout(() => keepNow.current(), KEPT_AFTER)
    if (state.current === "clash") return
    setSaving("waits")
    const timer = window.setTimeout(() => void saveNow.current(), SAVED_AFTER)
    return () => window.clearTimeout(timer)
  }, [id, brief, history])

  // What could not be saved is tried again by itself.
  useEffect(() => {
    if (saving !== "away") return
    const timer = window.setInterval(() => void saveNow.current(), 3000)
    return () => window.clearInterval(timer)
  }, [saving])

  const { cues } = history.now
  const checking = useRef(Promise.resolve())
  useEffect(() => {
    if (id === null || !brief?.id) return
    let gone = false
    const check = async () => {
      try {
        const params = { path: { captions_id: id } }
        const found = await ask(client.POST("/api/captions/{captions_id}/check", { params, body: { cues } }))
        setNotes({ ...found, of: cues })
      } catch {
        // The last notes stay; the next change asks again.
      }
    }
    // One at a time: what was written while the server looks is looked at after that, and only as it is by then.
    const timer = window.setTimeout(async () => {
      await checking.current
      if (!gone) checking.current = check()
    }, CHECKED_AFTER)
    return () => {
      gone = true
      window.clearTimeout(timer)
    }
  }, [id, brief?.id, cues])

  const settle = async (mine: boolean) => {
    if (id === null) return
    if (!mine) {
      keep(place, null)
      setSaving("saved")
      setReloads((count) => count + 1)
      return
    }
    try {
      const found = await ask(
        client.GET("/api/captions/{captions_id}", { params: { path: { captions_id: id } } }),
      )
      saved.current = { count: -1, revision: found.revision }
      setSaving("waits")
      await save()
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  return {
    history,
    brief,
    loud,
    notes: notes.notes,
    total: notes.total,
    checkedCues: notes.of,
    saving,
    problem,
    do: act,
    flush: save,
    settle: (mine) => void settle(mine),
    setBrief,
  }
}

/** The captions for what stands beside the script: the same from one key to the next, and `history` as of late. */
export function useBeside(written: Captions, history: History): Beside {
  const latest = useRef(written)
  latest.current = written
  const { brief, saving, problem } = written
  // A box that is ticked is so at once.
  const { drafted } = written.history.now
  return useMemo(
    () => ({
      history: { ...history, now: { ...history.now, drafted } },
      brief,
      saving,
      problem,
      do: (act) => latest.current.do(act),
      flush: () => latest.current.flush(),
      settle: (mine) => latest.current.settle(mine),
      setBrief: (next) => latest.current.setBrief(next),
    }),
    [history, drafted, brief, saving, problem],
  )
}

/** What is told of how safe the words are. */
export function savingWords(saving: Captions["saving"]): string {
  if (saving === "saved") return t`Saved`
  if (saving === "waits") return t`Saving …`
  if (saving === "refused") return t`Kept in this browser, and not saved:`
  if (saving === "away") return t`Kept in this browser; the server cannot be reached.`
  return t`Somebody else has changed these captions.`
}

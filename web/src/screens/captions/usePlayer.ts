/** The film beside its captions: where it is, and the cues as they will stand on it. */
import { useEffect, useRef, useState } from "react"
import type { Cue } from "../../api/client"

/** The cues around what is shown are given to the player, this many milliseconds before and after. */
const AROUND = 60_000
/** How long after the last key the player is given what was written, in milliseconds. */
const SOON = 200

export interface Playing {
  of(element: (HTMLVideoElement & HTMLAudioElement) | null): void
  /** Where the film is, in milliseconds. */
  moment: number
  playing: boolean
  /** Exactly where it is just now. */
  now(): number
  toggle(): void
  to(moment: number): void
  /** Play from one moment to another. */
  stretch(begin: number, end: number): void
}

export function usePlayer(cues: readonly Cue[], language: string): Playing {
  const [player, setPlayer] = useState<(HTMLVideoElement & HTMLAudioElement) | null>(null)
  const [moment, setMoment] = useState(0)
  const [playing, setPlaying] = useState(false)
  const until = useRef<number | null>(null)
  const now = () => Math.round((player?.currentTime ?? 0) * 1000)

  useEffect(() => {
    if (!player) return
    const ended = new AbortController()
    const { signal } = ended
    let frame = 0
    const look = () => {
      const at = Math.round(player.currentTime * 1000)
      setMoment(at)
      if (until.current !== null && at >= until.current) {
        until.current = null
        player.pause()
      }
      if (!player.paused) frame = requestAnimationFrame(look)
    }
    for (const event of ["seeked", "loadedmetadata", "timeupdate"])
      player.addEventListener(event, look, { signal })
    player.addEventListener(
      "play",
      () => {
        setPlaying(true)
        look()
      },
      { signal },
    )
    player.addEventListener("pause", () => setPlaying(false), { signal })
    return () => {
      ended.abort()
      cancelAnimationFrame(frame)
    }
  }, [player])

  // A track of a player cannot be taken away again: each player has one, which is filled anew.
  const track = useRef<{ of: HTMLMediaElement; track: TextTrack } | null>(null)
  const part = Math.floor(moment / AROUND)
  useEffect(() => {
    if (!player) return
    if (track.current?.of !== player) {
      const made = player.addTextTrack("captions", "", language)
      made.mode = "showing"
      track.current = { of: player, track: made }
    }
    const shown = track.current.track
    // Not at every key: filling it takes longer than drawing what was written.
    const filling = window.setTimeout(() => {
      for (const cue of [...(shown.cues ?? [])]) shown.removeCue(cue)
      const [from, to] = [(part - 1) * AROUND, (part + 2) * AROUND]
      for (const cue of cues) {
        if (cue.end <= from || cue.begin >= to || cue.end <= cue.begin || !cue.text) continue
        shown.addCue(new VTTCue(cue.begin / 1000, cue.end / 1000, plain(cue)))
      }
    }, SOON)
    return () => window.clearTimeout(filling)
  }, [player, cues, part, language])

  const to = (wanted: number) => {
    until.current = null
    if (player) player.currentTime = Math.max(0, wanted) / 1000
    setMoment(Math.max(0, wanted))
  }
  return {
    of: setPlayer,
    moment,
    playing,
    now,
    toggle: () => {
      until.current = null
      if (player?.paused) void player.play().catch(() => setPlaying(false))
      else player?.pause()
    },
    to,
    stretch: (begin, end) => {
      if (!player) return
      to(begin)
      until.current = end
      void player.play().catch(() => setPlaying(false))
    },
  }
}

/** A cue's words as WebVTT has them: its signs are words here. */
function plain({ speaker, text }: Cue): string {
  const words = speaker ? `${speaker}: ${text}` : text
  return words.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;")
}

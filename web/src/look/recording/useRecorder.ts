/** A sound or a film being recorded with the microphone and the camera of this computer. */
import { t } from "@lingui/core/macro"
import { useEffect, useRef, useState } from "react"
import { moment } from "../words"
import { add, begin, letGo, type Recorded, type RecordedKind } from "./kept"

const FORMS: Record<RecordedKind, string[]> = {
  sound: ["audio/webm;codecs=opus", "audio/mp4", "audio/ogg;codecs=opus"],
  film: ["video/webm;codecs=vp9,opus", "video/webm;codecs=vp8,opus", "video/webm", "video/mp4"],
}
/** How often what was recorded is put by, in milliseconds. */
const PIECE = 1000

export type RecorderState = "off" | "asking" | "recording" | "paused" | "ending"

export interface Recorder {
  state: RecorderState
  problem: string
  /** How long it is, in milliseconds. */
  lasts: number
  /** How loud it is just now, from 0 to 1. */
  level: number
  stream: MediaStream | null
  start(kind: RecordedKind): void
  pause(): void
  goOn(): void
  stop(): void
}

/** `onEnded` gets each recording when it is whole. */
export function useRecorder(person: string, onEnded: (recorded: Recorded) => void): Recorder {
  const [state, setState] = useState<RecorderState>("off")
  const [problem, setProblem] = useState("")
  const [lasts, setLasts] = useState(0)
  const [level, setLevel] = useState(0)
  const [stream, setStream] = useState<MediaStream | null>(null)
  const recorder = useRef<MediaRecorder | null>(null)
  const ended = useRef(onEnded)
  ended.current = onEnded

  // Whoever leaves the screen ends the recording; what there is of it stays.
  useEffect(
    () => () => {
      if (recorder.current?.state !== "inactive") recorder.current?.stop()
    },
    [],
  )
  useLevel(stream, setLevel)
  useEffect(() => {
    if (state !== "recording") return
    let last = performance.now()
    const timer = window.setInterval(() => {
      const now = performance.now()
      setLasts((before) => before + now - last)
      last = now
    }, 200)
    return () => window.clearInterval(timer)
  }, [state])

  const start = async (kind: RecordedKind) => {
    setProblem("")
    setLasts(0)
    setState("asking")
    let media: MediaStream | null = null
    try {
      media = await asked(kind)
      const mime = FORMS[kind].find((each) => MediaRecorder.isTypeSupported(each))
      if (!mime) throw new Error(t`This browser records nothing that others can play.`)
      const when = moment(new Date().toISOString())
      const name = kind === "film" ? t`Film of ${when}` : t`Recording of ${when}`
      const recorded = { id: crypto.randomUUID(), person, kind, mime, at: Date.now(), name }
      const release = await begin(recorded)
      const made = new MediaRecorder(media, { mimeType: mime })
      let kept: Promise<unknown> = Promise.resolve()
      let bytes = 0
      made.ondataavailable = ({ data }) => {
        if (!data.size) return
        bytes += data.size
        // One after another: a file is the pieces in their order.
        kept = kept
          .then(() => add(recorded.id, data))
          .catch(() => {
            setProblem(t`This browser has no room for more. What was recorded until now is kept.`)
            if (made.state !== "inactive") made.stop()
          })
      }
      made.onstop = async () => {
        for (const track of media?.getTracks() ?? []) track.stop()
        setStream(null)
        setLevel(0)
        setState("ending")
        await kept
        release()
        setState("off")
        if (bytes) ended.current(recorded)
        else await letGo(recorded.id)
      }
      // A microphone that is pulled out ends it.
      for (const track of media.getTracks()) track.onended = () => made.state !== "inactive" && made.stop()
      recorder.current = made
      made.start(PIECE)
      setStream(media)
      setState("recording")
    } catch (error) {
      for (const track of media?.getTracks() ?? []) track.stop()
      setProblem(sentenceOf(error as Error, kind))
      setState("off")
    }
  }
  return {
    state,
    problem,
    lasts,
    level,
    stream,
    start: (kind) => void start(kind),
    pause: () => {
      recorder.current?.pause()
      setState("paused")
    },
    goOn: () => {
      recorder.current?.resume()
      setState("recording")
    },
    stop: () => {
      if (recorder.current?.state !== "inactive") recorder.current?.stop()
    },
  }
}

function asked(kind: RecordedKind): Promise<MediaStream> {
  // Browsers lend microphones to pages that come by a safe way only.
  if (!navigator.mediaDevices)
    throw new Error(t`This browser lends no microphone to this address. It has to begin with https://.`)
  return navigator.mediaDevices.getUserMedia({ audio: true, video: kind === "film" })
}

function sentenceOf({ name, message }: Error, kind: RecordedKind): string {
  const what = kind === "film" ? t`camera and microphone` : t`microphone`
  if (name === "NotAllowedError")
    return t`The browser may not use the ${what}. Allow it beside the address of this page, then try again.`
  if (name === "NotFoundError") return t`No ${what} was found. Plug one in, then try again.`
  if (name === "NotReadableError") return t`The ${what} cannot be had; perhaps another program uses it.`
  return message
}

/** Tells how loud a stream is, a few times a second. */
function useLevel(stream: MediaStream | null, tell: (level: number) => void) {
  useEffect(() => {
    if (!stream) return
    const context = new AudioContext()
    const analyser = context.createAnalyser()
    analyser.fftSize = 1024
    context.createMediaStreamSource(stream).connect(analyser)
    const samples = new Float32Array(analyser.fftSize)
    const timer = window.setInterval(() => {
      analyser.getFloatTimeDomainData(samples)
      const mean = samples.reduce((sum, each) => sum + each * each, 0) / samples.length
      // From -60 dB to full scale, as ears hear it.
      tell(Math.min(1, Math.max(0, 1 + (10 * Math.log10(mean + 1e-9)) / 60)))
    }, 80)
    return () => {
      window.clearInterval(timer)
      void context.close()
    }
  }, [stream, tell])
}

import { useCallback, useEffect, useRef, useState } from "react"
import type { HeardLine } from "../../api/client"

export interface Voice {
  /** Whether the browser has a voice. */
  there: boolean
  speaking: boolean
  /** Say some lines, one after another; tells how many have been said whenever one begins. */
  speak(lines: HeardLine[], onLine: (done: number) => void): void
  stop(): void
}

/** The browser's own speech. Each line is said in its language. */
export function useVoice(language: string): Voice {
  const speech = typeof speechSynthesis === "undefined" ? null : speechSynthesis
  const [there, setThere] = useState(false)
  const [speaking, setSpeaking] = useState(false)
  const turn = useRef(0)

  useEffect(() => {
    if (!speech) return
    const look = () => setThere(speech.getVoices().length > 0)
    look()
    // Voices are told of some time after they are asked for.
    speech.addEventListener?.("voiceschanged", look)
    return () => {
      speech.removeEventListener?.("voiceschanged", look)
      speech.cancel()
    }
  }, [speech])

  const stop = useCallback(() => {
    turn.current += 1
    speech?.cancel()
    setSpeaking(false)
  }, [speech])

  const speak = useCallback(
    (lines: HeardLine[], onLine: (done: number) => void) => {
      if (!speech) return
      stop()
      const mine = turn.current
      const say = (index: number) => {
        const line = lines[index]
        if (mine !== turn.current) return
        if (!line) {
          setSpeaking(false)
          return
        }
        onLine(index)
        const words = new SpeechSynthesisUtterance(line.says)
        words.lang = line.language || language
        words.onend = () => say(index + 1)
        words.onerror = () => mine === turn.current && setSpeaking(false)
        speech.speak(words)
      }
      setSpeaking(true)
      say(0)
    },
    [speech, stop, language],
  )
  return { there, speaking, speak, stop }
}

/** Where one is on the desk and what is shown there, and everything that leads from one part of it to another. */
import { t } from "@lingui/core/macro"
import { useCallback, useRef, useState } from "react"
import { flushSync } from "react-dom"
import { useNavigate } from "react-router"
import type { PageOut } from "../../api/client"
import type { Saver } from "../../editor/saver"
import type { Sheet } from "../../editor/sheet"
import { useChoice } from "../../look/choices"
import { say } from "../../look/heard"
import type { Desk } from "./desk"
import { exportPage } from "./exporting"
import type { LeftTab } from "./Left"
import { type Part, toPart } from "./parts"
import type { Width } from "./SheetFrame"
import type { ShelfMode } from "./Shelf"

export interface Version {
  id: number
  name: string
}

/** What is handed to the desk once it is there. */
interface Given {
  page: PageOut
  sheet: Sheet | null
  saver: Saver | null
  plainWords(): void
}

export function useDesk() {
  const [chosenWidth, chooseWidth] = useChoice("width")
  const [chosenLeft, chooseLeft] = useChoice("left")
  const [left, setLeft] = useState<LeftTab>(chosenLeft ?? "outline")
  const [mode, setMode] = useState<ShelfMode>("bring")
  /** Which of the parts a narrow screen shows, and which one has gone to although it is folded away. */
  const [part, setPart] = useState<Part>("text")
  const [focusShelf, setFocusShelf] = useState(0)
  const [focusLeft, setFocusLeft] = useState(0)
  const [note, setNote] = useState({ count: 0, by: 1 })
  const [inSource, setInSource] = useState(false)
  const [finding, setFinding] = useState(0)
  const [asking, setAsking] = useState<"publish" | "unpublish" | null>(null)
  const [reading, setReading] = useState<Version | null>(null)
  const [helped, setHelped] = useState("")
  /** Why something that was asked for by its name could not be done. */
  const [problem, setProblem] = useState("")
  const navigate = useNavigate()
  /** What is asked of the desk by those who were handed it before is done with what there is now. */
  const now = useRef<Given & { inSource: boolean; mode: ShelfMode }>(null)
  const give = (given: Given) => {
    now.current = { ...given, inSource, mode }
  }

  const width: Width = chosenWidth && chosenWidth !== "fit" ? (Number(chosenWidth) as Width) : "fit"
  const setWidth = (wanted: Width) => chooseWidth(String(wanted) as "fit" | "390" | "820" | "1280")
  const toLeftTab = useCallback(
    (tab: LeftTab) => {
      setLeft(tab)
      chooseLeft(tab)
    },
    [chooseLeft],
  )
  const toShelf = (to: ShelfMode) => {
    setMode(to)
    setPart("shelf")
    setFocusShelf((count) => count + 1)
  }
  const toLeft = (to: LeftTab) => {
    toLeftTab(to)
    setPart("left")
    setFocusLeft((count) => count + 1)
  }
  const toText = () => {
    flushSync(() => {
      setReading(null)
      setPart("text")
      setMode("bring")
      setAsking(null)
    })
    toPart("text", now.current?.sheet ?? null)
  }
  const leaveSource = () => {
    flushSync(() => {
      setInSource(false)
      setPart("text")
    })
    now.current?.sheet?.focus()
  }
  const ask = (what: "publish" | "unpublish") => {
    const live = now.current?.saver?.get().live
    if (what === "unpublish" && !live) setProblem(t`This page is not published, so it cannot be unpublished.`)
    else setAsking(what)
  }
  const desk: Desk = {
    save: () => {
      const saver = now.current?.saver
      void saver?.flush().then(() => saver.get().state.kind === "saved" && say(t`Saved`))
    },
    publish: () => ask("publish"),
    unpublish: () => ask("unpublish"),
    link: () => now.current?.inSource || toShelf("link"),
    shelf: () => now.current?.inSource || toShelf("bring"),
    particulars: () => now.current?.inSource || toShelf("particulars"),
    versions: () => toShelf("versions"),
    outline: () => toLeft("outline"),
    notes: () => toLeft("notes"),
    listening: () => toLeft("listening"),
    note: (by) => setNote(({ count }) => ({ count: count + 1, by })),
    plainWords: () => now.current?.plainWords(),
    source: () => setInSource(true),
    find: () => now.current?.inSource || setFinding((count) => count + 1),
    keys: () => toShelf("keys"),
    help: () => toShelf("first steps"),
    part: (by) => {
      const wanted = toPart(by, now.current?.sheet ?? null)
      if (wanted === null) return
      flushSync(() => setPart(wanted))
      toPart(wanted, now.current?.sheet ?? null)
    },
    width: (wanted) => {
      setWidth(wanted)
      now.current?.sheet?.focus()
    },
    export: (ending) => {
      const { page, saver } = now.current as Given
      void exportPage(page.id, saver, ending).then(setProblem)
      now.current?.sheet?.focus()
    },
    go: (path) => void navigate(path),
  }
  return {
    desk,
    give,
    width,
    setWidth,
    left,
    toLeftTab,
    mode,
    setMode,
    part,
    setPart,
    focusShelf,
    focusLeft,
    note,
    inSource,
    finding,
    endFinding: () => setFinding(0),
    asking,
    setAsking,
    reading,
    setReading,
    helped,
    setHelped,
    problem,
    setProblem,
    toShelf,
    toText,
    leaveSource,
  }
}

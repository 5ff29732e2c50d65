/** The sheet once its frame is there, with what saves it and what brings in what others write; and what holds for the
 * window as long as they are. */
import { useEffect, useState } from "react"
import type { PageOut } from "../../api/client"
import type { Known } from "../../editor/known"
import { type Beginning, Saver } from "../../editor/saver"
import { type PageText, toEditor } from "../../editor/schema"
import { Sheet, type SheetOptions } from "../../editor/sheet"
import { Together } from "../../editor/together"
import { isIdle } from "../../look/focus"

type Arriving = Pick<SheetOptions, "onFiles" | "onPaste" | "onKey" | "onParticulars">

export function useMounted(page: PageOut, beginning: Beginning, known: Known) {
  const [sheet, setSheet] = useState<Sheet | null>(null)
  const [saver, setSaver] = useState<Saver | null>(null)
  const [together, setTogether] = useState<Together | null>(null)

  const mount = (frame: HTMLIFrameElement, arriving: Arriving) => {
    const made = new Sheet({
      frame,
      doc: beginning.left?.doc ?? toEditor(page.working_copy as PageText),
      known,
      editable: page.site.may_write,
      ...arriving,
    })
    const saverNow = new Saver(page.id, made, known, beginning, page.live ?? null)
    const others = page.site.may_write ? new Together(page.id, made, saverNow) : null
    // Nothing else on the screen has been gone to meanwhile: work goes on in the text.
    if (page.site.may_write && isIdle()) {
      made.focus()
      // In a small window the site's head would leave no room for the text.
      if (frame.clientHeight < 400) made.dispatch(made.state.tr.scrollIntoView())
    }
    setSheet(made)
    setSaver(saverNow)
    setTogether(others)
    return () => {
      // A window whose frame goes with the focus in it would have none.
      if (document.activeElement === frame) window.focus()
      others?.destroy()
      saverNow.destroy()
      made.destroy()
      setSheet(null)
      setSaver(null)
      setTogether(null)
    }
  }

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (saver?.changed) event.preventDefault()
    }
    window.addEventListener("beforeunload", warn)
    return () => window.removeEventListener("beforeunload", warn)
  }, [saver])
  return { sheet, saver, together, mount }
}

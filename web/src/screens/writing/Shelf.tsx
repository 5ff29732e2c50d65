/** The Shelf: one field for all that can be brought in or linked to, and the particulars of what is at the caret. */

import { Box, type BoxProps } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { useEffect, useRef, useState } from "react"
import type { PageOut } from "../../api/client"
import type { Known } from "../../editor/known"
import type { Saver } from "../../editor/saver"
import type { Sheet } from "../../editor/sheet"
import { firstStop } from "../../look/focus"
import { UploadList } from "../../look/UploadList"
import { useDrop } from "../../look/useDrop"
import { CheckHelp } from "../help/CheckHelp"
import { FirstSteps } from "../help/FirstSteps"
import { ArrivalDetails } from "./ArrivalLine"
import { Choosing } from "./Choosing"
import type { Desk } from "./desk"
import { Keys } from "./Keys"
import { Particulars } from "./particulars/Particulars"
import { Search } from "./Search"
import type { Arrival } from "./useArrivals"
import type { Uploads } from "./useUploads"
import { Versions } from "./Versions"
/** What the Shelf is for just now. “particulars” goes to what is at the caret without touching the field, “files” to those on their way. */
export type ShelfMode =
  | "bring"
  | "link"
  | "particulars"
  | "files"
  | "keys"
  | "versions"
  | "choosing"
  | "arrival"
  | "help"
  | "first steps"

const WITH_FIELD: ShelfMode[] = ["bring", "link"]
/** What is read: the whole of it gets the focus. */
const READ: ShelfMode[] = ["keys", "help", "first steps", "arrival"]

interface Props {
  page: PageOut
  sheet: Sheet | null
  saver: Saver | null
  known: Known
  mode: ShelfMode
  onMode(mode: ShelfMode): void
  /** Counts the wishes to come here by key. */
  focus: number
  onSheet(): void
  onRead(version: { id: number; name: string } | null): void
  uploads: Uploads
  arrival: Arrival | null
  /** The check whose page of help is shown. */
  helped: string
  desk: Desk
  display: BoxProps["display"]
  /** Whether something else stands over the sheet, which then must not be changed from here. */
  covered: boolean
}

export function Shelf(props: Props) {
  const { page, sheet, saver, known, mode, onMode, focus, onSheet, onRead, uploads, arrival, display } = props
  const field = useRef<HTMLInputElement>(null)
  const panel = useRef<HTMLDivElement>(null)
  const below = useRef<HTMLDivElement>(null)
  const files = useRef<HTMLDivElement>(null)
  const [searching, setSearching] = useState(false)
  const editable = sheet?.view.editable ?? false
  const open = editable && (mode === "link" || (mode === "bring" && searching))

  const modeNow = useRef(mode)
  modeNow.current = mode
  useEffect(() => {
    if (focus === 0) return
    const { current } = modeNow
    if (WITH_FIELD.includes(current)) {
      field.current?.focus()
      setSearching(true)
    } else {
      const within = current === "files" ? files.current : below.current
      const first = within && firstStop(within)
      ;(READ.includes(current) ? below.current : (first ?? panel.current))?.focus()
    }
  }, [focus])
  useEffect(() => {
    const text = sheet?.view.dom
    const left = () => {
      setSearching(false)
      if (READ.includes(modeNow.current)) onMode("bring")
    }
    text?.addEventListener("focus", left)
    return () => text?.removeEventListener("focus", left)
  }, [sheet, onMode])

  const close = () => {
    setSearching(false)
    onMode("bring")
  }
  const back = () => {
    close()
    onSheet()
  }
  const { over, takes } = useDrop((files) => {
    if (sheet && editable) uploads.add(files, sheet)
  })
  const toLink = () => {
    onMode("link")
    field.current?.focus()
  }

  return (
    <Box
      ref={panel}
      as="aside"
      aria-label={t`Shelf`}
      data-part="shelf"
      inert={props.covered}
      opacity={props.covered ? 0.5 : undefined}
      tabIndex={-1}
      display={display}
      flexDirection="column"
      minH="0"
      borderLeftWidth="1px"
      borderColor="line"
      bg={over ? "lit" : undefined}
      {...takes}
      onKeyDown={(event) => event.key === "Escape" && !event.defaultPrevented && back()}
    >
      {editable && sheet && (
        <Search
          sheet={sheet}
          known={known}
          mode={mode === "link" ? "link" : "bring"}
          open={open}
          field={field}
          desk={props.desk}
          onOpen={() => {
            setSearching(true)
            if (!WITH_FIELD.includes(mode)) onMode("bring")
          }}
          onBack={back}
          site={page.site.id}
          uploads={uploads}
          onFiles={(files) => {
            uploads.add(files, sheet)
            close()
          }}
        />
      )}
      <Box ref={files} px="4">
        <UploadList uploads={uploads} />
      </Box>
      {!open && (
        <Box
          ref={below}
          role="region"
          aria-label={t`Particulars`}
          tabIndex={-1}
          flex="1"
          minH="0"
          overflowY="auto"
          px="4"
          pb="4"
        >
          {mode === "keys" ? (
            <Keys onClose={back} />
          ) : mode === "first steps" ? (
            <FirstSteps onClose={back} onKeys={() => onMode("keys")} />
          ) : mode === "help" ? (
            <CheckHelp check={props.helped} onClose={back} />
          ) : mode === "versions" && sheet && saver ? (
            <Versions page={page} sheet={sheet} saver={saver} onClose={back} onRead={onRead} />
          ) : mode === "arrival" && arrival ? (
            <ArrivalDetails arrival={arrival} onClose={back} />
          ) : mode === "choosing" && sheet && saver ? (
            <Choosing sheet={sheet} saver={saver} onClose={back} />
          ) : (
            sheet && (
              <Particulars
                page={page}
                sheet={sheet}
                saver={saver}
                known={known}
                editable={editable}
                desk={props.desk}
                onLink={toLink}
              />
            )
          )}
        </Box>
      )}
    </Box>
  )
}

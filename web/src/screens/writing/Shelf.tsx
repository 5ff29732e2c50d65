/** The Shelf: one field for all that can be brought in, and the particulars of what is selected. */
import { Box, type BoxProps, Button, chakra, HStack, Text } from "@chakra-ui/react"
import { NodeSelection } from "prosemirror-state"
import { type DragEvent, useEffect, useRef, useState } from "react"
import type { PageOut } from "../../api/client"
import { insertBlock, insertLink, insertPicture, kinds, linkAt } from "../../editor/commands"
import type { Known } from "../../editor/known"
import type { Sheet } from "../../editor/sheet"
import { Keys } from "./Keys"
import { LinkParticulars } from "./LinkParticulars"
import { type Offer, offersFor, useFound } from "./offers"
import { PageParticulars } from "./PageParticulars"
import { PictureParticulars } from "./PictureParticulars"
import { Results } from "./Results"
import { UploadList } from "./UploadList"
import { useSheetState } from "./useSheetState"
import type { Uploads } from "./useUploads"

export type ShelfMode = "bring" | "link" | "keys"

interface Props {
  page: PageOut
  sheet: Sheet | null
  known: Known
  mode: ShelfMode
  onMode(mode: ShelfMode): void
  /** Counts the wishes to come here by key. */
  focus: number
  onSheet(): void
  uploads: Uploads
  display: BoxProps["display"]
}

export function Shelf({ page, sheet, known, mode, onMode, focus, onSheet, uploads, display }: Props) {
  const state = useSheetState(sheet)
  const field = useRef<HTMLInputElement>(null)
  const panel = useRef<HTMLDivElement>(null)
  const [query, setQuery] = useState("")
  const [searching, setSearching] = useState(false)
  const [active, setActive] = useState(0)
  const [over, setOver] = useState(false)
  const editable = sheet?.view.editable ?? false
  const found = useFound(query, searching || mode === "link")
  const offers = offersFor(mode === "link" ? "link" : "bring", query, found)
  const open = editable && mode !== "keys" && (searching || mode === "link")

  const modeNow = useRef(mode)
  modeNow.current = mode
  useEffect(() => {
    if (focus === 0) return
    if (modeNow.current === "keys") panel.current?.focus()
    else field.current?.focus()
  }, [focus])

  const close = () => {
    setQuery("")
    setSearching(false)
    onMode("bring")
  }
  const back = () => {
    close()
    onSheet()
  }
  const take = (offer: Offer | undefined) => {
    if (!offer || !sheet) return
    if (offer.kind === "picture") {
      known.add([offer.item])
      sheet.step(insertPicture(sheet.state, offer.item.id))
    } else if (offer.kind === "block") {
      sheet.step(insertBlock(sheet.state, kinds[offer.type]))
    } else {
      if (offer.kind === "page") known.add([], [offer.page])
      sheet.step(insertLink(sheet.state, offer.href, offer.name))
    }
    back()
  }
  // Enter may come before the answer to the last words; then it waits for it.
  const [taking, setTaking] = useState(false)
  useEffect(() => {
    if (!taking || !(found.settled || found.problem)) return
    setTaking(false)
    take(offers[active])
  })
  const drop = (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    if (sheet && editable) uploads.add([...event.dataTransfer.files], sheet)
  }

  const { selection } = state
  const picture =
    selection instanceof NodeSelection && selection.node.type === kinds.picture ? selection : null
  const link = linkAt(state)

  return (
    <Box
      ref={panel}
      as="aside"
      aria-label="Shelf"
      tabIndex={-1}
      display={display}
      flexDirection="column"
      minH="0"
      borderLeftWidth="1px"
      borderColor="line"
      bg={over ? "lit" : undefined}
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      onKeyDown={(event) => event.key === "Escape" && back()}
    >
      {editable && (
        <Box px="4" pt="3" pb="2">
          <chakra.label htmlFor="shelf-field" fontSize="sm" fontWeight="600">
            {mode === "link" ? "Link to" : "Bring in"}
          </chakra.label>
          <chakra.input
            id="shelf-field"
            ref={field}
            role="combobox"
            aria-expanded={open && offers.length > 0}
            aria-controls="shelf-results"
            aria-activedescendant={open && offers[active] ? `offer-${active}` : undefined}
            aria-autocomplete="list"
            autoComplete="off"
            placeholder={mode === "link" ? "a page, or an address" : "pictures, pages, a divider …"}
            value={query}
            readOnly={taking}
            w="full"
            h="9"
            px="2"
            mt="1"
            bg="paper"
            borderWidth="1px"
            borderColor="edge"
            _placeholder={{ color: "quiet" }}
            onFocus={() => setSearching(true)}
            onChange={(event) => {
              setQuery(event.target.value)
              setActive(0)
            }}
            onKeyDown={(event) => {
              const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
              if (step && offers.length) {
                event.preventDefault()
                setActive((active + step + offers.length) % offers.length)
              }
              if (event.key === "Enter") {
                event.preventDefault()
                if (offers[active]?.kind === "address" || offers[active]?.kind === "block")
                  take(offers[active])
                else setTaking(true)
              }
            }}
          />
          {open && (
            <HStack mt="1" justifyContent="space-between">
              <Text fontSize="xs" color="quiet">
                Enter puts it at the caret, Escape goes back.
              </Text>
              <Button size="xs" variant="ghost" onClick={back}>
                Close
              </Button>
            </HStack>
          )}
        </Box>
      )}
      <UploadList uploads={uploads} />
      <Box flex="1" minH="0" overflowY="auto" px="4" pb="4">
        {mode === "keys" ? (
          <Keys onClose={back} />
        ) : open ? (
          <Results
            offers={offers}
            active={active}
            query={query}
            problem={found.problem}
            onTake={take}
            onFiles={(files) => {
              if (sheet) uploads.add(files, sheet)
              close()
            }}
            withUpload={mode !== "link"}
          />
        ) : sheet && picture ? (
          <PictureParticulars
            key={picture.from}
            sheet={sheet}
            known={known}
            position={picture.from}
            node={picture.node}
            editable={editable}
          />
        ) : sheet && link ? (
          <LinkParticulars
            sheet={sheet}
            known={known}
            link={link}
            editable={editable}
            onChange={() => {
              onMode("link")
              field.current?.focus()
            }}
          />
        ) : (
          <PageParticulars page={page} sheet={sheet} editable={editable} onKeys={() => onMode("keys")} />
        )}
      </Box>
    </Box>
  )
}

/** The field of the Shelf and what it finds: what can be brought in, linked to, or done. */

import { Box, Button, chakra, HStack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { type KeyboardEvent, type RefObject, useEffect, useRef, useState } from "react"
import type { PageRef } from "../../api/client"
import { anchorsOf } from "../../editor/anchors"
import { insertBlock, insertInline, insertWhole } from "../../editor/bringing"
import { insertLink, keepAnchor, kinds } from "../../editor/commands"
import type { Known } from "../../editor/known"
import { type Sheet, shownBy } from "../../editor/sheet"
import { useChoice } from "../../look/choices"
import { say } from "../../look/heard"
import { number } from "../../look/words"
import { AddFiles } from "./AddFiles"
import type { AnyAct } from "./bindings"
import type { Desk } from "./desk"
import { Judgement } from "./Judgement"
import { doable, type Offer, offersFor, useFound, useHeadings, useTree } from "./offers"
import { perform } from "./performing"
import { nothingFound, Results } from "./Results"
import { rememberLink } from "./recentLinks"
import { useOfSheet } from "./useSheetState"
import type { Uploads } from "./useUploads"

interface SearchProps {
  desk: Desk
  site: number
  uploads: Uploads
  sheet: Sheet
  known: Known
  mode: "bring" | "link"
  open: boolean
  field: RefObject<HTMLInputElement | null>
  onOpen(): void
  onBack(): void
  onFiles(files: File[]): void
}

/** The field and what it finds. */
export function Search(props: SearchProps) {
  const { sheet, known, mode, open, field, onOpen, onBack, onFiles, site, uploads, desk } = props
  const [query, setQuery] = useState("")
  const [active, setActive] = useState(0)
  const [withTree, setWithTree] = useState(false)
  const [within, setWithin] = useState<PageRef | null>(null)
  const found = useFound(query, { wanted: open, bring: mode === "bring", site })
  const headings = useHeadings(within)
  const { tree, left } = useTree(open && withTree)
  const toLink = open && mode === "link"
  const here = useOfSheet(sheet, ({ doc }) => (toLink ? anchorsOf(doc) : []))
  const inPage = within && { page: within, headings: headings ?? [] }
  const [own] = useChoice("keys")
  const acts = open && mode === "bring" ? doable(query, sheet, own ?? {}) : []
  const offers = offersFor({ mode, query, found, here, tree, within: inPage, acts })
  const offer = offers[active]

  // It begins anew once it was closed, or serves something else; not when it opens, since the first letter opens it.
  const serves = open ? mode : ""
  const served = useRef(serves)
  useEffect(() => {
    const before = served.current
    served.current = serves
    if (!before || before === serves) return
    setQuery("")
    setActive(0)
    setWithin(null)
    setWithTree(false)
  }, [serves])

  const link = (href: string, name: string, words?: string) => {
    const tr = insertLink(sheet.state, href, name, words)
    const own = here.find(({ anchor }) => href === `#${anchor}`)
    if (own) keepAnchor(tr, tr.mapping.map(own.position), own.anchor)
    rememberLink({ href, name })
    sheet.step(tr)
  }
  const take = (taken: Offer | undefined, words?: string) => {
    if (!taken) return
    if (taken.kind === "act" && !taken.possible) {
      say(t`Not possible at the caret: ${taken.name}`)
      return
    }
    if (taken.kind === "act") {
      onBack()
      doAct(taken.act, sheet, desk)
      return
    }
    const told = saidOf(taken)
    if (
      taken.kind === "picture" ||
      taken.kind === "film" ||
      taken.kind === "sound" ||
      taken.kind === "hosted" ||
      taken.kind === "animation" ||
      taken.kind === "post"
    ) {
      known.add([taken.item])
      sheet.step(insertWhole(sheet.state, shownBy(taken.item)))
    } else if (taken.kind === "paper") {
      known.add([taken.item])
      sheet.step(insertWhole(sheet.state, shownBy(taken.item)))
    } else if (taken.kind === "commons") {
      uploads.takeFromCommons(taken.picture.id, taken.picture.title, sheet)
    } else if (taken.kind === "picked") {
      uploads.takeAlong(taken.items, taken.as, sheet)
    } else if (taken.kind === "fetch") {
      uploads.fetch(taken.href, sheet)
    } else if (taken.kind === "sign") {
      sheet.step(insertInline(sheet.state, taken.sign.text))
    } else if (taken.kind === "block") {
      const type = kinds[taken.type]
      const made = type.isInline
        ? insertInline(sheet.state, type.create(taken.attrs))
        : insertBlock(sheet.state, type, taken.attrs)
      sheet.step(made)
    } else {
      if (taken.kind === "page") known.add([], [taken.page])
      if (taken.kind === "document") known.add([taken.item])
      if (taken.kind === "heading" && within) known.add([], [within])
      link(taken.href, taken.name, words)
    }
    say(told)
    const atom = taken.kind === "block" && ["equation", "formula"].includes(taken.type)
    onBack()
    if (atom) window.setTimeout(() => toLatex(field.current), 0)
  }
  // Enter may come before the answer to the last words; then it waits for it, and what is typed meanwhile is meant for
  // the text.
  const [taking, setTaking] = useState(false)
  const typed = useRef("")
  useEffect(() => {
    if (!taking || !(found.settled || found.problem)) return
    setTaking(false)
    if (!offers[active]) say(found.problem || nothingFound(query))
    take(offers[active])
    if (typed.current && offers[active]) sheet.dispatch(sheet.state.tr.insertText(typed.current))
    typed.current = ""
  })
  const look = (page: PageRef | null) => {
    setWithin(page)
    setQuery("")
    setActive(0)
  }
  const key = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (event.key === "ArrowDown" && !open) {
      event.preventDefault()
      onOpen()
    } else if (taking && event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey) {
      event.preventDefault()
      typed.current += event.key
    } else if (step && offers.length) {
      event.preventDefault()
      setActive((active + step + offers.length) % offers.length)
    } else if (event.key === "Enter" && !event.ctrlKey && !event.metaKey) {
      event.preventDefault()
      const waits =
        offer &&
        [
          "page",
          "picture",
          "film",
          "sound",
          "hosted",
          "animation",
          "post",
          "document",
          "paper",
          "sign",
          "commons",
        ].includes(offer.kind)
      if (offer && !waits) take(offer)
      else setTaking(true)
    } else if (
      event.key === "ArrowRight" &&
      offer?.kind === "page" &&
      mode === "link" &&
      !within &&
      atEnd(event)
    ) {
      event.preventDefault()
      look(offer.page)
    } else if (within && !query && ["ArrowLeft", "Backspace"].includes(event.key)) {
      event.preventDefault()
      look(null)
    }
  }
  const destination = offer && "href" in offer && offer.kind !== "fetch" ? offer : null

  return (
    <Box px="4" pt="3" pb="2" display="flex" flexDirection="column" minH="0" flex={open ? "1" : undefined}>
      <chakra.label htmlFor="shelf-field" fontSize="sm" fontWeight="600">
        {mode === "bring"
          ? t`Bring in or do`
          : within
            ? t`Link to a heading of “${within.title}”`
            : t`Link to`}
      </chakra.label>
      <chakra.input
        id="shelf-field"
        ref={field}
        role="combobox"
        aria-expanded={open && offers.length > 0}
        aria-controls="shelf-results"
        aria-activedescendant={open && offer ? `offer-${active}` : undefined}
        aria-autocomplete="list"
        autoComplete="off"
        placeholder={mode === "link" ? t`a page, a document, an address` : t`a picture, a table, “level 2” …`}
        value={query}
        readOnly={taking}
        w="full"
        h="9"
        px="2"
        mt="1"
        flexShrink="0"
        bg="paper"
        borderWidth="1px"
        borderColor="edge"
        _placeholder={{ color: "quiet" }}
        onClick={onOpen}
        onChange={(event) => {
          onOpen()
          setQuery(event.target.value)
          setActive(0)
        }}
        onKeyDown={key}
      />
      {open && (
        <>
          <HStack mt="1" justifyContent="space-between" gap="1">
            <Text fontSize="xs" color="quiet">
              {mode === "link"
                ? t`Enter links, → shows a page's headings, Escape goes back.`
                : t`Enter puts it at the caret or does it, Escape goes back.`}
            </Text>
            <Button size="xs" variant="ghost" onClick={onBack}>
              <Trans>Close</Trans>
            </Button>
          </HStack>
          {mode === "link" && (
            <Box py="2" display="flex" flexDirection="column" gap="2">
              <Judgement
                sheet={sheet}
                destination={destination}
                onWords={(words) => destination && take(destination, words)}
              />
              <HStack gap="1">
                <Button
                  size="xs"
                  variant="outline"
                  aria-pressed={withTree}
                  onClick={() => {
                    setWithTree(!withTree)
                    look(null)
                    field.current?.focus()
                  }}
                >
                  {withTree ? t`Close the tree` : t`Open the tree`}
                </Button>
                {within && (
                  <Button size="xs" variant="outline" onClick={() => look(null)}>
                    <Trans>All pages</Trans>
                  </Button>
                )}
                {!within && destination?.kind === "page" && (
                  <Button size="xs" variant="outline" onClick={() => look(destination.page)}>
                    <Trans>Its headings</Trans>
                  </Button>
                )}
              </HStack>
              {left > 0 && (
                <Text fontSize="xs" color="quiet">
                  <Trans>These are the uppermost pages. Type to find the {number(left)} others.</Trans>
                </Text>
              )}
            </Box>
          )}
          <Box flex="1" minH="0" overflowY="auto" mx="-2" px="2" tabIndex={mode === "link" ? 0 : undefined}>
            {mode === "bring" && (
              <AddFiles onFiles={onFiles} onRecorded={(file) => uploads.recorded(file, sheet)} />
            )}
            <Results
              offers={offers}
              active={active}
              query={query}
              problem={found.problem}
              settled={found.settled}
              onTake={take}
              bring={mode === "bring"}
            />
          </Box>
        </>
      )}
    </Box>
  )
}

/** An equation is begun where it is written: in its particulars. */
function toLatex(field: HTMLElement | null) {
  const latex = field?.closest("aside")?.querySelector<HTMLInputElement>('[aria-label^="This "] input')
  latex?.focus()
  latex?.select()
}

/** Do an act of the text or of the desk, and be where it leads to. */
function doAct(act: AnyAct, sheet: Sheet, desk: Desk) {
  if ("run" in act) {
    act.run(desk)
    return
  }
  if (!perform(act, sheet)) say(t`Not possible at the caret: ${act.name}`)
  else if (!act.everywhere) say(t`Done: ${act.name}`)
  sheet.focus()
}

/** What is said once it stands on the page. */
function saidOf(offer: Offer): string {
  switch (offer.kind) {
    case "picture":
      return t`Put in: the picture “${offer.item.title}”`
    case "film":
      return t`Put in: the film “${offer.item.title}”`
    case "hosted":
      return t`Put in: the film “${offer.item.title}”, which stands elsewhere`
    case "post":
      return t`Put in: the post “${offer.item.title}”`
    case "animation":
      return t`Put in: the animation “${offer.item.title}”`
    case "paper":
      return t`Put in: the pages of “${offer.item.title}”`
    case "sound":
      return t`Put in: the sound “${offer.item.title}”`
    case "sign":
      return t`Put in: ${offer.sign.name}`
    case "block":
      return t`Put in: ${offer.name}`
    case "commons":
    case "fetch":
    case "picked":
    case "act":
      return ""
    default:
      return t`Linked: ${offer.name}`
  }
}

const atEnd = (event: KeyboardEvent) => {
  const field = event.target as HTMLInputElement
  return field.selectionStart === field.value.length
}

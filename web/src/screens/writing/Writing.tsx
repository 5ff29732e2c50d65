/** The writing view: the rule, the sheet between Outline and Shelf, and the foot. */
import { Box, chakra, HStack, Text } from "@chakra-ui/react"
import { useQuery, useQueryClient } from "@tanstack/react-query"
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from "react"
import { flushSync } from "react-dom"
import { useParams } from "react-router"
import { answers, pageAsked } from "../../api/answers"
import type { PageOut } from "../../api/client"
import { Journal, leftBehind } from "../../editor/journal"
import type { Wishes } from "../../editor/keys"
import { Known } from "../../editor/known"
import type { Beginning } from "../../editor/saver"
import { type PageText, toEditor } from "../../editor/schema"
import { Sentence } from "../../look/Sentence"
import { To, Top } from "../../look/Top"
import type { Limits } from "../../look/useSending"
import { ArrivalLine } from "./ArrivalLine"
import { Foot } from "./Foot"
import { Left, type LeftTab } from "./Left"
import { Rule } from "./Rule"
import { SheetFrame, type Sight, type Width } from "./SheetFrame"
import { Shelf, type ShelfMode } from "./Shelf"
import { StrayWords } from "./StrayWords"
import { useArrivals } from "./useArrivals"
import { useChecking } from "./useChecking"
import { useMounted } from "./useMounted"
import { useUploads } from "./useUploads"

const Source = lazy(() => import("./source/Source"))

export function Writing({ limits, person }: { limits: Limits; person: string }) {
  const pageId = Number(useParams().pageId)
  const page = useQuery({
    ...pageAsked(pageId),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  })
  // Whoever comes back finds the page as it is then, not as it was fetched before.
  const queries = useQueryClient()
  useEffect(() => () => queries.removeQueries({ queryKey: answers.page(pageId) }), [queries, pageId])
  if (page.error)
    return (
      <Sentence title="This page cannot be opened" text={page.error.message} again={() => page.refetch()} />
    )
  return page.data ? <Prepared key={pageId} page={page.data} limits={limits} person={person} /> : null
}

/** Looks first whether something was left behind in this browser. */
function Prepared({ page, limits, person }: { page: PageOut; limits: Limits; person: string }) {
  const [beginning, setBeginning] = useState<Beginning | null>(null)
  useEffect(() => {
    let current = true
    const prepare = async () => {
      const { id, site, working_copy: copy, clashes } = page
      const left = site.may_write
        ? await leftBehind(id, person, {
            base: copy.revision,
            saved: toEditor(copy as PageText),
          })
        : null
      const journal = site.may_write ? await Journal.open(id, person) : null
      if (current) setBeginning({ copy, left, journal, person, clashes })
      else await journal?.end(true)
    }
    void prepare()
    return () => {
      current = false
    }
  }, [page, person])
  return beginning && <Desk page={page} beginning={beginning} limits={limits} />
}

/** Which of the three parts a narrow screen shows. */
type Part = "left" | "sheet" | "shelf"

interface DeskProps {
  page: PageOut
  beginning: Beginning
  limits: Limits
}

function Desk({ page, beginning, limits }: DeskProps) {
  const known = useMemo(() => {
    const all = new Known(page.palette.regions)
    all.add(page.items, page.pages)
    return all
  }, [page])
  const { sheet, saver, together, mount } = useMounted(page, beginning, known)
  const [width, setWidth] = useState<Width>("fit")
  const [left, setLeft] = useState<LeftTab>("outline")
  const [sight, setSight] = useState<Sight>("plain")
  const [helped, setHelped] = useState("")
  const [mode, setMode] = useState<ShelfMode>("bring")
  const [part, setPart] = useState<Part>("sheet")
  const arrivals = useArrivals(known)
  const uploads = useUploads(limits, arrivals)
  const [inSource, setInSource] = useState(false)
  // What the sheet calls was handed to it when it was made; it finds the present state here.
  const now = useRef({ uploads, arrivals, inSource })
  now.current = { uploads, arrivals, inSource }
  const checking = useChecking(sheet, page.id)
  useEffect(() => saver?.holdStill(inSource), [saver, inSource])
  const [next, setNext] = useState(0)
  const [focusShelf, setFocusShelf] = useState(0)
  const [focusLeft, setFocusLeft] = useState(0)
  const toShelf = (to: ShelfMode) => {
    setMode(to)
    setPart("shelf")
    setFocusShelf((count) => count + 1)
  }
  const toLeft = (to: LeftTab) => {
    setLeft(to)
    setPart("left")
    setFocusLeft((count) => count + 1)
  }
  const [reading, setReading] = useState<{ id: number; name: string } | null>(null)
  const toSheet = () => {
    setReading(null)
    setPart("sheet")
    setMode("bring")
    if (now.current.inSource) document.querySelector<HTMLElement>(".cm-content")?.focus()
    else sheet?.focus()
  }
  const leaveSource = () => {
    flushSync(() => setInSource(false))
    setPart("sheet")
    sheet?.focus()
  }
  const wishes: Omit<Wishes, "save"> = {
    link: () => now.current.inSource || toShelf("link"),
    shelf: () => now.current.inSource || toShelf("bring"),
    particulars: () => toShelf("particulars"),
    versions: () => toShelf("versions"),
    outline: () => toLeft("outline"),
    notes: () => toLeft("notes"),
    listening: () => toLeft("listening"),
    nextNote: () => setNext((count) => count + 1),
    plainWords: () => now.current.arrivals.current?.plain?.(),
    source: () => setInSource(true),
    keys: () => toShelf("keys"),
  }
  const shown = (name: Part) => ({ base: part === name ? "flex" : "none", lg: "flex" })

  return (
    <Box
      display="grid"
      gridTemplateRows="auto auto minmax(0, 1fr) auto"
      gridTemplateColumns="minmax(0, 1fr)"
      h="100dvh"
    >
      <Top trail>
        <Trail page={page} />
      </Top>
      <Rule
        sheet={sheet}
        onLink={() => toShelf("link")}
        width={width}
        onWidth={setWidth}
        part={part}
        onPart={setPart}
        covered={inSource || reading !== null}
      />
      <chakra.main
        aria-label="Writing view"
        display="grid"
        gridTemplateColumns={{ base: "1fr", lg: "14rem minmax(0, 1fr) 18rem" }}
        minH="0"
      >
        <chakra.h1 srOnly>Writing “{page.working_copy.title}”</chakra.h1>
        <Left
          sheet={sheet}
          tab={left}
          onTab={setLeft}
          onSheet={toSheet}
          focus={focusLeft}
          next={next}
          display={shown("left")}
          covered={inSource}
          page={page}
          onHelp={(check) => {
            setHelped(check)
            toShelf("help")
          }}
          onCheck={checking.again}
          sight={sight}
          onSight={setSight}
        />
        <SheetFrame
          pageId={page.id}
          title={page.working_copy.title}
          width={width}
          sight={sight}
          reading={reading}
          onBack={toSheet}
          mount={(frame) =>
            mount(frame, wishes, {
              onFiles: (files, on) => now.current.uploads.add(files, on),
              onPaste: (clip, plain, on) => now.current.arrivals.paste(clip, plain, on),
            })
          }
          display={shown("sheet")}
          covered={inSource}
        >
          {inSource && sheet && (
            <Suspense>
              <Source sheet={sheet} known={known} onBack={leaveSource} />
            </Suspense>
          )}
        </SheetFrame>
        <Shelf
          page={page}
          sheet={sheet}
          saver={saver}
          onRead={(version) => {
            setReading(version)
            if (version !== null) setPart("sheet")
          }}
          known={known}
          mode={mode}
          onMode={setMode}
          focus={focusShelf}
          onSheet={toSheet}
          uploads={uploads}
          arrival={arrivals.current}
          helped={helped}
          onSource={() => {
            setPart("sheet")
            setInSource(true)
          }}
          display={shown("shelf")}
          covered={inSource}
        />
      </chakra.main>
      <StrayWords words={beginning.left?.stray ?? ""} journal={beginning.journal} sheet={sheet} />
      <ArrivalLine
        arrivals={arrivals}
        sheet={sheet}
        known={known}
        onDetails={() => toShelf("arrival")}
        onPicture={() => toShelf("particulars")}
      />
      <Foot
        page={page}
        sheet={sheet}
        saver={saver}
        together={together}
        checking={checking}
        onNotes={() => toLeft("notes")}
        onChoose={() => toShelf("choosing")}
      />
    </Box>
  )
}

/** The way from the Contents to this page. */
function Trail({ page }: { page: PageOut }) {
  const trail = [...page.trail, { title: page.working_copy.title, path: page.path }]
  return (
    <HStack as="nav" aria-label="Where you are" gap="2" flexWrap="wrap" minW="0">
      <To to={`/sites/${page.site.id}`}>
        <chakra.span display={{ base: "inline", md: "none" }}>Contents</chakra.span>
        <chakra.span display={{ base: "none", md: "inline" }}>Contents of {page.site.name}</chakra.span>
      </To>
      {trail.map(({ title, path }) => (
        <HStack
          as="span"
          key={path}
          gap="2"
          minW="0"
          display={{ base: path === page.path ? "flex" : "none", md: "flex" }}
        >
          <chakra.span color="quiet" aria-hidden="true">
            /
          </chakra.span>
          <Text as="span" truncate maxW="16rem" fontWeight={path === page.path ? "600" : "400"}>
            {title}
          </Text>
        </HStack>
      ))}
    </HStack>
  )
}

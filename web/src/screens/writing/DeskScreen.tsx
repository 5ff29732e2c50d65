/** The writing view: the rule, the sheet between Outline and Shelf, and the foot. */

import { Box, Button, chakra, HStack, Text, useBreakpointValue } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from "react"
import type { PageOut } from "../../api/client"
import { Known } from "../../editor/known"
import type { Beginning } from "../../editor/saver"
import type { Sheet } from "../../editor/sheet"
import { useChoice } from "../../look/choices"
import { SkipLinks } from "../../look/SkipLinks"
import { To, Top } from "../../look/Top"
import type { Limits } from "../../look/useSending"
import { lineOf, rememberLine } from "../contents/remembered"
import { ArrivalLine } from "./ArrivalLine"
import { FilesLine } from "./FilesLine"
import { FindLine } from "./FindLine"
import { Foot } from "./Foot"
import { Leaving } from "./Leaving"
import { Left } from "./Left"
import { toPart } from "./parts"
import { Rule } from "./Rule"
import { SheetFrame, type Sight } from "./SheetFrame"
import { Shelf } from "./Shelf"
import { StrayWords } from "./StrayWords"
import { useArrivals } from "./useArrivals"
import { useChecking } from "./useChecking"
import { useDesk } from "./useDesk"
import { useFindingsHeard } from "./useFindingsHeard"
import { useKeys } from "./useKeys"
import { useMounted } from "./useMounted"
import { useOfSheet } from "./useSheetState"
import { useUploads } from "./useUploads"

const Source = lazy(() => import("./source/Source"))

interface Props {
  page: PageOut
  beginning: Beginning
  limits: Limits
}

export function DeskScreen({ page, beginning, limits }: Props) {
  const known = useMemo(() => {
    const all = new Known(page.palette.regions, page.id)
    all.add(page.items, page.pages)
    return all
  }, [page])
  const { sheet, saver, together, mount } = useMounted(page, beginning, known)
  const at = useDesk()
  const { desk, mode, part, inSource, reading, toShelf, toText } = at
  const [sight, setSight] = useState<Sight>("plain")
  const [leftShut, shutLeft] = useChoice("left_shut")
  const [shelfShut, shutShelf] = useChoice("shelf_shut")
  const arrivals = useArrivals(known)
  const uploads = useUploads(limits, arrivals)
  const checking = useChecking(sheet, page.id, known)
  useFindingsHeard(sheet)
  useEffect(() => saver?.holdStill(inSource), [saver, inSource])
  useEffect(() => sheet?.holdStill(inSource), [sheet, inSource])
  useEffect(() => rememberLine(page.site.id, lineOf(page.id)), [page])
  at.give({ page, sheet, saver, plainWords: () => arrivals.current?.plain?.() })
  const onKey = useKeys(sheet, desk, inSource || reading !== null)
  // What the sheet calls was handed to it when it was made; it finds the present state here.
  const now = useRef({ uploads, arrivals })
  now.current = { uploads, arrivals }

  const folded = { left: Boolean(leftShut), shelf: Boolean(shelfShut) }
  /** A narrow screen shows one part at a time; what is folded away comes up while somebody has gone there. */
  const shown = (name: "text" | "left" | "shelf") => ({
    base: part === name || (name === "text" && !["left", "shelf"].includes(part)) ? "flex" : "none",
    lg: name !== "text" && folded[name] && part !== name ? "none" : "flex",
  })
  const isShelfAway = useBreakpointValue(
    { base: part !== "shelf", lg: folded.shelf && part !== "shelf" },
    { ssr: false },
  )
  const columns = [
    folded.left && part !== "left" ? "" : "14rem",
    "minmax(0, 1fr)",
    folded.shelf && part !== "shelf" ? "" : "18rem",
  ]
  const shut = { left: () => shutLeft(!folded.left), shelf: () => shutShelf(!folded.shelf) }

  return (
    <Box
      display="grid"
      gridTemplateRows="auto auto minmax(0, 1fr) auto"
      gridTemplateColumns="minmax(0, 1fr)"
      h="100dvh"
    >
      <SkipLinks
        to={[
          [t`Skip to the text`, toText],
          [t`Skip to the Shelf`, desk.shelf],
          [t`Skip to the foot`, () => toPart("foot", sheet)],
        ]}
      />
      <Top trail part>
        <Trail page={page} sheet={sheet} />
      </Top>
      <Rule
        sheet={sheet}
        onLink={desk.link}
        width={at.width}
        onWidth={at.setWidth}
        part={part}
        onPart={at.setPart}
        folded={folded}
        onFold={(which) => {
          shut[which]()
          if (!folded[which] && part === which) toText()
        }}
        covered={inSource || reading !== null}
      />
      <chakra.main
        aria-label={t`Writing view`}
        display="grid"
        gridTemplateColumns={{ base: "minmax(0, 1fr)", lg: columns.filter(Boolean).join(" ") }}
        minH="0"
      >
        <Heading1 page={page} sheet={sheet} />
        <Left
          sheet={sheet}
          tab={at.left}
          onTab={at.toLeftTab}
          onSheet={toText}
          focus={at.focusLeft}
          next={at.note}
          display={shown("left")}
          covered={inSource}
          page={page}
          onHelp={(check) => {
            at.setHelped(check)
            toShelf("help")
          }}
          onCheck={checking.again}
          sight={sight}
          onSight={setSight}
        />
        <SheetFrame
          pageId={page.id}
          title={page.working_copy.title}
          width={at.width}
          sight={sight}
          reading={reading}
          onBack={toText}
          mount={(frame) =>
            mount(frame, {
              onKey,
              onParticulars: desk.particulars,
              onFiles: (files, on) => now.current.uploads.add(files, on),
              onPaste: (clip, plain, on) => now.current.arrivals.paste(clip, plain, on),
            })
          }
          display={shown("text")}
          covered={inSource}
        >
          {inSource && sheet && (
            <Suspense>
              <Source sheet={sheet} known={known} onBack={at.leaveSource} />
            </Suspense>
          )}
        </SheetFrame>
        <Shelf
          page={page}
          sheet={sheet}
          saver={saver}
          desk={desk}
          onRead={(version) => {
            at.setReading(version)
            if (version !== null) at.setPart("text")
          }}
          known={known}
          mode={mode}
          onMode={at.setMode}
          focus={at.focusShelf}
          onSheet={toText}
          uploads={uploads}
          arrival={arrivals.current}
          helped={at.helped}
          display={shown("shelf")}
          covered={inSource}
        />
      </chakra.main>
      <Box maxH="50dvh" overflowY="auto">
        <StrayWords words={beginning.left?.stray ?? ""} journal={beginning.journal} sheet={sheet} />
        {at.finding > 0 && sheet && !inSource && (
          <FindLine
            key={at.finding}
            sheet={sheet}
            onDone={() => {
              at.endFinding()
              sheet.focus()
            }}
          />
        )}
        {at.problem && (
          <HStack px="4" py="1.5" gap="3" bg="lit" borderTopWidth="1px" borderColor="line" fontSize="sm">
            <Text role="alert" flex="1">
              {at.problem}
            </Text>
            <Button size="xs" variant="ghost" onClick={() => at.setProblem("")}>
              <Trans>Dismiss</Trans>
            </Button>
          </HStack>
        )}
        <Leaving list={uploads.list} />
        <FilesLine
          list={uploads.list}
          isTold={isShelfAway === true && !inSource}
          onShelf={() => toShelf("files")}
        />
        <ArrivalLine
          arrivals={arrivals}
          sheet={sheet}
          known={known}
          onDetails={() => toShelf("arrival")}
          onFetch={(address) => sheet && uploads.fetch(address, sheet)}
          onPicture={() => toShelf("particulars")}
        />
        <Foot
          page={page}
          sheet={sheet}
          saver={saver}
          together={together}
          checking={checking}
          asking={at.asking}
          onAsk={at.setAsking}
          onNotes={desk.notes}
          onChoose={() => toShelf("choosing")}
        />
      </Box>
    </Box>
  )
}

const titleOf = ({ doc }: { doc: { attrs: { title?: unknown } } }) => String(doc.attrs.title ?? "")

/** The title as it stands on the sheet now; before that is there, as the page was opened. */
function useTitle(page: PageOut, sheet: Sheet | null): string {
  const title = useOfSheet(sheet, titleOf)
  return sheet ? title : page.working_copy.title
}

function Heading1({ page, sheet }: { page: PageOut; sheet: Sheet | null }) {
  const title = useTitle(page, sheet)
  useEffect(() => {
    document.title = t`${title}, Still Page`
  }, [title])
  return (
    <chakra.h1 srOnly>
      <Trans>Writing “{title}”</Trans>
    </chakra.h1>
  )
}

/** The way from the Contents to this page. */
function Trail({ page, sheet }: { page: PageOut; sheet: Sheet | null }) {
  const title = useTitle(page, sheet)
  const trail = [...page.trail, { title, path: page.path }]
  return (
    <HStack as="nav" aria-label={t`Where you are`} gap="2" flexWrap={{ base: "nowrap", md: "wrap" }} minW="0">
      <To to={`/sites/${page.site.id}`}>
        <chakra.span display={{ base: "inline", md: "none" }}>
          <Trans>Contents</Trans>
        </chakra.span>
        <chakra.span display={{ base: "none", md: "inline" }}>
          <Trans>Contents of {page.site.name}</Trans>
        </chakra.span>
      </To>
      {trail.map(({ title: name, path }) => (
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
            {name}
          </Text>
        </HStack>
      ))}
    </HStack>
  )
}

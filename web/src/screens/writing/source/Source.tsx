/** The page's HTML in place of the sheet: checked as it is typed, and told what would not come through. */

import { Box, Button, chakra, HStack, Text } from "@chakra-ui/react"
import type { EditorView } from "@codemirror/view"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { TextSelection } from "prosemirror-state"
import { useEffect, useRef, useState } from "react"
import { ask, client, type SourceNote } from "../../../api/client"
import { replaceAll } from "../../../editor/commands"
import type { Known } from "../../../editor/known"
import { pathOf, positionOf } from "../../../editor/placement"
import { type PageText, textOf, toEditor } from "../../../editor/schema"
import type { Sheet } from "../../../editor/sheet"
import { goTo, makeEditor, mark } from "./editor"

interface Props {
  sheet: Sheet
  known: Known
  onBack(): void
}

const PAUSE = 300

export default function Source({ sheet, known, onBack }: Props) {
  const place = useRef<HTMLDivElement>(null)
  const view = useRef<EditorView | null>(null)
  const [notes, setNotes] = useState<SourceNote[] | null>(null)
  const [changed, setChanged] = useState(false)
  const [leaving, setLeaving] = useState(false)
  const [problem, setProblem] = useState("")
  const timer = useRef<number | undefined>(undefined)
  const asked = useRef(0)
  const read = (caret?: number) => {
    const html = view.current?.state.doc.toString() ?? ""
    return ask(client.POST("/api/source/read", { body: { html, caret: caret ?? null } }))
  }

  const check = async () => {
    asked.current += 1
    const mine = asked.current
    try {
      const found = await read()
      if (mine !== asked.current || !view.current) return
      mark(view.current, found.notes)
      setNotes(found.notes)
      setProblem("")
    } catch (error) {
      if (mine === asked.current) setProblem((error as Error).message)
    }
  }

  const apply = async () => {
    if (!view.current) return
    try {
      const found = await read(view.current.state.selection.main.head)
      known.add(found.items, found.pages)
      const { title, description, document } = textOf(sheet.state.doc)
      const made = { ...(found.document as PageText["document"]), attrs: document.attrs }
      const doc = toEditor({ title, description, document: made })
      const tr = replaceAll(sheet.state, doc)
      const block = found.caret && positionOf(tr.doc, found.caret.path)
      if (found.caret && typeof block === "number") {
        const at = Math.min(block + 1 + found.caret.position, tr.doc.content.size)
        tr.setSelection(TextSelection.near(tr.doc.resolve(at)))
      }
      sheet.step(tr.scrollIntoView())
      onBack()
    } catch (error) {
      setProblem((error as Error).message)
    }
  }

  const acts = useRef({ check, apply })
  acts.current = { check, apply }
  useEffect(() => {
    let current = true
    const open = async () => {
      const { doc, selection } = sheet.state
      try {
        const body = { document: textOf(doc).document, caret: pathOf(selection.$head) }
        const { html, caret } = await ask(client.POST("/api/source", { body }))
        if (!current || !place.current) return
        view.current = makeEditor({
          parent: place.current,
          text: html,
          caret: caret ?? 0,
          onChange: () => {
            setChanged(true)
            setLeaving(false)
            window.clearTimeout(timer.current)
            timer.current = window.setTimeout(() => acts.current.check(), PAUSE)
          },
          onApply: () => void acts.current.apply(),
        })
        setNotes([])
      } catch (error) {
        setProblem((error as Error).message)
      }
    }
    void open()
    return () => {
      current = false
      window.clearTimeout(timer.current)
      view.current?.destroy()
      view.current = null
    }
  }, [sheet])

  const leave = () => (changed ? setLeaving(true) : onBack())
  return (
    <Box
      as="section"
      aria-label={t`Source`}
      position="absolute"
      inset="0"
      display="flex"
      flexDirection="column"
      bg="paper"
      onKeyDown={(event) => {
        const back = event.key === "Escape"
        if (!back || event.defaultPrevented) return
        event.preventDefault()
        leave()
      }}
    >
      <HStack
        px="4"
        py="2"
        gap="3"
        bg="lit"
        borderBottomWidth="1px"
        borderColor="line"
        fontSize="sm"
        flexWrap="wrap"
      >
        <Text flex="1 1 14rem" role="status">
          {leaving
            ? t`What you changed in the source is not on the page yet.`
            : t`The source of this page. It takes hold when you put it on the page.`}
        </Text>
        <Button size="xs" onClick={() => void apply()} disabled={!notes} title={t`Ctrl+Enter`}>
          <Trans>Apply to the page</Trans>
        </Button>
        <Button size="xs" variant="outline" onClick={leaving ? onBack : leave}>
          {leaving ? t`Discard my changes` : t`Back to the sheet`}
        </Button>
      </HStack>
      <Box ref={place} flex="1" minH="0" overflow="hidden" />
      <Box
        as="section"
        aria-label={t`What would not come through`}
        maxH="40%"
        overflowY="auto"
        px="4"
        py="2"
        borderTopWidth="1px"
        borderColor="line"
        fontSize="sm"
        tabIndex={0}
      >
        <Text role="alert" color="wrong">
          {problem}
        </Text>
        {notes && <Through notes={notes} onGo={(note) => view.current && goTo(view.current, note)} />}
      </Box>
    </Box>
  )
}

const SORTS = { removed: t`Left out`, changed: t`Changed`, wrong: t`Not right` }

function Through({ notes, onGo }: { notes: SourceNote[]; onGo(note: SourceNote): void }) {
  if (!notes.length)
    return (
      <Text role="status" color="quiet">
        <Trans>All of it comes through as written.</Trans>
      </Text>
    )
  return (
    <>
      <Text role="status" fontWeight="600">
        <Trans>
          {plural(notes.length, { one: "# thing", other: "# things" })} will not come through as written:
        </Trans>
      </Text>
      <chakra.ul listStyleType="none">
        {notes.map((note) => (
          <chakra.li key={`${note.start} ${note.sentence}`}>
            <Button
              variant="plain"
              size="sm"
              h="auto"
              px="0"
              py="0.5"
              whiteSpace="normal"
              textAlign="left"
              justifyContent="flex-start"
              onClick={() => onGo(note)}
            >
              <chakra.span color={note.sort === "wrong" ? "wrong" : "waits"} fontWeight="600" flexShrink="0">
                {SORTS[note.sort]}
              </chakra.span>
              <chakra.span textDecoration="underline" textDecorationColor="line" textUnderlineOffset="3px">
                {note.sentence}
              </chakra.span>
            </Button>
          </chakra.li>
        ))}
      </chakra.ul>
    </>
  )
}

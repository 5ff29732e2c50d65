/** Find and replace, in a line above the foot: what is found is marked on the sheet, which stays in view. */

import { Button, chakra, Field, HStack, Input, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { type KeyboardEvent, useEffect, useMemo, useState } from "react"
import { type Hit, hitsIn, replaced, shown, type Wanted, withFound } from "../../editor/searching"
import type { Sheet } from "../../editor/sheet"
import { Act } from "../../look/Act"
import { useOfSheet } from "./useSheetState"

const WHERE: Record<NonNullable<Hit["attribute"]>, string> = {
  alt: t`in an alt text`,
  caption: t`in a caption`,
  href: t`in an address`,
  latex: t`in an equation`,
  title: t`in the title`,
  description: t`in the description`,
}

const docOf = ({ doc }: Sheet["state"]) => doc

/** The words that are selected, if they are a few on one line. */
function selected({ state }: Sheet): string {
  const { from, to, $from, $to } = state.selection
  return $from.sameParent($to) && to - from < 80 ? state.doc.textBetween(from, to) : ""
}

export function FindLine({ sheet, onDone }: { sheet: Sheet; onDone(): void }) {
  const [wanted, setWanted] = useState<Wanted>(() => ({
    words: selected(sheet),
    matchCase: false,
    wholeWords: false,
  }))
  const [instead, setInstead] = useState("")
  const [at, setAt] = useState(0)
  const [told, setTold] = useState("")
  const doc = useOfSheet(sheet, docOf)
  const hits = useMemo(() => hitsIn(doc, wanted), [doc, wanted])
  const now = Math.min(at, Math.max(0, hits.length - 1))
  const editable = sheet.view.editable

  useEffect(() => {
    sheet.dispatch(withFound(sheet.state, hits, now))
    sheet.view.dom.querySelector(".is-found-now")?.scrollIntoView({ block: "nearest" })
  }, [sheet, hits, now])
  useEffect(
    () => () => {
      if (!sheet.view.isDestroyed) sheet.dispatch(withFound(sheet.state, [], 0))
    },
    [sheet],
  )

  const go = (index: number) => {
    const hit = hits[index]
    if (!hit) return
    setAt(index)
    setTold("")
    sheet.dispatch(shown(sheet.state, hit))
  }
  const step = (by: 1 | -1) => go((now + by + hits.length) % hits.length)
  const look = (part: Partial<Wanted>) => {
    setWanted({ ...wanted, ...part })
    setAt(0)
    setTold("")
  }
  const replace = (these: readonly Hit[]) => {
    const { tr, left } = replaced(sheet.state, these, instead)
    const done = these.length - left
    sheet.step(tr.docChanged ? tr.scrollIntoView() : null)
    const over = left
      ? t` ${plural(left, { one: "# address", other: "# addresses" })} would lead nowhere and stayed.`
      : ""
    setTold(
      plural(done, {
        one: "# place replaced. Undo takes it back at once.",
        other: "# places replaced. Undo takes them back at once.",
      }) + over,
    )
  }
  const key = (event: KeyboardEvent) => {
    if (event.key !== "Enter") return
    event.preventDefault()
    if (hits.length) step(event.shiftKey ? -1 : 1)
  }
  const where = hits[now]?.attribute
  const says = !wanted.words
    ? ""
    : hits.length
      ? t`${now + 1} of ${hits.length}${where ? `, ${WHERE[where]}` : ""}`
      : t`Not on this page`

  return (
    <HStack
      as="search"
      aria-label={t`Find and replace`}
      gap="2"
      flexWrap="wrap"
      alignItems="flex-end"
      px={{ base: "2", lg: "4" }}
      py="1.5"
      bg="paper"
      borderTopWidth="1px"
      borderColor="line"
      fontSize="sm"
      onKeyDown={(event) => event.key === "Escape" && onDone()}
    >
      <Field.Root w="auto" flex="1 1 9rem">
        <Field.Label>
          <Trans>Find on this page</Trans>
        </Field.Label>
        <Input
          size="sm"
          autoFocus
          value={wanted.words}
          bg="paper"
          borderColor="edge"
          onFocus={(event) => event.target.select()}
          onChange={(event) => look({ words: event.target.value })}
          onKeyDown={key}
        />
      </Field.Root>
      <HStack gap="1">
        <Act disabled={!hits.length} onPress={() => step(-1)} title={t`Shift+Enter`}>
          <Trans>Before</Trans>
        </Act>
        <Act disabled={!hits.length} onPress={() => step(1)} title={t`Enter`}>
          <Trans>Next</Trans>
        </Act>
      </HStack>
      <HStack gap="3" py="1">
        <Tick label={t`Match case`} checked={wanted.matchCase} onTick={(matchCase) => look({ matchCase })} />
        <Tick
          label={t`Whole words`}
          checked={wanted.wholeWords}
          onTick={(wholeWords) => look({ wholeWords })}
        />
      </HStack>
      {editable && (
        <>
          <Field.Root w="auto" flex="1 1 9rem">
            <Field.Label>
              <Trans>Replace with</Trans>
            </Field.Label>
            <Input
              size="sm"
              value={instead}
              bg="paper"
              borderColor="edge"
              onChange={(event) => setInstead(event.target.value)}
              onKeyDown={key}
            />
          </Field.Root>
          <HStack gap="1">
            <Act disabled={!hits.length} onPress={() => replace(hits.slice(now, now + 1))}>
              <Trans>Replace</Trans>
            </Act>
            <Act disabled={!hits.length} onPress={() => replace(hits)}>
              <Trans>Replace all</Trans>
            </Act>
          </HStack>
        </>
      )}
      <Text role="status" flex="1 1 8rem" color={hits.length || !wanted.words ? "quiet" : "waits"}>
        {[says, told].filter(Boolean).join(". ")}
      </Text>
      <Button size="xs" variant="ghost" onClick={onDone}>
        <Trans>Close</Trans>
      </Button>
    </HStack>
  )
}

interface TickProps {
  label: string
  checked: boolean
  onTick(checked: boolean): void
}

function Tick({ label, checked, onTick }: TickProps) {
  return (
    <chakra.label display="flex" gap="1.5" alignItems="center" whiteSpace="nowrap" minH="6">
      <input type="checkbox" checked={checked} onChange={(event) => onTick(event.target.checked)} />
      {label}
    </chakra.label>
  )
}

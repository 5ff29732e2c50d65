/** The panel of keys: what each does, from the same list that binds them, and how to have another or none. */

import { Button, chakra, HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { type KeyboardEvent, useRef, useState } from "react"
import { flushSync } from "react-dom"
import { chordOf, mayBeChosen, shownChord } from "../../editor/chords"
import { Act } from "../../look/Act"
import { Choice } from "../../look/Choice"
import { useChoice } from "../../look/choices"
import { PanelHead } from "../../look/PanelHead"
import { ACTS, type AnyAct, bindings, keysOf } from "./bindings"

/** What keys do that cannot be changed, since every program has them so. */
const FIXED: [string, string][] = [
  [t`Tab, Shift+Tab`, t`In a list: a level deeper, a level up; in a table: the next cell, the cell before`],
  ["Shift+Enter", t`New line in the same paragraph`],
  [`${shownChord("Mod")}+Shift+Z`, t`Redo, too`],
  [t`Up, Down`, t`In the Outline, the Notes and Listening: the line before, the next`],
  [t`${shownChord("Mod")} and arrows`, t`In the Outline: move the section up or down, raise or lower it`],
  ["Tab", t`With a picture selected: to its particulars`],
  ["Escape", t`Back to the text`],
]

export function Keys({ onClose }: { onClose(): void }) {
  const [own, setOwn] = useChoice("keys")
  const [changing, setChanging] = useState<AnyAct | null>(null)
  const list = useRef<HTMLUListElement>(null)
  const chosen = own ?? {}
  const listed = ACTS.filter((act) => act.keys || act.id in chosen)
  const others = ACTS.filter((act) => !listed.includes(act))
  const set = (act: AnyAct, keys: string | null) => {
    const { [act.id]: _, ...rest } = chosen
    flushSync(() => {
      setOwn(keys === null ? rest : { ...rest, [act.id]: keys })
      setChanging(null)
    })
    const line = list.current?.querySelector<HTMLElement>(`[data-act="${act.id}"]`)
    ;(line ?? list.current?.querySelector<HTMLElement>("[data-act]"))?.focus()
  }
  return (
    <Stack as="section" aria-label={t`Keys`} gap="3" pt="1">
      <PanelHead title={t`Keys`} onClose={onClose} />
      <Text fontSize="sm">
        <Trans>
          Nobody needs them: {shownChord(keysOf(ACTS.find(({ id }) => id === "shelf") as AnyAct, chosen))}{" "}
          goes to the field of the Shelf, and there every act is found by its name.
        </Trans>
      </Text>
      <chakra.ul ref={list} listStyleType="none" fontSize="sm" aria-label={t`Keys that can be changed`}>
        {listed.map((act) => (
          <chakra.li key={act.id} py="1" borderBottomWidth="1px" borderColor="line">
            <HStack justifyContent="space-between" gap="2">
              <span>{act.name}</span>
              <Button
                size="xs"
                variant="ghost"
                flexShrink="0"
                px="1"
                data-act={act.id}
                aria-expanded={changing === act}
                aria-label={t`${act.name}: ${shownChord(keysOf(act, chosen)) || t`no key`}. Change`}
                onClick={() => setChanging(changing === act ? null : act)}
              >
                {shownChord(keysOf(act, chosen)) || t`none`}
              </Button>
            </HStack>
            {changing === act && <Changing act={act} own={chosen} onKeys={(keys) => set(act, keys)} />}
          </chakra.li>
        ))}
      </chakra.ul>
      <Choice
        label={t`A key for something else`}
        value={changing && !listed.includes(changing) ? changing.id : ""}
        options={[
          ["", t`choose what it does …`],
          ...others.map(({ id, name }): [string, string] => [id, name]),
        ]}
        onChoice={(id) => setChanging(others.find((each) => each.id === id) ?? null)}
      />
      {changing && !listed.includes(changing) && (
        <Changing act={changing} own={chosen} onKeys={(keys) => set(changing, keys)} />
      )}
      <chakra.dl fontSize="sm">
        {FIXED.map(([keys, does]) => (
          <HStack
            key={does}
            justifyContent="space-between"
            gap="3"
            py="1"
            borderBottomWidth="1px"
            borderColor="line"
          >
            <chakra.dt>{does}</chakra.dt>
            <chakra.dd color="quiet" textAlign="right">
              {keys}
            </chakra.dd>
          </HStack>
        ))}
      </chakra.dl>
    </Stack>
  )
}

interface ChangingProps {
  act: AnyAct
  own: Readonly<Record<string, string>>
  /** null gives it the keys it came with; "" none. */
  onKeys(keys: string | null): void
}

/** Listens for the keys that are wanted. */
function Changing({ act, own, onKeys }: ChangingProps) {
  const [told, setTold] = useState(t`Press the keys that you want for it.`)
  const [pressed, setPressed] = useState("")
  const taken = pressed && bindings(own).get(pressed)
  const key = (event: KeyboardEvent) => {
    if (["Tab", "Escape"].includes(event.key) && !event.ctrlKey && !event.metaKey) return
    event.preventDefault()
    event.stopPropagation()
    const chord = chordOf(event.nativeEvent)
    if (["Shift", "Control", "Alt", "Meta"].includes(event.key)) return
    if (!chord || !mayBeChosen(chord)) {
      setPressed("")
      setTold(
        chord
          ? t`${shownChord(chord)} belongs to the browser or to writing. Try others, with ${shownChord("Mod")} or one of F1 to F12.`
          : t`These keys type a sign on some keyboards. Try others, with ${shownChord("Mod")} or one of F1 to F12.`,
      )
      return
    }
    setPressed(chord)
    setTold("")
  }
  return (
    <Stack gap="1" p="2" bg="lit" role="group" aria-label={t`Keys for: ${act.name}`}>
      <chakra.input
        aria-label={t`New keys for: ${act.name}`}
        readOnly
        autoFocus
        value={shownChord(pressed)}
        placeholder={t`press keys`}
        h="8"
        px="2"
        bg="paper"
        borderWidth="1px"
        borderColor="edge"
        _placeholder={{ color: "quiet" }}
        onKeyDown={key}
      />
      <Text role="status" fontSize="xs">
        {told ||
          (taken && taken !== act
            ? t`They do “${taken.name}” now, which would have none.`
            : t`They are free.`)}
      </Text>
      <HStack gap="1" flexWrap="wrap">
        <Act disabled={!pressed} onPress={() => onKeys(pressed)}>
          <Trans>Keep</Trans>
        </Act>
        <Act onPress={() => onKeys("")}>
          <Trans>Switch off</Trans>
        </Act>
        {act.id in own && (
          <Act onPress={() => onKeys(null)}>
            <Trans>As it came</Trans>
          </Act>
        )}
      </HStack>
    </Stack>
  )
}

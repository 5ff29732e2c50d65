/** What came in, told in one line above the foot, and in full on the Shelf. */

import { Button, chakra, Heading, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { undo } from "prosemirror-history"
import type { Told } from "../../api/client"
import type { Known } from "../../editor/known"
import type { Sheet } from "../../editor/sheet"
import { Act } from "../../look/Act"
import { FootLine } from "../../look/FootLine"
import { PanelHead } from "../../look/PanelHead"
import { isCode } from "./offers"
import {
  type Arrival,
  type Arrivals,
  linkedAddress,
  mutePictures,
  selectPicture,
  worthTelling,
} from "./useArrivals"
import { useSheetState } from "./useSheetState"

interface Props {
  arrivals: Arrivals
  sheet: Sheet | null
  known: Known
  onDetails(): void
  /** What is at an address is to be fetched, and put at the caret. */
  onFetch(address: string): void
  /** A picture was selected whose alt text is to be written. */
  onPicture(): void
}

export function ArrivalLine({ sheet, ...rest }: Props) {
  const { current } = rest.arrivals
  const line = current && sheet && <Line {...rest} sheet={sheet} current={current} />
  return (
    <>
      {/* Always there, so that a screen reader hears what is put into it. */}
      <Text role="status" srOnly>
        {current ? sentence(current) : ""}
      </Text>
      {line}
    </>
  )
}

interface LineProps extends Props {
  sheet: Sheet
  current: Arrival
}

function Line({ arrivals, current, sheet, known, onDetails, onFetch, onPicture }: LineProps) {
  const state = useSheetState(sheet)
  const { told, plain, problem } = current
  const mute = told.kept.some((words) => / pictures?$/.test(words)) ? mutePictures(sheet, known) : []
  const first = mute[0]
  const waits = current.state === "reading"
  return (
    <FootLine aria-label={t`What came in`}>
      <Text flex="1 1 18rem" data-arrival={current.state}>
        {sentence(current)}
        {problem && current.state === "here" && (
          <chakra.span color="wrong">
            <Trans>The plain words cannot be had: {problem}</Trans>
          </chakra.span>
        )}
      </Text>
      {waits && current.share !== null && (
        <chakra.progress aria-label={t`Sending ${current.what}`} w="8rem" max={1} value={current.share} />
      )}
      {first !== undefined && (
        <Act
          onPress={() => {
            selectPicture(sheet, first)
            onPicture()
          }}
        >
          {mute.length === 1
            ? t`A picture has no alt text: write it`
            : t`${mute.length} pictures have no alt text: write them`}
        </Act>
      )}
      {current.state === "here" && worthTelling(told) && (
        <Act onPress={onDetails}>
          <Trans>See what was done</Trans>
        </Act>
      )}
      {current.address && state.doc === current.doc && (
        <Address {...{ arrivals, sheet, onFetch }} address={current.address} />
      )}
      {plain && state.doc === current.doc && (
        <Act onPress={plain}>
          <Trans>Plain words instead</Trans>
        </Act>
      )}
      <Button size="xs" variant="ghost" onClick={waits ? current.cancel : arrivals.dismiss}>
        {waits ? t`Cancel` : t`Dismiss`}
      </Button>
    </FootLine>
  )
}

interface AddressProps {
  arrivals: Arrivals
  sheet: Sheet
  address: string
  onFetch(address: string): void
}

/** What can be made of an address that was pasted alone. */
function Address({ arrivals, sheet, address, onFetch }: AddressProps) {
  const link = linkedAddress(sheet, address)
  return (
    <>
      {link && (
        <Act
          onPress={() => {
            sheet.step(link)
            arrivals.dismiss()
            sheet.focus()
          }}
        >
          <Trans>Make it a link</Trans>
        </Act>
      )}
      <Act
        onPress={() => {
          undo(sheet.state, (tr) => sheet.dispatch(tr))
          arrivals.dismiss()
          sheet.focus()
          onFetch(address)
        }}
      >
        {isCode(address) ? t`Bring in the film` : t`Bring in the picture, document or film at it`}
      </Act>
    </>
  )
}

function sentence({ state, what, told, problem, address }: Arrival): string {
  if (address)
    return isCode(address)
      ? t`A code stands here as words. The film that it leads to can be brought in.`
      : t`An address stands here as words. A link can be made of it, or what is there brought in; posts cannot be shown on a page yet.`
  switch (state) {
    case "reading":
      return t`${what} is being read. Write on: it comes where the caret was.`
    case "failed":
      return t`${what} was not brought in: ${problem}`
    case "read-here":
      return t`${problem} So the browser read the paste: its false structure is not mended, its pictures are left out.`
    case "here":
      return `${what}: ${summary(told)}`
  }
}

/** “kept 3 headings and 2 lists; mended 4 things; left out 1.” */
function summary({ kept, mended, dropped }: Told): string {
  const parts = [
    kept.length ? t`kept ${listed(kept)}` : t`nothing was kept`,
    mended.length ? t`mended in ${plural(mended.length, { one: "# way", other: "# ways" })}` : "",
    dropped.length
      ? t`left out ${plural(dropped.length, { one: "# sort of thing", other: "# sorts of things" })}`
      : "",
  ]
  return `${parts.filter(Boolean).join("; ")}.`
}

const listed = (words: readonly string[]) =>
  words.length > 1 ? t`${words.slice(0, -1).join(", ")} and ${words.at(-1) ?? ""}` : (words[0] ?? "")

/** In full: each thing that was kept, mended and left out. */
export function ArrivalDetails({ arrival, onClose }: { arrival: Arrival; onClose(): void }) {
  const { told } = arrival
  return (
    <Stack as="section" aria-label={t`What was done`} gap="3" pt="1">
      <PanelHead title={t`What was done`} onClose={onClose} />
      <Text fontSize="sm" color="quiet">
        <Trans>{arrival.what}. Undo takes all of it back in one step.</Trans>
      </Text>
      <ToldLists told={told} />
    </Stack>
  )
}

const PARTS = [
  ["kept", t`Kept`],
  ["mended", t`Mended`],
  ["dropped", t`Left out`],
] as const

export function ToldLists({ told }: { told: Told }) {
  return PARTS.filter(([part]) => told[part].length).map(([part, name]) => (
    <Stack key={part} gap="1">
      <Heading as="h3" size="sm" fontWeight="600" fontFamily="body">
        {name}
      </Heading>
      <chakra.ul listStyleType="none" fontSize="sm">
        {told[part].map((words) => (
          <chakra.li key={words} py="1" borderBottomWidth="1px" borderColor="line">
            {words}
          </chakra.li>
        ))}
      </chakra.ul>
    </Stack>
  ))
}

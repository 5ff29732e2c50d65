/** Words that were left behind in this browser and fit the text no more: nobody loses them, and nobody guesses a place. */

import { chakra, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useState } from "react"
import { linesAfter } from "../../editor/bringing"
import type { Journal } from "../../editor/journal"
import type { Sheet } from "../../editor/sheet"
import { Act } from "../../look/Act"
import { FootLine } from "../../look/FootLine"

interface Props {
  /** The words, a line for each block. */
  words: string
  journal: Journal | null
  sheet: Sheet | null
}

export function StrayWords({ words, journal, sheet }: Props) {
  const [here, setHere] = useState(words !== "")
  if (!here || !sheet) return null
  const done = () => {
    setHere(false)
    void journal?.letStrayGo()
    sheet.focus()
  }
  return (
    <FootLine aria-label={t`Words without a place`} alignItems="flex-start">
      <Text flex="1 1 18rem" role="status">
        <Trans>
          These words were written in this browser and not saved. The text has changed since, and where they
          stood is not known any more:
        </Trans>
      </Text>
      <chakra.blockquote
        flex="2 1 24rem"
        maxH="8rem"
        overflowY="auto"
        whiteSpace="pre-wrap"
        lang=""
        tabIndex={0}
        aria-label={t`The words`}
      >
        {words}
      </chakra.blockquote>
      <Act
        onPress={() => {
          sheet.step(linesAfter(sheet.state, words.split("\n")))
          done()
        }}
      >
        <Trans>Put them below the caret</Trans>
      </Act>
      <Act onPress={done}>
        <Trans>Discard them</Trans>
      </Act>
    </FootLine>
  )
}

import { Button, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import type { ItemOut } from "../api/client"

const LONGEST = 200

/** Whether it is a title, and not the name of a file, as many programs write there. */
const isTitle = (words: string) => /\s/.test(words) && !/\.\w{2,5}$/.test(words)

/** What was found in a document’s file, and what readers would miss in it, each with what to do. The title that it has
 * may be made the item’s. */
export function DocumentFacts({ item, onTitle }: { item: ItemOut; onTitle?(title: string): void }) {
  const { document } = item
  if (!document) return null
  const { pdf, wanting, without_picture } = document
  const found =
    pdf && !pdf.locked
      ? [
          pdf.tagged && t`tagged`,
          pdf.title && t`titled “${pdf.title}”`,
          pdf.language && t`in the language “${pdf.language}”`,
          pdf.form && t`a form to fill in`,
          pdf.script && t`with script of its own`,
          pdf.encrypted && t`some uses of it locked`,
        ].filter(Boolean)
      : []
  if (!found.length && !wanting.length && !without_picture) return null
  return (
    <Stack gap="2" fontSize="sm">
      {found.length > 0 && <Text wordBreak="break-word">{t`This PDF is ${found.join(", ")}.`}</Text>}
      {pdf && isTitle(pdf.title) && pdf.title !== item.title && (
        <Button
          size="xs"
          variant="outline"
          alignSelf="flex-start"
          onClick={() => onTitle?.(pdf.title.slice(0, LONGEST))}
        >
          <Trans>Call it by the title that it has</Trans>
        </Button>
      )}
      {wanting.map(({ says, remedy }) => (
        <div key={says}>
          <Text color="waits">{says}</Text>
          <Text color="quiet">{remedy}</Text>
        </div>
      ))}
      {without_picture && <Text color="quiet">{without_picture}</Text>}
    </Stack>
  )
}

/** What the page is called elsewhere, and the picture that stands for it where it is shared. */
import { Button, chakra, Field, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import type { PageOut } from "../../../api/client"
import { longestOf } from "../../../document/rules"
import type { Sheet } from "../../../editor/sheet"
import { Folded } from "../../../look/Folded"
import { Card } from "../Found"
import { useOfSheet } from "../useSheetState"
import { Pictures } from "./covers"

interface Props {
  page: PageOut
  sheet: Sheet | null
  editable: boolean
}

const NAMES = [
  ["label", t`Name in the navigation`, t`Short, so that the navigation stays on one line.`],
  ["search_title", t`Title in search results`, t`What search results and shared cards say.`],
] as const

export function Naming({ page, sheet, editable }: Props) {
  const title = useOfSheet(sheet, ({ doc }) => doc.attrs.title as string)
  const names = {
    label: useOfSheet(sheet, ({ doc }) => doc.attrs.label as string | null),
    search_title: useOfSheet(sheet, ({ doc }) => doc.attrs.search_title as string | null),
  }
  return (
    <>
      {NAMES.map(([name, label, help]) => (
        <Field.Root key={name} disabled={!editable}>
          <Field.Label>{label}</Field.Label>
          <Input
            size="sm"
            value={names[name] ?? ""}
            placeholder={title}
            _placeholder={{ color: "quiet" }}
            maxLength={longestOf("doc", name)}
            bg="paper"
            borderColor="edge"
            onChange={(event) => sheet?.setFact(name, event.target.value || null)}
          />
          <Field.HelperText color="quiet">
            {names[name] ? `${help} ${t`Empty, it follows the title.`}` : t`Follows the title.`}
          </Field.HelperText>
        </Field.Root>
      ))}
      <Sharing page={page} sheet={sheet} editable={editable} />
    </>
  )
}

const UNIT = 10_000

/** The picture of the shared card, and what stays of it. */
function Sharing({ page, sheet, editable }: Props) {
  const item = useOfSheet(sheet, ({ doc }) => doc.attrs.share as number | null)
  const focus = useOfSheet(sheet, ({ doc }) => doc.attrs.share_focus as string | null)
  const title = useOfSheet(sheet, ({ doc }) => doc.attrs.title as string)
  const description = useOfSheet(sheet, ({ doc }) => doc.attrs.description as string)
  const picture = item ? sheet?.options.known.item(item) : undefined
  const [x = UNIT / 2, y = UNIT / 2] = (focus ?? "").split(",").filter(Boolean).map(Number)
  const aim = (place: number, across: boolean) =>
    sheet?.setFact("share_focus", across ? `${place},${y}` : `${x},${place}`)
  return (
    <Stack gap="2">
      <Text fontSize="sm" fontWeight="600">
        <Trans>Picture for sharing</Trans>
      </Text>
      {item !== null && (
        <>
          <Card page={page} sheet={sheet} title={title} whole={title} description={description} />
          {!picture && (
            <Text fontSize="sm" color="wrong">
              <Trans>The library does not have this picture any more.</Trans>
            </Text>
          )}
          {editable && (
            <>
              {(["across", "down"] as const).map((way) => (
                <chakra.label key={way} fontSize="sm" display="block">
                  {way === "across" ? t`What stays of it: left to right` : t`What stays of it: top to bottom`}
                  <chakra.input
                    type="range"
                    display="block"
                    w="full"
                    min={0}
                    max={UNIT}
                    step={100}
                    value={way === "across" ? x : y}
                    onChange={(event) => aim(Number(event.target.value), way === "across")}
                  />
                </chakra.label>
              ))}
              <HStack>
                <Button
                  size="xs"
                  variant="outline"
                  onClick={() => {
                    sheet?.setFact("share", null)
                    sheet?.setFact("share_focus", null)
                  }}
                >
                  <Trans>Share without a picture</Trans>
                </Button>
              </HStack>
            </>
          )}
        </>
      )}
      {editable && (
        <Folded label={item === null ? t`Choose a picture for sharing` : t`Choose another picture`}>
          <Pictures
            site={page.site.id}
            label={t`Find a picture for sharing`}
            onPicture={(found) => {
              sheet?.options.known.add([found])
              sheet?.setFact("share", found.id)
              sheet?.setFact("share_focus", null)
            }}
          />
        </Folded>
      )}
    </Stack>
  )
}

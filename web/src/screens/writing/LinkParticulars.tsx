import { Button, chakra, Heading, HStack, Stack, Text } from "@chakra-ui/react"
import { removeLink } from "../../editor/commands"
import type { Known } from "../../editor/known"
import type { Sheet } from "../../editor/sheet"
import { Gauge, STATE_WORDS } from "../../look/Gauge"

interface Props {
  sheet: Sheet
  known: Known
  link: { href: string; text: string }
  editable: boolean
  onChange(): void
}

/** The particulars of the link at the caret. */
export function LinkParticulars({ sheet, known, link, editable, onChange }: Props) {
  const number = /^page:(\d+)/.exec(link.href)?.[1]
  const page = number ? known.page(Number(number)) : undefined
  const address = number ? page?.address : link.href
  return (
    <Stack gap="3" pt="1">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        This link
      </Heading>
      <Text>“{link.text}”</Text>
      {page ? (
        <Stack gap="1">
          <Text>leads to the page “{page.title}”</Text>
          <HStack gap="2" fontSize="sm" color="quiet">
            <Gauge state={page.state} />
            {STATE_WORDS[page.state]}, {page.site}, {page.path}
          </HStack>
          {page.state === "unpublished" && (
            <Text fontSize="sm" color="waits">
              Readers see the words without a link until that page is published.
            </Text>
          )}
        </Stack>
      ) : (
        <Text wordBreak="break-all">leads to {link.href}</Text>
      )}
      <HStack flexWrap="wrap" gap="2">
        {address && /^https?:/.test(address) && (
          <Button asChild size="xs" variant="outline">
            <chakra.a href={address} target="_blank" rel="noreferrer">
              Try it in a new window
            </chakra.a>
          </Button>
        )}
        {editable && (
          <>
            <Button size="xs" variant="outline" onClick={onChange}>
              Lead elsewhere
            </Button>
            <Button
              size="xs"
              variant="outline"
              onClick={() => {
                sheet.step(removeLink(sheet.state))
                sheet.focus()
              }}
            >
              Remove the link, keep the words
            </Button>
          </>
        )}
      </HStack>
    </Stack>
  )
}

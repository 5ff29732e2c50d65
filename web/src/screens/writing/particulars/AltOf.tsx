import { HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import type { Attrs } from "prosemirror-model"
import type { ItemOut } from "../../../api/client"
import { longestOf } from "../../../document/rules"
import { Tick } from "../../../look/Tick"
import { EntryWords } from "./entries"

interface Props {
  label: string
  attrs: Attrs
  item: ItemOut | undefined
  editable: boolean
  onSet(attrs: Record<string, unknown>, field: string): void
}

/** The alt text of a picture in a list: worded here, the library’s own, or none needed. */
export function AltOf({ label, attrs, item, editable, onSet }: Props) {
  const own = item?.decorative ? "" : (item?.alt ?? "")
  const missing = item && !attrs.decorative && !attrs.alt && !own && !item.decorative
  return (
    <Stack gap="1">
      <EntryWords
        label={label}
        above={t`Alt text`}
        placeholder={own || t`alt text: what is to be seen`}
        value={attrs.alt}
        maxLength={longestOf("picture", "alt")}
        disabled={!editable || attrs.decorative}
        onWords={(alt) => onSet({ alt }, "alt")}
      />
      <HStack gap="3" flexWrap="wrap">
        {editable && (
          <Tick checked={attrs.decorative} onChange={(decorative) => onSet({ decorative }, "")}>
            <Trans>Decoration only</Trans>
          </Tick>
        )}
        {missing && (
          <Text fontSize="xs" color="wrong">
            <Trans>It has no alt text.</Trans>
          </Text>
        )}
      </HStack>
    </Stack>
  )
}

import { Field, HStack, Input, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useRef, useState } from "react"
import { longestOf } from "../../../document/rules"
import { DocumentFacts } from "../../../look/DocumentFacts"
import { Tick } from "../../../look/Tick"
import { Uses } from "../../../look/Uses"
import { Remove, Section, type ShownProps, Words } from "./parts"
import { useKnown } from "./useKnown"

/** The particulars of a document that is shown in the page. */
export function PaperParticulars({ page, sheet, known, position, node, editable }: ShownProps) {
  useKnown(known)
  const { attrs } = node
  const item = known.item(attrs.item)
  const begun = useRef("")
  const set = (given: Record<string, unknown>, field = "") => {
    sheet.setShown(position, given, field !== "" && field === begun.current)
    begun.current = field
  }
  return (
    <Section title={t`This document in the page`}>
      <Text fontSize="sm" wordBreak="break-word">
        {item ? item.title : <Trans>The library does not have it any more.</Trans>}
      </Text>
      {item && <DocumentFacts item={item} />}
      {editable && (
        <HStack gap="3" align="flex-end">
          <PageNumber
            label={t`First page`}
            value={attrs.first}
            most={item?.length || 9999}
            onValue={(first) => set({ first: first ?? 1 }, "first")}
          />
          <PageNumber
            label={t`Last page`}
            value={attrs.last}
            most={item?.length || 9999}
            placeholder={item?.length ? String(item.length) : t`the last`}
            onValue={(last) => set({ last }, "last")}
          />
        </HStack>
      )}
      {editable && attrs.last !== null && attrs.last < attrs.first && (
        <Text fontSize="xs" color="wrong">
          <Trans>The last page comes before the first; nothing is shown.</Trans>
        </Text>
      )}
      {editable && (
        <Tick checked={attrs.turned} onChange={(turned) => set({ turned })}>
          <Trans>One page at a time, turned by readers</Trans>
        </Tick>
      )}
      <Words
        label={t`Caption`}
        value={attrs.caption ?? ""}
        help={t`Stands below the pages.`}
        maxLength={longestOf("paper", "caption")}
        disabled={!editable}
        onWords={(words) => set({ caption: words || null }, "caption")}
      />
      {editable && <Remove sheet={sheet} position={position} node={node} />}
      <Uses item={attrs.item} here={page.id} />
    </Section>
  )
}

interface PageNumberProps {
  label: string
  value: number | null
  most: number
  placeholder?: string
  onValue(value: number | null): void
}

function PageNumber({ label, value, most, placeholder, onValue }: PageNumberProps) {
  const [typed, setTyped] = useState<string | null>(null)
  return (
    <Field.Root w="6.5rem">
      <Field.Label>{label}</Field.Label>
      <Input
        size="sm"
        type="number"
        min={1}
        max={most}
        value={typed ?? value ?? ""}
        placeholder={placeholder}
        _placeholder={{ color: "quiet" }}
        bg="paper"
        borderColor="edge"
        onBlur={() => setTyped(null)}
        onChange={(event) => {
          const given = Number(event.target.value)
          setTyped(event.target.value)
          if (event.target.value === "") onValue(null)
          else if (Number.isInteger(given) && given >= 1 && given <= most) onValue(given)
        }}
      />
    </Field.Root>
  )
}

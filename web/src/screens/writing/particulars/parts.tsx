/** What the sections of the particulars are made of. */
import { Button, Field, Heading, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { Trans } from "@lingui/react/macro"
import type { Node } from "prosemirror-model"
import { type ReactNode, useEffect, useRef, useState } from "react"
import type { PageOut } from "../../../api/client"
import type { Known } from "../../../editor/known"
import type { Sheet } from "../../../editor/sheet"
import { Act } from "../../../look/Act"

/** What the particulars of a node are given that is shown as a whole. */
export interface ShownProps {
  page: PageOut
  sheet: Sheet
  known: Known
  position: number
  node: Node
  editable: boolean
}

export function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Stack as="section" aria-label={title} gap="3" pt="1" pb="4">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        {title}
      </Heading>
      {children}
    </Stack>
  )
}

export function Acts({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Stack gap="1" role="group" aria-label={label}>
      <Text fontSize="sm" fontWeight="600">
        {label}
      </Text>
      <HStack gap="1" flexWrap="wrap">
        {children}
      </HStack>
    </Stack>
  )
}

interface OneOfProps<Value> {
  label: string
  /** Each with its name. */
  ways: readonly (readonly [Value, string])[]
  value: unknown
  disabled?(value: Value): boolean
  onValue(value: Value): void
}

/** One of a few, each at a press. */
export function OneOf<Value extends string | number | null>({
  label,
  ways,
  value,
  disabled,
  onValue,
}: OneOfProps<Value>) {
  return (
    <Acts label={label}>
      {ways.map(([each, name]) => (
        <Act key={name} pressed={value === each} disabled={disabled?.(each)} onPress={() => onValue(each)}>
          {name}
        </Act>
      ))}
    </Acts>
  )
}

/** Takes what is selected from the page; its item stays in the library. */
export function Remove({ sheet, position, node }: { sheet: Sheet; position: number; node: Node }) {
  return (
    <Button
      size="xs"
      variant="outline"
      alignSelf="flex-start"
      onClick={() => {
        sheet.step(sheet.state.tr.delete(position, position + node.nodeSize))
        sheet.focus()
      }}
    >
      <Trans>Remove from the page</Trans>
    </Button>
  )
}

interface WordsProps {
  label: string
  value: string
  help?: string
  placeholder?: string
  maxLength: number
  disabled?: boolean
  /** `goesOn`: what was typed belongs to the step of undo before it. */
  onWords(words: string, goesOn: boolean): void
}

/** A line of words that takes hold as it is typed; what is typed in one go is one step of undo. */
export function Words({ label, value, help, placeholder, maxLength, disabled, onWords }: WordsProps) {
  const begun = useRef(false)
  return (
    <Field.Root disabled={disabled}>
      <Field.Label>{label}</Field.Label>
      <Input
        size="sm"
        value={value}
        maxLength={maxLength}
        placeholder={placeholder}
        _placeholder={{ color: "quiet" }}
        bg="paper"
        borderColor="edge"
        onFocus={() => {
          begun.current = false
        }}
        onChange={(event) => {
          onWords(event.target.value, begun.current)
          begun.current = true
        }}
      />
      {help && <Field.HelperText color="quiet">{help}</Field.HelperText>}
    </Field.Root>
  )
}

interface CheckedWordsProps extends WordsProps {
  form: RegExp
  /** What the form is, said while the words do not have it. */
  otherwise: string
}

/** Words that take hold only while they have a certain form; until then they stand in the field alone. */
export function CheckedWords({ form, otherwise, value, help, onWords, ...rest }: CheckedWordsProps) {
  const [typed, setTyped] = useState<string | null>(null)
  const take = (words: string, goesOn: boolean) => {
    const fits = form.test(words)
    setTyped(fits ? null : words)
    if (fits) onWords(words, goesOn)
  }
  return <Words {...rest} value={typed ?? value} help={typed === null ? help : otherwise} onWords={take} />
}

/** The style of an element as the theme would draw it on the sheet, without touching the text there. */
export function useThemeStyle(sheet: Sheet | null, attribute: string, value: string | null) {
  const [style, setStyle] = useState<Record<string, string>>({})
  useEffect(() => {
    const page = sheet?.view.dom.ownerDocument
    const window = page?.defaultView
    if (!page || !window) return
    const text = page.createElement("div")
    const line = page.createElement("p")
    text.className = "text"
    text.style.display = "none"
    if (value) line.setAttribute(attribute, value)
    text.append(line)
    page.body.append(text)
    const { fontFamily, fontSize, fontWeight, fontStyle, color, lineHeight } = window.getComputedStyle(line)
    setStyle({ fontFamily, fontSize, fontWeight, fontStyle, color, lineHeight })
    text.remove()
  }, [sheet, attribute, value])
  return style
}

/** Which captions a film has: one for each language, and the sorts beside captions. */
import { Button, chakra, Field, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useState } from "react"
import { ask, type CaptionsBrief, client } from "../../api/client"
import { Act } from "../../look/Act"
import { Choice } from "../../look/Choice"

export const SORTS: Record<CaptionsBrief["sort"], string> = {
  captions: t`captions`,
  descriptions: t`descriptions of the picture`,
  chapters: t`chapters`,
}

/** Languages that are offered by name; any other is written by its tag (BCP 47). */
const KNOWN = ["en", "cy", "ga", "fr", "de", "es", "it", "nl", "pl", "pt", "uk", "ar", "ur", "zh"]

interface Props {
  item: number
  language: string
  all: CaptionsBrief[]
  current: number | null
  editable: boolean
  onChoose(id: number): void
  onBegun(id: number): void
}

export function Languages({ item, language, all, current, editable, onChoose, onBegun }: Props) {
  const [adding, setAdding] = useState(false)
  return (
    <Stack gap="2">
      <HStack gap="1" flexWrap="wrap" role="group" aria-label={t`Languages`}>
        {all.map((each) => (
          <Act key={each.id} pressed={each.id === current} onPress={() => onChoose(each.id)}>
            {each.sort === "captions" ? each.name : t`${each.name}, ${SORTS[each.sort]}`}
          </Act>
        ))}
        {editable && all.length > 0 && (
          <Button size="xs" variant="ghost" aria-expanded={adding} onClick={() => setAdding(!adding)}>
            <Trans>Another language</Trans>
          </Button>
        )}
      </HStack>
      {editable && (adding || all.length === 0) && (
        <Beginning
          item={item}
          language={all.length ? "" : language}
          onBegun={(id) => {
            setAdding(false)
            onBegun(id)
          }}
        />
      )}
    </Stack>
  )
}

function Beginning({
  item,
  language,
  onBegun,
}: {
  item: number
  language: string
  onBegun(id: number): void
}) {
  const [tag, setTag] = useState(language)
  const [sort, setSort] = useState<CaptionsBrief["sort"]>("captions")
  const [problem, setProblem] = useState("")
  const names = new Intl.DisplayNames("en-GB", { type: "language" })
  const begin = async () => {
    try {
      const params = { path: { item_id: item } }
      const body = { language: tag.trim(), sort, cues: [] }
      const made = await ask(client.POST("/api/items/{item_id}/captions", { params, body }))
      onBegun(made.id)
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  return (
    <chakra.form
      aria-label={t`Begin captions`}
      onSubmit={(event) => {
        event.preventDefault()
        void begin()
      }}
    >
      <HStack gap="3" align="flex-end" flexWrap="wrap">
        <Field.Root w="12rem">
          <Field.Label>
            <Trans>Language of the words</Trans>
          </Field.Label>
          <Input
            size="sm"
            bg="paper"
            borderColor="edge"
            list="caption-languages"
            placeholder={t`as in en or cy`}
            _placeholder={{ color: "quiet" }}
            required
            maxLength={35}
            value={tag}
            onChange={(event) => setTag(event.target.value)}
          />
          <datalist id="caption-languages">
            {KNOWN.map((each) => (
              <option key={each} value={each}>
                {names.of(each)}
              </option>
            ))}
          </datalist>
        </Field.Root>
        <Choice
          label={t`What they are`}
          value={sort}
          options={Object.entries(SORTS)}
          onChoice={(chosen) => setSort(chosen as CaptionsBrief["sort"])}
        />
        <Button type="submit" size="sm">
          <Trans>Begin</Trans>
        </Button>
      </HStack>
      <Text role="alert" fontSize="sm" color="wrong">
        {problem}
      </Text>
    </chakra.form>
  )
}

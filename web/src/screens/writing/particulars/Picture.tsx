import { Button, chakra, Field, Heading, HStack, Stack, Text, Textarea } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useRef, useState } from "react"
import { ask, client, type ItemOut } from "../../../api/client"
import { type Edits, isDrawn, NO_EDITS, type PictureAttrs } from "../../../document/pictures"
import { longestOf } from "../../../document/rules"
import { regionAt } from "../../../editor/regions"
import type { Standing } from "../../../editor/standing"
import { Cutting } from "../../../look/Cutting"
import { Folded } from "../../../look/Folded"
import { Uses } from "../../../look/Uses"
import { kilobytes } from "../../../look/words"
import { Remove, type ShownProps, Words } from "./parts"
import { type SetAttrs, StandingOf } from "./Standing"

/** The particulars of a picture on the sheet. */
export function PictureParticulars({ page, sheet, known, position, node, editable }: ShownProps) {
  const item = known.item(node.attrs.item)
  const [told, setTold] = useState("")
  // What is typed in one go is one step of undo; anything else is a step of its own.
  const begun = useRef(true)
  const set: SetAttrs = (attrs, goesOn = false) => {
    sheet.setShown(position, attrs, goesOn && !begun.current)
    begun.current = !goesOn
    setTold("")
  }
  const alt: string = node.attrs.alt ?? item?.alt ?? ""
  const own = node.attrs.alt !== null && node.attrs.alt !== item?.alt

  const keepForAll = async (body: { alt?: string; edits?: Edits }, here: Record<string, unknown>) => {
    if (!item) return
    try {
      const params = { path: { item_id: item.id } }
      known.add([await ask(client.PATCH("/api/items/{item_id}", { params, body }))])
      set(here)
      setTold(t`Saved in the media library: every page that uses the picture has it.`)
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  const edits: Edits = {
    turn: node.attrs.turn,
    straighten: node.attrs.straighten,
    crop: node.attrs.crop,
    ratio: node.attrs.ratio,
    focus: node.attrs.focus,
  }
  const room = known.room(regionAt(sheet.state.doc, position))
  const edited = Object.values(edits).some((each) => each !== null)

  return (
    <Stack gap="4" pt="1">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        <Trans>This picture</Trans>
      </Heading>
      {item && (
        <HStack gap="3" align="flex-start">
          <chakra.img src={item.thumbnail} alt="" maxW="6rem" maxH="5rem" objectFit="contain" />
          <Text fontSize="sm">
            {item.title}
            <chakra.span display="block" color="quiet">
              <Trans>
                {item.width} × {item.height} pixels, {kilobytes(item.size)}
                {item.credit && `, ${item.credit}`}
              </Trans>
            </chakra.span>
          </Text>
        </HStack>
      )}
      <Field.Root disabled={!editable || node.attrs.decorative}>
        <Field.Label>
          <Trans>Alt text</Trans>
        </Field.Label>
        <Textarea
          value={alt}
          rows={3}
          maxLength={longestOf("picture", "alt")}
          bg="paper"
          borderColor="edge"
          placeholder={t`What does it show that the text does not say?`}
          _placeholder={{ color: "quiet" }}
          onFocus={() => {
            begun.current = true
          }}
          onChange={(event) => set({ alt: event.target.value || null }, true)}
        />
        <Field.HelperText color="quiet">{altHelp(item, own)}</Field.HelperText>
      </Field.Root>
      {own && editable && !node.attrs.decorative && (
        <Button
          size="xs"
          variant="outline"
          alignSelf="flex-start"
          onClick={() => keepForAll({ alt }, { alt: null })}
        >
          {item?.alt
            ? t`Save these words in the library too`
            : t`The library has none: save these words there too`}
        </Button>
      )}
      <chakra.label display="flex" gap="2" alignItems="baseline" fontSize="sm">
        <Trans>
          <input
            type="checkbox"
            checked={node.attrs.decorative}
            disabled={!editable}
            onChange={(event) => set({ decorative: event.target.checked })}
          />
          Decorative: it says nothing that a reader would miss
        </Trans>
      </chakra.label>
      <Words
        label={t`Caption`}
        value={node.attrs.caption ?? ""}
        help={t`Stands below the picture for everybody; the alt text is for who cannot see it.`}
        maxLength={longestOf("picture", "caption")}
        disabled={!editable}
        onWords={(words, goesOn) => {
          begun.current = !goesOn
          set({ caption: words || null }, true)
        }}
      />
      {item && editable && (
        <StandingOf
          kind="picture"
          item={item}
          attrs={node.attrs as PictureAttrs}
          given={node.attrs as Standing}
          set={set}
          of={room}
        />
      )}
      {item && editable && !isDrawn(item) && (
        <Folded label={t`Crop, turn, straighten`} open={edited}>
          <Cutting
            item={item}
            edits={edits}
            own={{ ...NO_EDITS, ...item.edits }}
            onEdits={(part, goesOn) => set(part, goesOn)}
          >
            {edited && (
              <Button
                size="xs"
                variant="outline"
                alignSelf="flex-start"
                onClick={() =>
                  keepForAll({ edits: { ...NO_EDITS, ...item.edits, ...defined(edits) } }, { ...NO_EDITS })
                }
              >
                <Trans>Use this crop wherever the picture is used</Trans>
              </Button>
            )}
          </Cutting>
        </Folded>
      )}
      {editable && <Remove sheet={sheet} position={position} node={node} />}
      <Uses item={node.attrs.item} here={page.id} />
      <Text role="status" fontSize="sm">
        {told}
      </Text>
    </Stack>
  )
}

const defined = (edits: Edits) =>
  Object.fromEntries(Object.entries(edits).filter(([, each]) => each !== null)) as Partial<Edits>

function altHelp(item: ItemOut | undefined, own: boolean): string {
  if (own) return t`Worded for this page.`
  const from = item?.alt ? t`From the media library` : t`The media library has none`
  return t`${from}; what you write here is for this page.`
}

import { Button, chakra, Field, Heading, Stack, Text, Textarea } from "@chakra-ui/react"
import type { Node } from "prosemirror-model"
import { NodeSelection } from "prosemirror-state"
import { useRef, useState } from "react"
import { ask, client } from "../../../api/client"
import type { Known } from "../../../editor/known"
import type { Sheet } from "../../../editor/sheet"
import { Uses } from "../../../look/Uses"
import { kilobytes } from "../../../look/words"
import { Words } from "./parts"

interface Props {
  /** The number of the page being written. */
  page: number
  sheet: Sheet
  known: Known
  position: number
  node: Node
  editable: boolean
}

/** The particulars of a picture on the sheet. */
export function PictureParticulars({ page, sheet, known, position, node, editable }: Props) {
  const item = known.item(node.attrs.item)
  const [told, setTold] = useState("")
  // What is typed in one go is one step of undo; anything else is a step of its own.
  const begun = useRef(true)
  const set = (attrs: Record<string, unknown>, goesOn = false) => {
    const tr = sheet.state.tr.setNodeMarkup(position, null, { ...node.attrs, ...attrs })
    tr.setSelection(NodeSelection.create(tr.doc, position))
    if (goesOn && !begun.current) sheet.dispatch(tr)
    else sheet.step(tr)
    begun.current = !goesOn
    setTold("")
  }
  const alt: string = node.attrs.alt ?? item?.alt ?? ""
  const own = node.attrs.alt !== null && node.attrs.alt !== item?.alt

  const keepForAll = async () => {
    if (!item) return
    try {
      const params = { path: { item_id: item.id } }
      known.add([await ask(client.PATCH("/api/items/{item_id}", { params, body: { alt } }))])
      set({ alt: null })
      setTold("Kept in the media library.")
    } catch (error) {
      setTold((error as Error).message)
    }
  }

  return (
    <Stack gap="4" pt="1">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        This picture
      </Heading>
      {item && (
        <>
          <chakra.img src={item.thumbnail} alt="" maxH="9rem" objectFit="contain" alignSelf="flex-start" />
          <Text fontSize="sm">
            {item.title}
            <chakra.span display="block" color="quiet">
              {item.width} × {item.height} pixels, {kilobytes(item.size)}
            </chakra.span>
          </Text>
        </>
      )}
      <Field.Root disabled={!editable || node.attrs.decorative}>
        <Field.Label>Alt text</Field.Label>
        <Textarea
          value={alt}
          rows={4}
          maxLength={1000}
          bg="paper"
          borderColor="edge"
          placeholder="What does it show that the text does not say?"
          _placeholder={{ color: "quiet" }}
          onFocus={() => {
            begun.current = true
          }}
          onChange={(event) => set({ alt: event.target.value || null }, true)}
        />
        <Field.HelperText color="quiet">
          {own
            ? "Worded for this page."
            : `${item?.alt ? "From the media library" : "The media library has none"}; what you write here is for this page.`}
        </Field.HelperText>
      </Field.Root>
      {own && editable && !node.attrs.decorative && (
        <Button size="xs" variant="outline" alignSelf="flex-start" onClick={keepForAll}>
          Keep these words in the library too
        </Button>
      )}
      <Words
        label="Caption"
        value={node.attrs.caption ?? ""}
        help="Stands below the picture for everybody; the alt text is for who cannot see it."
        maxLength={1000}
        disabled={!editable}
        onWords={(words, goesOn) => {
          begun.current = !goesOn
          set({ caption: words || null }, true)
        }}
      />
      <chakra.label display="flex" gap="2" alignItems="baseline" fontSize="sm">
        <input
          type="checkbox"
          checked={node.attrs.decorative}
          disabled={!editable}
          onChange={(event) => set({ decorative: event.target.checked })}
        />
        Decorative: it says nothing that a reader would miss
      </chakra.label>
      {editable && (
        <Button
          size="xs"
          variant="outline"
          alignSelf="flex-start"
          onClick={() => {
            sheet.step(sheet.state.tr.delete(position, position + node.nodeSize))
            sheet.focus()
          }}
        >
          Take it off the page
        </Button>
      )}
      <Uses item={node.attrs.item} here={page} />
      <Text role="status" fontSize="sm">
        {told}
      </Text>
    </Stack>
  )
}

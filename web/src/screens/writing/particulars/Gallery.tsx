import { Button, chakra, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQueryClient } from "@tanstack/react-query"
import { useState } from "react"
import { after, forget } from "../../../api/answers"
import { ask, client, type ItemOut } from "../../../api/client"
import { longestOf } from "../../../document/rules"
import { kinds } from "../../../editor/commands"
import { schema, textOf } from "../../../editor/schema"
import { Folded } from "../../../look/Folded"
import { say } from "../../../look/heard"
import { AltOf } from "./AltOf"
import { Pictures } from "./covers"
import { Entry, EntryWords, useEntries, useFew } from "./entries"
import { OneOf, Remove, Section, type ShownProps, Words } from "./parts"
import { useKnown } from "./useKnown"

const FORMS = { tiles: t`Even tiles`, wall: t`A wall of rows` } as const
const SIZES = { small: t`Small`, medium: t`Medium`, large: t`Large` } as const
const RATIOS = ["1:1", "4:3", "3:2", "2:3"] as const

/** The particulars of a gallery: its pictures in their order, what is said of each, and how they stand. */
export function GalleryParticulars({ page, sheet, known, position, node, editable }: ShownProps) {
  useKnown(known)
  const { entries, pressed, put, withEntries, change, move, takeOut, set } = useEntries(sheet, position, node)
  const { few, more } = useFew(entries, pressed)
  const add = (item: ItemOut) => {
    known.add([item])
    put(withEntries([...entries, kinds.picture.create({ item: item.id })]))
    say(t`Put into the gallery: ${item.title}`)
  }
  return (
    <Section title={t`This gallery`}>
      <Words
        label={t`Title`}
        value={node.attrs.title ?? ""}
        help={t`Stands above the pictures.`}
        maxLength={longestOf("gallery", "title")}
        disabled={!editable}
        onWords={(words) => set({ title: words || null }, "title")}
      />
      {editable && (
        <OneOf
          label={t`How they stand`}
          ways={Object.entries(FORMS)}
          value={node.attrs.form}
          onValue={(form) => set({ form })}
        />
      )}
      {editable && (
        <OneOf
          label={t`Size`}
          ways={Object.entries(SIZES)}
          value={node.attrs.size}
          onValue={(size) => set({ size })}
        />
      )}
      {editable && node.attrs.form === "tiles" && (
        <OneOf
          label={t`Proportion of the tiles`}
          ways={RATIOS.map((ratio) => [ratio, ratio] as const)}
          value={node.attrs.ratio}
          onValue={(ratio) => set({ ratio })}
        />
      )}
      <chakra.ol listStyleType="none" aria-label={t`Pictures of the gallery`}>
        {few.map((each, index) => {
          const item = known.item(each.attrs.item)
          const place = index + 1
          return (
            <Entry
              // biome-ignore lint/suspicious/noArrayIndexKey: one picture may stand in a gallery twice
              key={index}
              index={index}
              pressed={pressed}
              count={entries.length}
              what={t`picture ${place}`}
              name={item?.title ?? t`A picture that is gone`}
              told={item ? undefined : t`The library does not have it any more.`}
              gone={!item}
              picture={item?.thumbnail}
              editable={editable}
              onMove={(to) => move(index, to)}
              onDropOf={(from) => move(from, index)}
              onTakeOut={() => takeOut(index)}
            >
              <AltOf
                label={t`Alt text of picture ${place}`}
                attrs={each.attrs}
                item={item}
                editable={editable}
                onSet={(attrs, field) => change(index, attrs, field)}
              />
              <EntryWords
                label={t`Caption of picture ${place}`}
                above={t`Caption`}
                placeholder={t`a caption below it`}
                value={each.attrs.caption}
                maxLength={longestOf("picture", "caption")}
                disabled={!editable}
                onWords={(caption) => change(index, { caption }, "caption")}
              />
            </Entry>
          )
        })}
      </chakra.ol>
      {more}
      {editable && (
        <Folded label={t`More pictures`}>
          <Pictures site={page.site.id} label={t`Find a picture for the gallery`} onPicture={add} />
        </Folded>
      )}
      {editable && entries.length > 0 && <Album page={page} sheet={sheet} position={position} node={node} />}
      {editable && <Remove sheet={sheet} position={position} node={node} />}
    </Section>
  )
}

/** Moves the gallery to a page of its own below this one, and leaves a link to it. */
function Album({ page, sheet, position, node }: Pick<ShownProps, "page" | "sheet" | "position" | "node">) {
  const [told, setTold] = useState("")
  const queries = useQueryClient()
  const make = async () => {
    const title: string = node.attrs.title || t`Pictures: ${page.working_copy.title}`
    setTold(t`Making the page …`)
    try {
      const path = { site_id: page.site.id }
      const made = await ask(
        client.POST("/api/sites/{site_id}/pages", { params: { path }, body: { title, parent: page.id } }),
      )
      const main = kinds.region.create({ name: "main" }, [
        node.type.create({ ...node.attrs, title: null }, node.content),
      ])
      const { document } = textOf(schema.topNodeType.create(null, [main]))
      await ask(
        client.PUT("/api/pages/{page_id}/working-copy", {
          params: { path: { page_id: made.id } },
          body: { title, description: "", document, base: made.working_copy.revision },
        }),
      )
      const link = kinds.call_to_action.create(
        { href: `page:${made.id}`, emphasis: "quiet" },
        schema.text(title),
      )
      const found = sheet.state.doc.nodeAt(position)
      if (found?.eq(node)) sheet.step(sheet.state.tr.replaceWith(position, position + node.nodeSize, link))
      await forget(queries, after.pages(page.site.id))
      say(
        t`“${title}” is a page of its own now, below this one; publish it too. Undo brings the gallery back here.`,
      )
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  return (
    <Stack gap="1">
      <Button size="xs" variant="outline" alignSelf="flex-start" onClick={() => void make()}>
        <Trans>Make it an album: a page of its own, linked from here</Trans>
      </Button>
      <Text role="status" fontSize="xs" color="quiet">
        {told}
      </Text>
    </Stack>
  )
}

import { chakra } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { longestOf } from "../../../document/rules"
import { kinds } from "../../../editor/commands"
import { Entry, EntryWords, useEntries, useFew } from "./entries"
import { LeadsTo } from "./LeadsTo"
import { Remove, Section, type ShownProps, Words } from "./parts"
import { useKnown } from "./useKnown"

/** The particulars of a list of pages to read next: the pages in their order, and why each. */
export function ReadNextParticulars({ page, sheet, known, position, node, editable }: ShownProps) {
  useKnown(known)
  const { entries, pressed, put, withEntries, change, move, takeOut, set } = useEntries(sheet, position, node)
  const { few, more } = useFew(entries, pressed)
  const titleOf = (href: string | null) => {
    const number = /^page:(\d+)/.exec(href ?? "")?.[1]
    return number ? known.page(Number(number))?.title : href
  }
  return (
    <Section title={t`Read next`}>
      <Words
        label={t`Title`}
        value={node.attrs.title ?? ""}
        placeholder={t`Read next`}
        help={t`Stands above the list.`}
        maxLength={longestOf("read_next", "title")}
        disabled={!editable}
        onWords={(words) => set({ title: words || null }, "title")}
      />
      <chakra.ol listStyleType="none" aria-label={t`Pages to read next`}>
        {few.map((each, index) => {
          const place = index + 1
          const title = titleOf(each.attrs.href)
          return (
            <Entry
              // biome-ignore lint/suspicious/noArrayIndexKey: one page may stand in a list twice
              key={index}
              index={index}
              pressed={pressed}
              count={entries.length}
              what={t`page ${place}`}
              name={each.attrs.words || title || t`A page that is gone`}
              told={each.attrs.href ? undefined : t`It leads nowhere yet.`}
              gone={!title}
              editable={editable}
              onMove={(to) => move(index, to)}
              onDropOf={(from) => move(from, index)}
              onTakeOut={() => takeOut(index)}
            >
              <EntryWords
                label={t`Words of page ${place}`}
                above={t`Words`}
                placeholder={title ? t`as the page is called` : undefined}
                value={each.attrs.words}
                maxLength={longestOf("further", "words")}
                disabled={!editable}
                onWords={(words) => change(index, { words }, "words")}
              />
              <EntryWords
                label={t`Why to read page ${place}`}
                above={t`Why`}
                placeholder={t`a line below it`}
                value={each.attrs.why}
                maxLength={longestOf("further", "why")}
                disabled={!editable}
                onWords={(why) => change(index, { why }, "why")}
              />
            </Entry>
          )
        })}
      </chakra.ol>
      {more}
      {editable && (
        <LeadsTo
          key={entries.length}
          label={t`Another page to read next`}
          href={null}
          site={page.site.id}
          known={known}
          editable
          onHref={(href) => href && put(withEntries([...entries, kinds.further.create({ href })]))}
        />
      )}
      {editable && <Remove sheet={sheet} position={position} node={node} />}
    </Section>
  )
}

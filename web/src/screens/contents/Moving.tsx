/** Pages on their way to another place: where the line stands, what follows, and putting them there. */
import { Heading, HStack, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { sitesAsked } from "../../api/answers"
import type { ContentsEntry } from "../../api/client"
import { Act } from "../../look/Act"
import { Choice } from "../../look/Choice"
import { Consequences, Deciding } from "./Consequences"
import { isStaying, sameTarget, type Target } from "./slots"
import { placeInWords } from "./Tree"
import { type Arranging, useConsequences } from "./useArranging"

interface Props {
  arranging: Arranging
  pages: number[]
  target: Target
  /** The site whose tree is shown, and its pages as far as they are here. */
  site: number
  known: readonly ContentsEntry[]
  current: ContentsEntry | null
}

export function Moving({ arranging, pages, target, site, known, current }: Props) {
  const { setMode, place, wrong } = arranging
  const sites = useQuery(sitesAsked)
  const others = (sites.data ?? []).filter((each) => each.may_write)
  const possible = !isStaying(target, pages)
  const told = useConsequences(possible ? { pages, act: "place", place: target } : null)
  const aim = (next: Target) => setMode({ mode: "moving", pages, target: next })
  const title = pages.length === 1 && known.find(({ id }) => id === pages[0])?.title
  const places: [string, Target][] =
    current && !pages.includes(current.id)
      ? [
          [t`under “${current.title}”`, { site, parent: current.id }],
          [t`before it`, { site, parent: current.parent, before: current.id }],
          [t`after it`, { site, parent: current.parent, after: current.id }],
        ]
      : []
  return (
    <Stack as="section" aria-label={t`Move`} gap="4">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        {title ? t`Move “${title}”` : plural(pages.length, { one: "Move this page", other: "Move # pages" })}
      </Heading>
      <Text fontSize="sm" color="quiet">
        <Trans>
          The arrow keys move the line in the Contents, Enter puts it there, Escape leaves all as it is. Or
          choose a page there:
        </Trans>
      </Text>
      {target.site === site && (
        <HStack gap="1" flexWrap="wrap" role="group" aria-label={t`Place`}>
          {[...places, [t`at the top, as the last`, { site, parent: null }] as [string, Target]].map(
            ([name, each]) => (
              <Act key={name} pressed={sameTarget(each, target)} onPress={() => aim(each)}>
                {name}
              </Act>
            ),
          )}
        </HStack>
      )}
      {others.length > 1 && (
        <Choice
          label={t`Site`}
          value={String(target.site)}
          options={others.map((each) => [String(each.id), each.name])}
          onChoice={(chosen) => aim({ site: Number(chosen), parent: null })}
        />
      )}
      <Text fontWeight="600">
        {!possible
          ? t`Where it stands now`
          : target.site === site
            ? t`To: ${placeInWords(target, known)}`
            : t`To: the top of the other site, as the last`}
      </Text>
      <Consequences {...told} />
      <Deciding
        act={t`Put it there`}
        disabled={Boolean(told.wrong) || !possible}
        wrong={wrong}
        onAct={() => void place(pages, target)}
        onLeave={() => setMode({ mode: "facts" })}
      />
    </Stack>
  )
}

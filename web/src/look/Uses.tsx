import { chakra, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { answers } from "../api/answers"
import { ask, client, type ItemUse } from "../api/client"
import { To } from "./Top"

const sentence = (count: number) =>
  plural(count, {
    0: "It is used on no page.",
    one: "It is used on # page:",
    other: "It is used on # pages:",
  })

const besides = (count: number) =>
  plural(count, {
    0: "It is used on no other page.",
    one: "It is used on # other page:",
    other: "It is used on # other pages:",
  })

interface Props {
  item: number
  /** The page that is being written, which needs not be told. */
  here: number | null
  /** On how many pages it is used in all, those among them that the person may not see. */
  inAll?: number
}

/** The pages that use an item, of every site: what is said of it in the library, they say. */
export function Uses({ item, here, inAll = 0 }: Props) {
  const uses = useQuery({
    queryKey: answers.uses(item),
    queryFn: () => ask(client.GET("/api/items/{item_id}/uses", { params: { path: { item_id: item } } })),
    staleTime: 0,
  })
  const others = uses.data?.filter(({ page }) => page.id !== here)
  if (!others) return null
  return (
    <Stack
      as="section"
      aria-label={here === null ? t`Where it is used` : t`Where else it is used`}
      gap="1"
      fontSize="sm"
    >
      <Text color="quiet">{here === null ? sentence(others.length) : besides(others.length)}</Text>
      <UseList uses={others} />
      {uses.data && inAll > uses.data.length && (
        <Text>
          <Trans>
            {uses.data.length > 0 && t`And `}
            {plural(inAll - uses.data.length, { one: "# page", other: "# pages" })} of sites that you do not
            work on.
          </Trans>
        </Text>
      )}
    </Stack>
  )
}

/** Pages, each with a link to where it is written. */
export function UseList({ uses }: { uses: readonly ItemUse[] }) {
  if (!uses.length) return null
  return (
    <chakra.ul listStyleType="none" maxH="12rem" overflowY="auto" fontSize="sm">
      {uses.map(({ page, working, live }) => (
        <chakra.li key={page.id} py="0.5">
          <To to={`/pages/${page.id}`}>{page.title}</To>
          <chakra.span color="quiet">
            , {page.site}
            {!working && t` (for readers only, until it is published again)`}
            {!live && t` (not for readers yet)`}
          </chakra.span>
        </chakra.li>
      ))}
    </chakra.ul>
  )
}

import { Button, chakra, HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQueryClient } from "@tanstack/react-query"
import { useRef, useState } from "react"
import { after, forget } from "../../../api/answers"
import { ask, client, type ItemOut } from "../../../api/client"
import { longestOf } from "../../../document/rules"
import type { Known } from "../../../editor/known"
import { Tick } from "../../../look/Tick"
import { Uses } from "../../../look/Uses"
import { Remove, Section, type ShownProps, Words } from "./parts"
import { useKnown } from "./useKnown"

/** The particulars of a post of a network. */
export function PostParticulars({ page, sheet, known, position, node, editable }: ShownProps) {
  useKnown(known)
  const { attrs } = node
  const item = known.item(attrs.item)
  const begun = useRef("")
  const set = (given: Record<string, unknown>, field = "") => {
    sheet.setShown(position, given, field !== "" && field === begun.current)
    begun.current = field
  }
  const shown = (attrs.pictures ?? "").split(" ").filter(Boolean).map(Number)
  return (
    <Section title={t`This post`}>
      {item?.post && (
        <Stack gap="1" fontSize="sm">
          <Text wordBreak="break-word">{item.post.told}</Text>
          {item.post.gone && <Text color="wrong">{item.post.gone}</Text>}
          <chakra.a
            href={item.post.address}
            color="press.fg"
            textDecoration="underline"
            target="_blank"
            rel="noopener noreferrer"
          >
            <Trans>Look at it there, in a new window</Trans>
          </chakra.a>
          <Text color="quiet">
            <Trans>
              Its words stay as they were read. The network is asked for nothing before a reader presses.
            </Trans>
          </Text>
        </Stack>
      )}
      {item?.post && editable && <AskAgain item={item} known={known} />}
      {item?.post?.pictures.map((number) => {
        const picture = known.item(number)
        return (
          picture && (
            <HStack key={number} gap="2" align="flex-start">
              <chakra.img src={picture.thumbnail} alt="" w="3.6rem" h="2.7rem" objectFit="cover" />
              <Stack gap="0">
                <Tick
                  checked={shown.includes(number)}
                  onChange={(on) => {
                    const next = item.post?.pictures.filter((each) =>
                      each === number ? on : shown.includes(each),
                    )
                    set({ pictures: next?.join(" ") || null })
                  }}
                >
                  <Trans>Show this picture of it</Trans>
                </Tick>
                {!picture.alt && !picture.decorative && (
                  <Text fontSize="xs" color="wrong">
                    <Trans>It has no alt text; write it in the media library.</Trans>
                  </Text>
                )}
              </Stack>
            </HStack>
          )
        )
      })}
      <Words
        label={t`Caption`}
        value={attrs.caption ?? ""}
        help={t`Stands below the post.`}
        maxLength={longestOf("post", "caption")}
        disabled={!editable}
        onWords={(words) => set({ caption: words || null }, "caption")}
      />
      {editable && <Remove sheet={sheet} position={position} node={node} />}
      <Uses item={attrs.item} here={page.id} />
    </Section>
  )
}

/** Asks the network whether the post is still there. */
function AskAgain({ item, known }: { item: ItemOut; known: Known }) {
  const [told, setTold] = useState("")
  const queries = useQueryClient()
  const run = async () => {
    setTold(t`Asking …`)
    try {
      const params = { path: { item_id: item.id } }
      known.add([await ask(client.POST("/api/items/{item_id}/ask", { params }))])
      setTold(t`The network was asked just now.`)
      await forget(queries, after.library)
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  return (
    <HStack gap="2">
      <Button size="xs" variant="outline" onClick={() => void run()}>
        <Trans>Ask the network again</Trans>
      </Button>
      <Text role="status" fontSize="xs">
        {told}
      </Text>
    </HStack>
  )
}

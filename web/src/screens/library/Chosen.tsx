/** Many items chosen: what may be done to all of them at once. */

import { Button, Field, Heading, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { type FormEvent, useState } from "react"
import { answers } from "../../api/answers"
import { ask, client, type FolderOut } from "../../api/client"
import { Act } from "../../look/Act"
import { Choice } from "../../look/Choice"
import { pick } from "../../look/picked"
import { UseList } from "../../look/Uses"
import { folderChoices } from "./Folders"
import type { Acts } from "./useActs"

interface Props {
  numbers: number[]
  folders: FolderOut[]
  acts: Acts
  bin: boolean
  mayArrange: boolean
  mayKeep: boolean
  onDone(): void
}

export function ChosenItems({ numbers, folders, acts, bin, mayArrange, mayKeep, onDone }: Props) {
  const [tag, setTag] = useState("")
  const count = plural(numbers.length, { one: "# item", other: "# items" })
  const act = { items: numbers, words: [], without: [] }
  const tagged = async (event: FormEvent) => {
    event.preventDefault()
    const words = tag
      .split(",")
      .map((each) => each.trim())
      .filter(Boolean)
    if (words.length && (await acts.items({ ...act, act: "tag", words }))) setTag("")
  }
  return (
    <Stack as="section" aria-label={t`What is chosen`} gap="4">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        <Trans>{count} chosen</Trans>
      </Heading>
      <Button size="xs" variant="ghost" alignSelf="flex-start" onClick={onDone}>
        <Trans>Clear the selection</Trans>
      </Button>
      {!bin && <ForPage numbers={numbers} />}
      {!bin && mayArrange && (
        <Choice
          label={t`Move to`}
          value=""
          options={[["", t`a folder …`], ...folderChoices(folders, t`no folder`)]}
          onChoice={(folder) =>
            folder && void acts.items({ ...act, act: "move", folder: Number(folder) || null })
          }
        />
      )}
      {!bin && (
        <>
          <form aria-label={t`Tags`} onSubmit={tagged}>
            <Field.Root>
              <Field.Label>
                <Trans>Tags to add</Trans>
              </Field.Label>
              <HStack w="full">
                <Input
                  size="sm"
                  value={tag}
                  bg="paper"
                  borderColor="edge"
                  placeholder={t`locks, winter`}
                  _placeholder={{ color: "quiet" }}
                  onChange={(event) => setTag(event.target.value)}
                />
                <Button type="submit" size="sm" variant="outline">
                  <Trans>Add</Trans>
                </Button>
              </HStack>
            </Field.Root>
          </form>
          <Said onSay={(say) => acts.items({ ...act, act: "describe", say })} />
        </>
      )}
      {mayArrange && <Removing numbers={numbers} acts={acts} bin={bin} mayKeep={mayKeep} onDone={onDone} />}
    </Stack>
  )
}

/** Keeps what is chosen for a page: its Shelf offers it there as a list, a gallery or a slideshow. */
function ForPage({ numbers }: { numbers: number[] }) {
  const [told, setTold] = useState(false)
  return (
    <Stack gap="1">
      <Button
        size="sm"
        variant="outline"
        alignSelf="flex-start"
        onClick={() => {
          pick(numbers)
          setTold(true)
        }}
      >
        <Trans>Take them along to a page</Trans>
      </Button>
      <Text role="status" fontSize="xs" color="quiet">
        {told
          ? t`Open a page: its Shelf offers documents among them as a list of downloads, pictures as a gallery or a slideshow.`
          : ""}
      </Text>
    </Stack>
  )
}

const FACTS = [
  ["credit", t`Credit`],
  ["licence", t`Licence`],
  ["language", t`Language, as in en or cy`],
] as const

/** Facts to be said of all of them; those left empty stay as they are. */
function Said({ onSay }: { onSay(say: Record<string, string>): Promise<boolean> }) {
  return (
    <form
      aria-label={t`Facts of all of them`}
      onSubmit={(event) => {
        event.preventDefault()
        const form = event.currentTarget
        const given = [...new FormData(form)].map(([name, value]) => [name, String(value).trim()])
        const say = Object.fromEntries(given.filter(([, value]) => value))
        if (Object.keys(say).length) void onSay(say).then((done) => done && form.reset())
      }}
    >
      <Stack gap="2">
        {FACTS.map(([name, label]) => (
          <Field.Root key={name}>
            <Field.Label>{label}</Field.Label>
            <Input size="sm" name={name} maxLength={200} bg="paper" borderColor="edge" />
          </Field.Root>
        ))}
        <Text fontSize="xs" color="quiet">
          <Trans>What is left empty stays as it is.</Trans>
        </Text>
        <Button type="submit" size="sm" variant="outline" alignSelf="flex-start">
          <Trans>Save for all of them</Trans>
        </Button>
      </Stack>
    </form>
  )
}

interface RemovingProps {
  numbers: number[]
  acts: Acts
  bin: boolean
  mayKeep: boolean
  onDone(): void
}

/** Into the bin, with the pages shown that use it; out of it; or away for good. */
export function Removing({ numbers, acts, bin, mayKeep, onDone }: RemovingProps) {
  const [asked, setAsked] = useState(false)
  const uses = useQuery({
    queryKey: answers.usesOfMany(numbers),
    queryFn: () => ask(client.POST("/api/library/uses", { body: { items: numbers } })),
    enabled: asked,
    staleTime: 0,
  })
  const act = { items: numbers, words: [], without: [] }
  const done = (ran: boolean) => ran && onDone()
  if (!asked)
    return (
      <HStack gap="1" flexWrap="wrap">
        {bin && (
          <Act onPress={() => void acts.items({ ...act, act: "restore" }).then(done)}>
            <Trans>Restore from the bin</Trans>
          </Act>
        )}
        {(!bin || mayKeep) && (
          <Act onPress={() => setAsked(true)}>{bin ? t`Remove for good …` : t`Put into the bin …`}</Act>
        )}
      </HStack>
    )
  const found = uses.data ?? []
  return (
    <Stack
      as="section"
      aria-label={bin ? t`Before it is removed` : t`Before it goes into the bin`}
      gap="2"
      p="3"
      borderWidth="1px"
      borderColor="edge"
    >
      <Text fontSize="sm">
        {uses.isPending
          ? t`Looking for the pages that use it …`
          : found.length === 0
            ? t`No page uses it.`
            : bin
              ? t`These pages use it. While one of them is live with it, it cannot be removed:`
              : t`These pages use it. Live pages go on showing it until they are published without it:`}
      </Text>
      <UseList uses={found} />
      <HStack gap="1" flexWrap="wrap">
        <Act
          disabled={uses.isPending}
          onPress={() =>
            void (
              bin
                ? acts.run(async () => {
                    const { total } = await ask(
                      client.POST("/api/library/remove", { body: { items: numbers } }),
                    )
                    return {
                      id: 0,
                      changed: 0,
                      sentence: plural(total, {
                        one: "# item removed for good",
                        other: "# items removed for good",
                      }),
                    }
                  })
                : acts.items({ ...act, act: "bin" })
            ).then(done)
          }
        >
          {bin ? t`Remove for good; there is no way back` : t`Put into the bin`}
        </Act>
        <Act onPress={() => setAsked(false)}>
          <Trans>Cancel</Trans>
        </Act>
      </HStack>
    </Stack>
  )
}

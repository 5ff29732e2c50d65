/** A new page, or an entry that leads elsewhere: its title, and its place, which the tree shows before it is made. */
import { Button, chakra, Field, Heading, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { type FormEvent, useState } from "react"
import { useNavigate } from "react-router"
import { ask, type ContentsEntry, client } from "../../api/client"
import { Act } from "../../look/Act"
import type { Target } from "./slots"
import { sameTarget } from "./slots"
import type { Arranging } from "./useArranging"

interface Props {
  arranging: Arranging
  target: Target
  /** The page that the place is chosen by. */
  current: ContentsEntry | null
}

export function NewPage({ arranging, target, current }: Props) {
  const { setMode, run, wrong } = arranging
  const [link, setLink] = useState(false)
  const navigate = useNavigate()
  const add = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    const said = (name: string) => String(form.get(name) ?? "").trim()
    const body = {
      title: said("title"),
      parent: target.parent,
      after: target.after ?? null,
      before: target.before ?? null,
      slug: said("slug") || null,
      elsewhere: link ? said("elsewhere") : null,
    }
    const params = { path: { site_id: target.site } }
    const made = await run(
      () => ask(client.POST("/api/sites/{site_id}/pages", { params, body })),
      (page) => t`“${page.working_copy.title}” added.`,
    )
    if (!made) return
    if (link) setMode({ mode: "facts" })
    else void navigate(`/pages/${made.id}`)
  }
  const { site } = target
  const places: [string, Target][] = current
    ? [
        [t`under “${current.title}”`, { site, parent: current.id }],
        [t`before it`, { site, parent: current.parent, before: current.id }],
        [t`after it`, { site, parent: current.parent, after: current.id }],
      ]
    : []
  const possible = places.filter(([, each]) => !(current?.elsewhere && each.parent === current.id))
  return (
    <chakra.form aria-label={t`A new page`} onSubmit={add}>
      <Stack gap="4">
        <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
          <Trans>A new page</Trans>
        </Heading>
        <Stack gap="1" role="group" aria-label={t`Place`}>
          <Text fontSize="sm" fontWeight="600">
            <Trans>Place</Trans>
          </Text>
          <HStack gap="1" flexWrap="wrap">
            {[...possible, [t`at the top, as the last`, { site, parent: null }] as [string, Target]].map(
              ([name, each]) => (
                <Act
                  key={name}
                  pressed={sameTarget(each, target)}
                  onPress={() => setMode({ mode: "new", target: each })}
                >
                  {name}
                </Act>
              ),
            )}
          </HStack>
          <Text fontSize="xs" color="quiet">
            <Trans>A line in the Contents shows it. Another page there gives other places.</Trans>
          </Text>
        </Stack>
        <Stack gap="1" role="group" aria-label={t`Sort of entry`}>
          <HStack gap="1" flexWrap="wrap">
            <Act pressed={!link} onPress={() => setLink(false)}>
              {t`A page`}
            </Act>
            <Act pressed={link} onPress={() => setLink(true)}>
              {t`A link elsewhere`}
            </Act>
          </HStack>
        </Stack>
        <Field.Root required>
          <Field.Label>
            <Trans>Title</Trans>
          </Field.Label>
          <Input name="title" autoFocus bg="paper" borderColor="edge" maxLength={200} />
        </Field.Root>
        {link ? (
          <Field.Root required>
            <Field.Label>
              <Trans>Address elsewhere</Trans>
            </Field.Label>
            <Input name="elsewhere" bg="paper" borderColor="edge" placeholder="https://" maxLength={2000} />
            <Field.HelperText color="quiet">
              <Trans>It stands in the navigation like a page, once it is published.</Trans>
            </Field.HelperText>
          </Field.Root>
        ) : (
          <Field.Root>
            <Field.Label>
              <Trans>Address, if it should not follow the title</Trans>
            </Field.Label>
            <Input name="slug" bg="paper" borderColor="edge" />
          </Field.Root>
        )}
        <HStack gap="3">
          <Button type="submit">{link ? t`Add the link` : t`Add and write`}</Button>
          <Button variant="ghost" onClick={() => setMode({ mode: "facts" })}>
            <Trans>Cancel</Trans>
          </Button>
        </HStack>
        <Text role="alert" color="wrong" minH="1.5em">
          {wrong}
        </Text>
      </Stack>
    </chakra.form>
  )
}

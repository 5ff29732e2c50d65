/** A copy of a page: what would be the same as the original and should not be is asked for. */
import { Button, chakra, Field, Heading, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { type FormEvent, useState } from "react"
import { useNavigate } from "react-router"
import { answers } from "../../api/answers"
import { ask, client } from "../../api/client"
import { longestOf } from "../../document/rules"
import type { Arranging } from "./useArranging"

export function Copying({ arranging, page }: { arranging: Arranging; page: number }) {
  const { setMode, run, wrong } = arranging
  const params = { path: { page_id: page } }
  const proposal = useQuery({
    queryKey: answers.proposal(page),
    queryFn: () => ask(client.GET("/api/pages/{page_id}/duplicate", { params })),
    staleTime: 0,
  })
  const [deep, setDeep] = useState(false)
  const navigate = useNavigate()
  const copy = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    const said = (name: string) => String(form.get(name) ?? "").trim()
    const body = { title: said("title"), label: said("label") || null, slug: said("slug") || null, deep }
    const made = await run(
      () => ask(client.POST("/api/pages/{page_id}/duplicate", { params, body })),
      ({ act }) => act,
    )
    if (!made) return
    if (deep) setMode({ mode: "facts" })
    else void navigate(`/pages/${made.page}`)
  }
  const offered = proposal.data
  return (
    <chakra.form aria-label={t`Duplicate`} onSubmit={copy}>
      <Stack gap="4">
        <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
          <Trans>Duplicate this page</Trans>
        </Heading>
        {offered && (
          <>
            <Field.Root required>
              <Field.Label>
                <Trans>Title of the copy</Trans>
              </Field.Label>
              <Input
                name="title"
                autoFocus
                defaultValue={offered.title}
                onFocus={(event) => event.target.select()}
                bg="paper"
                borderColor="edge"
                maxLength={200}
              />
            </Field.Root>
            <Field.Root>
              <Field.Label>
                <Trans>Name in the navigation</Trans>
              </Field.Label>
              <Input
                name="label"
                placeholder={t`as the title`}
                _placeholder={{ color: "quiet" }}
                bg="paper"
                borderColor="edge"
                maxLength={longestOf("doc", "label")}
              />
              {offered.label && (
                <Field.HelperText color="quiet">
                  <Trans>The original is called “{offered.label}” there.</Trans>
                </Field.HelperText>
              )}
            </Field.Root>
            <Field.Root>
              <Field.Label>
                <Trans>Address</Trans>
              </Field.Label>
              <Input
                name="slug"
                placeholder={t`as the title`}
                _placeholder={{ color: "quiet" }}
                bg="paper"
                borderColor="edge"
              />
            </Field.Root>
            {offered.below > 0 && (
              <chakra.label fontSize="sm" display="flex" gap="2" alignItems="baseline">
                <input type="checkbox" checked={deep} onChange={(event) => setDeep(event.target.checked)} />
                {plural(offered.below, {
                  one: "with the page that stands under it",
                  other: "with the # pages that stand under it",
                })}
              </chakra.label>
            )}
            <Text fontSize="sm" color="quiet">
              <Trans>
                Readers see nothing of a copy until it is published. The page check finds where it still says
                the original’s name.
              </Trans>
            </Text>
          </>
        )}
        <HStack gap="3">
          <Button type="submit" disabled={!offered}>
            {deep ? t`Duplicate` : t`Duplicate and write`}
          </Button>
          <Button variant="ghost" onClick={() => setMode({ mode: "facts" })}>
            <Trans>Cancel</Trans>
          </Button>
        </HStack>
        <Text role="alert" color="wrong">
          {wrong || proposal.error?.message}
        </Text>
      </Stack>
    </chakra.form>
  )
}

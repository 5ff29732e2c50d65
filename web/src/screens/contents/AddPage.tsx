import { Button, chakra, Field, HStack, Input, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQueryClient } from "@tanstack/react-query"
import { type FormEvent, useState } from "react"
import { useNavigate } from "react-router"
import { after, forget } from "../../api/answers"
import { ask, type ContentsEntry, client, type SiteOut } from "../../api/client"

/** Asks for a title, below the tree; the address follows the title unless one is given. */
export function AddPage(props: { site: SiteOut; parent: ContentsEntry | null; onDone(): void }) {
  const { site, parent } = props
  const [wrong, setWrong] = useState("")
  const navigate = useNavigate()
  const queries = useQueryClient()

  const add = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    const slug = String(form.get("slug")).trim()
    const body = { title: String(form.get("title")), parent: parent?.id ?? null, slug: slug || null }
    try {
      const page = await ask(
        client.POST("/api/sites/{site_id}/pages", { params: { path: { site_id: site.id } }, body }),
      )
      void forget(queries, after.pages(site.id))
      navigate(`/pages/${page.id}`)
    } catch (error) {
      setWrong((error as Error).message)
    }
  }

  return (
    <chakra.form
      aria-label={t`A new page`}
      onSubmit={add}
      mt="5"
      pt="4"
      borderTopWidth="1px"
      borderColor="line"
    >
      <Text mb="3">
        {parent ? t`A new page under “${parent.title}”` : t`A new page at the top of the site`}
      </Text>
      <HStack alignItems="flex-end" gap="3" flexWrap="wrap">
        <Field.Root required w={{ base: "full", sm: "20rem" }}>
          <Field.Label>
            <Trans>Title</Trans>
          </Field.Label>
          <Input name="title" autoFocus bg="paper" borderColor="edge" maxLength={200} />
        </Field.Root>
        <Field.Root w={{ base: "full", sm: "16rem" }}>
          <Field.Label>
            <Trans>Address, if it should not follow the title</Trans>
          </Field.Label>
          <Input name="slug" bg="paper" borderColor="edge" />
        </Field.Root>
        <Button type="submit">
          <Trans>Add and write</Trans>
        </Button>
        <Button variant="ghost" onClick={props.onDone}>
          <Trans>Cancel</Trans>
        </Button>
      </HStack>
      <Text role="alert" color="wrong" mt="2" minH="1.5em">
        {wrong}
      </Text>
    </chakra.form>
  )
}

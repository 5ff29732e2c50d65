import { Button, chakra, HStack, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery, useQueryClient } from "@tanstack/react-query"
import { useState } from "react"
import { after, answers, forget } from "../../api/answers"
import { ask, client, type PageOut, type Version } from "../../api/client"
import { replaceAll } from "../../editor/commands"
import type { Saver } from "../../editor/saver"
import { type PageText, textOf, toEditor } from "../../editor/schema"
import type { Sheet } from "../../editor/sheet"
import { Act } from "../../look/Act"
import { PanelHead } from "../../look/PanelHead"
import { moment } from "../../look/words"
import { Words } from "./particulars/parts"

interface Props {
  page: PageOut
  sheet: Sheet
  saver: Saver
  onClose(): void
  onRead(version: { id: number; name: string } | null): void
}

const REASONS: Record<Version["reason"], string> = {
  published: t`Published`,
  "set aside": t`Set aside, since somebody else had saved`,
  named: t`Kept by name`,
}

const shortly = (at: string) =>
  moment(at, { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" })

const nameOf = (each: Version) =>
  each.note
    ? `“${each.note}”, ${shortly(each.at)}`
    : `${shortly(each.at)}, ${REASONS[each.reason].toLowerCase()}`

/** The way back: the texts this page has had, to read and to put back. Putting one back can be undone. */
export function Versions({ page, sheet, saver, onClose, onRead }: Props) {
  const [name, setName] = useState("")
  const [told, setTold] = useState("")
  const queries = useQueryClient()
  const params = { path: { page_id: page.id } }
  const list = useQuery({
    queryKey: answers.versions(page.id),
    queryFn: () => ask(client.GET("/api/pages/{page_id}/versions", { params })),
    staleTime: 0,
  })
  const editable = sheet.view.editable

  const putBack = (text: PageText | null, what: string) => {
    if (!text) return
    const tr = replaceAll(sheet.state, toEditor(text))
    onRead(null)
    if (!tr.docChanged) {
      setTold(t`The text is just that of ${what}.`)
      return
    }
    sheet.step(tr)
    sheet.focus()
    setTold(t`The text is that of ${what} again. Undo brings back what it was.`)
  }
  const fetched = async (call: Promise<PageText>, what: string) => {
    try {
      putBack(await call, what)
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  const version = (each: Version) =>
    ask(
      client.GET("/api/pages/{page_id}/versions/{version_id}", {
        params: { path: { page_id: page.id, version_id: each.id } },
      }),
    ) as Promise<PageText>
  const live = () => ask(client.GET("/api/pages/{page_id}/live", { params })) as Promise<PageText>
  const keep = async () => {
    try {
      const body = { ...textOf(sheet.state.doc), note: name }
      await ask(client.POST("/api/pages/{page_id}/versions", { params, body }))
      setTold(t`Kept as “${name.trim()}”.`)
      setName("")
      await forget(queries, after.versions(page.id))
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  return (
    <Stack gap="4" pt="1">
      <PanelHead
        title={t`Versions`}
        onClose={() => {
          onRead(null)
          onClose()
        }}
      />
      {editable && (
        <chakra.form
          aria-label={t`Save a version`}
          onSubmit={(event) => {
            event.preventDefault()
            void keep()
          }}
        >
          <Stack gap="2">
            <Words
              label={t`Save the text as it is now`}
              value={name}
              maxLength={200}
              placeholder={t`Before the rewrite`}
              onWords={(words) => setName(words)}
            />
            <Button type="submit" size="xs" variant="outline" alignSelf="flex-start" disabled={!name.trim()}>
              <Trans>Save under this name</Trans>
            </Button>
          </Stack>
        </chakra.form>
      )}
      {editable && (
        <HStack gap="1" flexWrap="wrap" role="group" aria-label={t`Back to`}>
          <Act onPress={() => putBack(textOf(saver.lastSaved), t`the last save`)}>
            <Trans>Back to the last save</Trans>
          </Act>
          <Act onPress={() => putBack(textOf(saver.opened), t`the time you opened it`)}>
            <Trans>Back to how you found it</Trans>
          </Act>
          {saver.get().live && (
            <Act onPress={() => fetched(live(), t`the live copy`)}>
              <Trans>Back to the live copy</Trans>
            </Act>
          )}
        </HStack>
      )}
      <Text role="status" fontSize="sm">
        {told}
      </Text>
      {list.error && (
        <Text fontSize="sm" color="wrong">
          {list.error.message}
        </Text>
      )}
      {list.data?.length === 0 && (
        <Text fontSize="sm" color="quiet">
          <Trans>
            None yet. One is kept each time the page is published, and whenever you keep one under a name.
          </Trans>
        </Text>
      )}
      <chakra.ol listStyleType="none" aria-label={t`Versions, the newest first`}>
        {list.data?.map((each) => (
          <chakra.li key={each.id} py="2" borderTopWidth="1px" borderColor="line">
            <Text fontWeight="600" fontSize="sm">
              {each.note || REASONS[each.reason]}
            </Text>
            <Text fontSize="xs" color="quiet">
              {shortly(each.at)}, {each.by}
              {each.title !== sheet.state.doc.attrs.title && `: “${each.title}”`}
            </Text>
            <HStack gap="1" mt="1">
              <Act onPress={() => onRead({ id: each.id, name: nameOf(each) })}>
                <Trans>Read</Trans>
              </Act>
              {editable && (
                <Act onPress={() => fetched(version(each), t`the version of ${shortly(each.at)}`)}>
                  <Trans>Restore</Trans>
                </Act>
              )}
            </HStack>
          </chakra.li>
        ))}
      </chakra.ol>
    </Stack>
  )
}

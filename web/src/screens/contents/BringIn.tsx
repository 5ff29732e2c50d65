/** Makes pages of files: many at once, a folder, or a ZIP of them. */

import { Box, Button, chakra, Heading, HStack, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQueryClient } from "@tanstack/react-query"
import { useRef, useState } from "react"
import { after, forget } from "../../api/answers"
import { type ContentsEntry, type ImportEnd, importPages, type SiteOut } from "../../api/client"
import { FILES } from "../../document/rules"
import { Choice } from "../../look/Choice"
import { To } from "../../look/Top"
import { useDrop } from "../../look/useDrop"

interface Props {
  site: SiteOut
  /** The page that they may stand under. */
  current: ContentsEntry | null
  onDone(): void
}

type Stage =
  | { stage: "choosing"; problem: string }
  | { stage: "working"; says: string; share: number | null; cancel?: () => void }
  | { stage: "done"; end: ImportEnd }

const ENDINGS = `${FILES.texts},.zip`

export function BringIn({ site, current, onDone }: Props) {
  const [under, setUnder] = useState(false)
  const [now, setNow] = useState<Stage>({ stage: "choosing", problem: "" })
  const queries = useQueryClient()
  const bring = async (files: File[]) => {
    if (!files.length) return
    const stop = new AbortController()
    const cancel = () => stop.abort()
    const working = (says: string, share: number | null, last = false) =>
      setNow({ stage: "working", says, share, cancel: last ? undefined : cancel })
    working(t`Sending the files`, 0)
    try {
      const end = await importPages(site.id, under && current ? current.id : null, files, {
        signal: stop.signal,
        sent: (share) => working(t`Sending the files`, share),
        step: ({ done, of, name }) =>
          done < of
            ? working(t`${done + 1} of ${of}: ${name}`, done / of)
            : working(t`All is read; the pages are being made`, null, true),
      })
      setNow({ stage: "done", end })
    } catch (error) {
      const { name, message } = error as Error
      const cancelled = t`Broken off. No page was made.`
      setNow({ stage: "choosing", problem: name === "AbortError" ? cancelled : message })
    }
    void forget(queries, after.pages(site.id))
  }
  return (
    <Stack
      as="section"
      aria-label={t`Import files`}
      gap="3"
      mt="5"
      pt="4"
      borderTopWidth="1px"
      borderColor="line"
    >
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        <Trans>Import files as pages</Trans>
      </Heading>
      {now.stage === "choosing" && (
        <>
          {current && (
            <Box maxW="24rem">
              <Choice
                label={t`Position`}
                value={under ? "under" : "top"}
                options={[
                  ["top", t`at the top of the site`],
                  ["under", t`under “${current.title}”`],
                ]}
                onChoice={(choice) => setUnder(choice === "under")}
              />
            </Box>
          )}
          <Choose problem={now.problem} onFiles={bring} onDone={onDone} />
        </>
      )}
      {now.stage === "working" && (
        <HStack gap="3" flexWrap="wrap">
          <chakra.progress
            aria-label={t`Files being read`}
            w="14rem"
            {...(now.share === null ? {} : { max: 1, value: now.share })}
          />
          <Text role="status" flex="1 1 12rem" wordBreak="break-word">
            {now.says}
          </Text>
          {now.cancel && (
            <Button size="sm" variant="outline" onClick={now.cancel}>
              <Trans>Cancel</Trans>
            </Button>
          )}
        </HStack>
      )}
      {now.stage === "done" && <Done end={now.end} onDone={onDone} />}
    </Stack>
  )
}

interface ChooseProps {
  problem: string
  onFiles(files: File[]): void
  onDone(): void
}

function Choose({ problem, onFiles, onDone }: ChooseProps) {
  const files = useRef<HTMLInputElement>(null)
  const folder = useRef<HTMLInputElement>(null)
  const { over, takes } = useDrop(onFiles)
  const field = {
    type: "file",
    hidden: true,
    multiple: true,
    onChange: (event: { target: HTMLInputElement }) => onFiles([...(event.target.files ?? [])]),
  }
  return (
    <>
      <Text color="quiet" fontSize="sm" maxW="44rem">
        <Trans>
          DOCX, ODT, Markdown, HTML and text, or a ZIP or a folder of them. Each file becomes a page that is
          not published; in a folder, the page named index, readme or home stands above the others. Pictures
          come along into the media library, and links between the files become links between the pages.
        </Trans>
      </Text>
      <Stack
        gap="3"
        p="4"
        borderWidth="1px"
        borderStyle="dashed"
        borderColor="edge"
        bg={over ? "lit" : undefined}
        {...takes}
      >
        <HStack gap="2" flexWrap="wrap">
          <Button size="sm" autoFocus onClick={() => files.current?.click()}>
            <Trans>Choose files</Trans>
          </Button>
          <Button size="sm" variant="outline" onClick={() => folder.current?.click()}>
            <Trans>Choose a folder</Trans>
          </Button>
          <Button size="sm" variant="ghost" onClick={onDone}>
            <Trans>Cancel</Trans>
          </Button>
        </HStack>
        <Text fontSize="sm">
          <Trans>or drop files here.</Trans>
        </Text>
      </Stack>
      <input ref={files} aria-label={t`Files to import`} accept={ENDINGS} {...field} />
      <input ref={folder} aria-label={t`Folder to import`} {...field} {...{ webkitdirectory: "" }} />
      <Text role="alert" color="wrong" minH="1.5em">
        {problem}
      </Text>
    </>
  )
}

const pages = (count: number) => plural(count, { one: "# page was made", other: "# pages were made" })

function Done({ end, onDone }: { end: ImportEnd; onDone(): void }) {
  return (
    <>
      <Text role="status">
        {pages(end.pages.length)}.
        {end.refused.length > 0 &&
          t` ${plural(end.refused.length, { one: "# file", other: "# files" })} could not be read.`}
      </Text>
      {end.refused.length > 0 && (
        <chakra.ul
          listStyleType="none"
          aria-label={t`Files that could not be read`}
          color="wrong"
          fontSize="sm"
        >
          {end.refused.map(({ name, why }) => (
            <chakra.li key={name} py="1">
              <chakra.strong>{name}</chakra.strong>: {why}
            </chakra.li>
          ))}
        </chakra.ul>
      )}
      <chakra.ul listStyleType="none" aria-label={t`Pages made`} fontSize="sm">
        {end.pages.map(({ id, title, path, told }) => (
          <chakra.li key={id} py="1.5" borderBottomWidth="1px" borderColor="line">
            <To to={`/pages/${id}`}>{title}</To> <chakra.span color="quiet">{path}</chakra.span>
            {told.mended.length + told.dropped.length > 0 && (
              <chakra.details>
                <chakra.summary cursor="pointer" color="quiet">
                  {told.kept.length ? t`Kept ${told.kept.join(", ")}` : t`What was done`}
                </chakra.summary>
                <chakra.ul listStyleType="none" ps="4">
                  {told.mended.map((words) => (
                    <li key={words}>
                      <Trans>Mended: {words}</Trans>
                    </li>
                  ))}
                  {told.dropped.map((words) => (
                    <li key={words}>
                      <Trans>Left out: {words}</Trans>
                    </li>
                  ))}
                </chakra.ul>
              </chakra.details>
            )}
          </chakra.li>
        ))}
      </chakra.ul>
      <Button size="sm" variant="outline" alignSelf="flex-start" onClick={onDone}>
        <Trans>Close</Trans>
      </Button>
    </>
  )
}

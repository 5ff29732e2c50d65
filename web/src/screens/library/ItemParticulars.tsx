import { Button, chakra, Field, Heading, Input, Stack, Text, Textarea } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQueryClient } from "@tanstack/react-query"
import { useCallback, useEffect, useMemo, useRef, useState } from "react"
import { Link } from "react-router"
import { answers } from "../../api/answers"
import { ask, client, type FolderOut, type ItemChange, type ItemEntry, type ItemOut } from "../../api/client"
import { playable } from "../../document/films"
import { type Edits, isDrawn, NO_EDITS } from "../../document/pictures"
import { Choice } from "../../look/Choice"
import { Cutting } from "../../look/Cutting"
import { DocumentFacts } from "../../look/DocumentFacts"
import { Folded } from "../../look/Folded"
import { HostedFacts } from "../../look/HostedFacts"
import { Player } from "../../look/Player"
import { Tick } from "../../look/Tick"
import { Uses } from "../../look/Uses"
import type { Limits } from "../../look/useSending"
import { clock, day, kilobytes } from "../../look/words"
import { Removing } from "./Chosen"
import { folderChoices } from "./Folders"
import { Replacing } from "./Replacing"
import type { Acts } from "./useActs"

const FACTS = [
  ["title", t`Title`, 200, ""],
  ["alt", t`Alt text`, 1000, t`What it shows, for who cannot see it. Each page may word it anew.`],
  ["description", t`Description`, 2000, t`For who looks for it here. Readers do not see it.`],
  ["credit", t`Credit`, 200, t`Whose it is.`],
  ["licence", t`Licence`, 200, t`Under what terms it may be shown.`],
  ["language", t`Language`, 35, t`Of the words in it, as in en or cy.`],
  ["tags", t`Tags`, 400, t`Divided by commas.`],
] as const

const LONG = ["alt", "description"]

interface Props {
  entry: ItemEntry
  folders: FolderOut[]
  acts: Acts
  limits: Limits
  mayArrange: boolean
  mayKeep: boolean
}

/** What the library says of an item, and what may be done to it. */
export function ItemParticulars({ entry, folders, acts, limits, mayArrange, mayKeep }: Props) {
  const { item, added_at, added_by } = entry
  const picture = item.kind === "picture"
  const say = (body: ItemChange) =>
    acts.run(async () => {
      await ask(client.PATCH("/api/items/{item_id}", { params: { path: { item_id: item.id } }, body }))
      return (await ask(client.GET("/api/acts/last"))) ?? null
    })
  return (
    <Stack gap="3">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body" wordBreak="break-word">
        {item.title}
      </Heading>
      {playable(item) ? (
        <Player item={item} most="14rem" />
      ) : (
        item.thumbnail && (
          <chakra.img
            src={item.thumbnail}
            alt=""
            maxH="10rem"
            objectFit="contain"
            objectPosition="left"
            alignSelf="flex-start"
            borderWidth={item.kind === "document" ? "1px" : undefined}
            borderColor="line"
          />
        )
      )}
      {item.hosted && <HostedFacts item={item} />}
      <Text fontSize="sm" color="quiet" display={item.hosted ? "none" : undefined}>
        <Trans>
          {item.format}, {item.width > 0 && t`${item.width} × ${item.height} pixels, `}
          {item.lasts > 0 && t`${clock(item.lasts)} long, `}
          {item.length > 0 && plural(item.length, { one: "# page, ", other: "# pages, " })}
          {kilobytes(item.size)}, added by {added_by} on {day(added_at)}
          {!item.ready && (
            <chakra.span display="block" role="status">
              {makingOf(item)}
            </chakra.span>
          )}
          {item.problem && (
            <chakra.span display="block" color="wrong">
              {item.problem}
            </chakra.span>
          )}
        </Trans>
      </Text>
      {/* What is wrong with a locked one stands above already. */}
      {!(item.problem && item.document?.pdf?.locked) && (
        <DocumentFacts item={item} onTitle={(title) => void say({ title })} />
      )}
      {playable(item) && (
        <Button asChild size="xs" variant="outline" alignSelf="flex-start">
          <Link to={`/films/${item.id}`}>
            <Trans>Captions and transcript</Trans>
          </Link>
        </Button>
      )}
      <Facts item={item} onSay={say} />
      {picture && (
        <Tick checked={item.decorative} onChange={(decorative) => say({ decorative })}>
          <Trans>Decorative: it says nothing that a reader would miss</Trans>
        </Tick>
      )}
      {picture && (
        <Tick checked={item.holds_words} onChange={(holds_words) => say({ holds_words })}>
          <Trans>Holds words that matter</Trans>
        </Tick>
      )}
      {item.hosted && (
        <Tick checked={item.captioned} onChange={(captioned) => say({ captioned })}>
          <Trans>Somebody has seen there that it has captions</Trans>
        </Tick>
      )}
      {mayKeep && (
        <Tick checked={item.restricted} onChange={(restricted) => say({ restricted })}>
          <Trans>For signed-in readers only</Trans>
        </Tick>
      )}
      {mayKeep && item.kind === "document" && (
        <Tick checked={item.leads_on} onChange={(leads_on) => say({ leads_on })}>
          <Trans>Addresses of earlier files lead to the present one; otherwise they are gone</Trans>
        </Tick>
      )}
      {mayArrange && (
        <Choice
          label={t`Folder`}
          value={String(item.folder ?? 0)}
          options={folderChoices(folders, t`no folder`)}
          onChoice={(folder) =>
            void acts.items({
              act: "move",
              items: [item.id],
              folder: Number(folder) || null,
              words: [],
              without: [],
            })
          }
        />
      )}
      {picture && !isDrawn(item) && (
        <Folded label={t`Crop, turn, straighten`}>
          <ItemCutting key={JSON.stringify(item.edits)} entry={entry} onKeep={(edits) => say({ edits })} />
        </Folded>
      )}
      {mayArrange && !item.hosted && (
        <Folded label={t`Replace the file, earlier files`}>
          <Replacing item={item} acts={acts} limits={limits} />
        </Folded>
      )}
      <Uses item={item.id} here={null} inAll={entry.uses} />
      {!item.hosted && (
        <chakra.a
          href={item.address}
          color="press.fg"
          fontSize="sm"
          textDecoration="underline"
          target="_blank"
          rel="noopener"
        >
          <Trans>The file as it came, in a new window</Trans>
        </chakra.a>
      )}
      {mayArrange && (
        <Removing numbers={[item.id]} acts={acts} bin={item.binned} mayKeep={mayKeep} onDone={() => {}} />
      )}
    </Stack>
  )
}

type Said = Record<(typeof FACTS)[number][0], string>

const said = ({ tags, ...item }: ItemOut): Said => ({ ...item, tags: tags.join(", ") })

/** What was written into the form that differs from what stood there. */
function changes(form: FormData, before: Said): Partial<Said> | null {
  const all = FACTS.map(([name]) => [name, form.get(name)] as const)
  const differing = all.filter(([name, now]) => now !== null && now !== before[name])
  return differing.length ? Object.fromEntries(differing) : null
}

/** The same as it is sent; no item is without a title. */
function asChange({ title, tags, ...words }: Partial<Said>): ItemChange {
  const each = tags?.split(",").map((tag) => tag.trim())
  return { ...words, ...(title?.trim() ? { title } : {}), ...(each ? { tags: each.filter(Boolean) } : {}) }
}

/**
 * The words of an item. They are saved by a press and by going elsewhere: nothing that was typed waits there to be
 * forgotten. What cannot be saved stands there when one comes back.
 */
function Facts({ item, onSay }: { item: ItemOut; onSay(change: ItemChange): Promise<boolean> }) {
  const now = useMemo(() => said(item), [item])
  /** What the fields were drawn with; while somebody writes in them, nothing that comes from elsewhere changes them. */
  const [given, setGiven] = useState(now)
  const queries = useQueryClient()
  const written = useRef(queries.getQueryData<Partial<Said>>(answers.unsaved(item.id)) ?? null)
  const [changed, setChanged] = useState(written.current !== null)
  const form = useRef<HTMLFormElement>(null)
  const drawn = { ...given, ...written.current }
  /** Counts how often the fields were drawn anew. */
  const [round, setRound] = useState(0)
  useEffect(() => {
    if (written.current || !form.current) return
    // What stands in them already leaves the focus where it is.
    if (changes(new FormData(form.current), now)) setRound((before) => before + 1)
    setGiven(now)
  }, [now])

  const save = useRef(onSay)
  save.current = onSay
  const keep = useCallback(
    async (change: Partial<Said>) => {
      const queryKey = answers.unsaved(item.id)
      queries.setQueryDefaults(queryKey, { gcTime: Number.POSITIVE_INFINITY })
      queries.setQueryData(queryKey, change)
      const done = await save.current(asChange(change))
      if (done) queries.removeQueries({ queryKey, exact: true })
      return done
    },
    [item.id, queries],
  )
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => written.current && event.preventDefault()
    window.addEventListener("beforeunload", warn)
    return () => {
      window.removeEventListener("beforeunload", warn)
      const { current: change } = written
      if (!change) return
      void keep(change)
    }
  }, [keep])
  const note = () => {
    if (!form.current) return
    written.current = changes(new FormData(form.current), given)
    setChanged(true)
  }
  const submit = () => {
    const { current: change } = written
    if (!change) return setChanged(false)
    written.current = null
    void keep(change).then((done) => {
      if (!done) written.current ??= change
      setChanged(written.current !== null)
    })
  }
  return (
    <chakra.form
      aria-label={t`What the library says of it`}
      ref={form}
      key={round}
      onChange={note}
      onSubmit={(event) => {
        event.preventDefault()
        submit()
      }}
      onBlur={(event) => event.currentTarget.contains(event.relatedTarget) || submit()}
    >
      <Stack gap="3">
        {FACTS.filter(([name]) => name !== "alt" || item.kind === "picture" || item.kind === "animation").map(
          ([name, label, most, help]) => {
            const field = {
              name,
              defaultValue: drawn[name],
              maxLength: most,
              bg: "paper",
              borderColor: "edge",
            }
            return (
              <Field.Root key={name} required={name === "title"} disabled={name === "alt" && item.decorative}>
                <Field.Label>{label}</Field.Label>
                {LONG.includes(name) ? <Textarea {...field} rows={3} /> : <Input {...field} size="sm" />}
                {help && <Field.HelperText color="quiet">{help}</Field.HelperText>}
              </Field.Root>
            )
          },
        )}
        <Button type="submit" size="sm" alignSelf="flex-start" variant={changed ? "solid" : "outline"}>
          <Trans>Save</Trans>
        </Button>
      </Stack>
    </chakra.form>
  )
}

/** What is being done in the background. */
function makingOf({ kind, progress }: ItemOut): string {
  if (kind === "picture") return t`Its files for readers are still being made.`
  if (kind === "document") return t`Its words are still being read.`
  return progress
    ? t`It is being made ready for every browser: ${progress}% done.`
    : t`It waits to be made ready for every browser.`
}

/** What is made of the picture wherever a page says nothing else; kept when it is wished, since many pages follow. */
function ItemCutting({ entry, onKeep }: { entry: ItemEntry; onKeep(edits: Edits): Promise<boolean> }) {
  const { item, uses } = entry
  const kept: Edits = { ...NO_EDITS, ...item.edits }
  const [edits, setEdits] = useState(kept)
  const same = (Object.keys(kept) as (keyof Edits)[]).every((name) => kept[name] === edits[name])
  return (
    <Cutting item={item} edits={edits} own={NO_EDITS} onEdits={(part) => setEdits({ ...edits, ...part })}>
      {!same && (
        <Button
          size="sm"
          alignSelf="flex-start"
          h="auto"
          py="1"
          whiteSpace="normal"
          onClick={() => void onKeep(edits)}
        >
          {plural(uses, {
            0: "Save",
            one: "Save; the page that uses it will show it",
            other: "Save; the # pages that use it will show it",
          })}
        </Button>
      )}
    </Cutting>
  )
}

/** The folders: a tree to choose from, where items are dropped, and what may be done to the chosen one. */

import { Button, chakra, Field, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery } from "@tanstack/react-query"
import { type DragEvent, type FormEvent, type KeyboardEvent, type ReactNode, useRef, useState } from "react"
import { answers } from "../../api/answers"
import { ask, client, type FolderOut } from "../../api/client"
import { Act } from "../../look/Act"
import { Choice } from "../../look/Choice"
import { DRAGGED } from "./Entries"
import type { Acts } from "./useActs"

/** What is dragged when a folder is. */
const FOLDER = "application/x-stillpage-folder"

export function useFolders(): FolderOut[] {
  const answer = useQuery({ queryKey: answers.folders, queryFn: () => ask(client.GET("/api/folders")) })
  return answer.data ?? []
}

/** How deep each folder stands, by its number. */
function depths(folders: readonly FolderOut[]): Map<number, number> {
  const found = new Map<number, number>()
  for (const { id, parent } of folders) found.set(id, parent === null ? 0 : (found.get(parent) ?? 0) + 1)
  return found
}

/** Folders as choices, the deeper ones set in. */
export function folderChoices(folders: readonly FolderOut[], top: string): [string, string][] {
  const deep = depths(folders)
  return [
    ["0", top],
    ...folders.map(({ id, name }): [string, string] => [
      String(id),
      `${"— ".repeat(deep.get(id) ?? 0)}${name}`,
    ]),
  ]
}

interface Props {
  folders: FolderOut[]
  /** The number of the chosen folder; 0 for the top alone, null for everything. */
  folder: number | null
  onFolder(folder: number | null): void
  acts: Acts
  mayArrange: boolean
}

export function Folders({ folders, folder, onFolder, acts, mayArrange }: Props) {
  const list = useRef<HTMLUListElement>(null)
  const deep = depths(folders)
  const [over, setOver] = useState<number | null>(null)
  const chosen = folders.find(({ id }) => id === folder)

  const takes = (to: number) =>
    mayArrange && {
      onDragOver: (event: DragEvent) => {
        if (![DRAGGED, FOLDER].some((kind) => event.dataTransfer.types.includes(kind))) return
        event.preventDefault()
        event.stopPropagation()
        setOver(to)
      },
      onDragLeave: () => setOver(null),
      onDrop: (event: DragEvent) => {
        setOver(null)
        const items = event.dataTransfer.getData(DRAGGED)
        const moved = Number(event.dataTransfer.getData(FOLDER))
        if (!items && !moved) return
        event.preventDefault()
        event.stopPropagation()
        if (items)
          void acts.items({
            act: "move",
            items: JSON.parse(items),
            folder: to || null,
            words: [],
            without: [],
          })
        else if (moved !== to) void change(acts, moved, { parent: to })
      },
    }
  const key = (event: KeyboardEvent) => {
    const buttons = [...(list.current?.querySelectorAll("button") ?? [])]
    const at = buttons.indexOf(event.target as HTMLButtonElement)
    const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: buttons.length - 1 }[event.key]
    const next = to === undefined ? undefined : buttons[to]
    if (!next) return
    event.preventDefault()
    next.focus()
  }
  const line = (to: number | null, depth: number, name: ReactNode, count?: number, dragged?: number) => (
    <chakra.li key={to ?? "all"}>
      <Button
        variant="plain"
        size="sm"
        w="full"
        h="auto"
        py="1"
        justifyContent="space-between"
        textAlign="left"
        whiteSpace="normal"
        style={{ paddingLeft: `${0.5 + depth * 0.9}rem` }}
        pr="2"
        aria-pressed={folder === to}
        tabIndex={folder === to ? 0 : -1}
        bg={over === (to ?? -1) || folder === to ? "lit" : undefined}
        fontWeight={folder === to ? "600" : "400"}
        textDecoration={folder === to ? "underline" : undefined}
        textUnderlineOffset="5px"
        outline={over === (to ?? -1) ? "2px dashed" : undefined}
        draggable={mayArrange && dragged !== undefined}
        onDragStart={(event) => dragged !== undefined && event.dataTransfer.setData(FOLDER, String(dragged))}
        onClick={() => onFolder(to)}
        {...(to === null ? {} : takes(to))}
      >
        <span>{name}</span>
        {count !== undefined && (
          <chakra.span color="quiet" fontSize="xs" fontWeight="400">
            {count}
          </chakra.span>
        )}
      </Button>
    </chakra.li>
  )
  return (
    <Stack as="section" aria-label={t`Folders`} gap="1">
      <chakra.ul ref={list} listStyleType="none" onKeyDown={key}>
        {line(null, 0, t`All folders`)}
        {line(0, 0, t`In no folder`)}
        {folders.map(({ id, name, items, kept_to }) =>
          line(id, deep.get(id) ?? 0, kept_to.length ? t`${name} (some sites)` : name, items, id),
        )}
      </chakra.ul>
      {mayArrange && <NewFolder key={folder} parent={chosen} acts={acts} onFolder={onFolder} />}
    </Stack>
  )
}

const change = (acts: Acts, id: number, body: { name?: string; parent?: number; sites?: number[] }) =>
  acts.run(() => ask(client.PATCH("/api/folders/{folder_id}", { params: { path: { folder_id: id } }, body })))

function NewFolder({
  parent,
  acts,
  onFolder,
}: {
  parent?: FolderOut
  acts: Acts
  onFolder(folder: number): void
}) {
  const [name, setName] = useState<string | null>(null)
  const make = async () => {
    const body = { name: name ?? "", parent: parent?.id ?? null }
    const done = await acts.run(async () => {
      const made = await ask(client.POST("/api/folders", { body }))
      onFolder(made.folder.id)
      return made.act
    })
    if (done) setName(null)
  }
  if (name === null)
    return (
      <Button size="xs" variant="ghost" alignSelf="flex-start" onClick={() => setName("")}>
        <Trans>New folder{parent ? t` in “${parent.name.slice(0, 24)}”` : ""}</Trans>
      </Button>
    )
  return (
    <chakra.form
      aria-label={t`New folder`}
      px="2"
      onSubmit={(event: FormEvent) => {
        event.preventDefault()
        void make()
      }}
    >
      <Field.Root>
        <Field.Label>
          <Trans>Name of the new folder</Trans>
        </Field.Label>
        <Input
          size="sm"
          autoFocus
          value={name}
          maxLength={120}
          bg="paper"
          borderColor="edge"
          onChange={(event) => setName(event.target.value)}
          onKeyDown={(event) => event.key === "Escape" && setName(null)}
        />
      </Field.Root>
      <HStack gap="1" mt="1">
        <Act onPress={() => void make()}>
          <Trans>Create</Trans>
        </Act>
        <Act onPress={() => setName(null)}>
          <Trans>Cancel</Trans>
        </Act>
      </HStack>
    </chakra.form>
  )
}

interface OneFolderProps {
  folder: FolderOut
  folders: FolderOut[]
  sites: { id: number; name: string }[]
  acts: Acts
  mayKeep: boolean
  onFolder(folder: number | null): void
}

/** What may be done to a folder. */
export function OneFolder({ folder, folders, sites, acts, mayKeep, onFolder }: OneFolderProps) {
  const [name, setName] = useState(folder.name)
  const inherited = folder.kept_to.length > 0 && folder.sites.length === 0
  return (
    <Stack
      as="section"
      aria-label={t`The folder ${folder.name}`}
      gap="3"
      pb="4"
      borderBottomWidth="1px"
      borderColor="line"
      mb="4"
    >
      <chakra.form
        aria-label={t`Rename the folder`}
        onSubmit={(event: FormEvent) => {
          event.preventDefault()
          void change(acts, folder.id, { name })
        }}
      >
        <Field.Root>
          <Field.Label>
            <Trans>Name of the folder</Trans>
          </Field.Label>
          <Input
            size="sm"
            value={name}
            maxLength={120}
            bg="paper"
            borderColor="edge"
            onChange={(event) => setName(event.target.value)}
          />
        </Field.Root>
        {name !== folder.name && (
          <Button type="submit" size="xs" variant="outline" mt="1">
            <Trans>Rename it</Trans>
          </Button>
        )}
      </chakra.form>
      <Choice
        label={t`Inside the folder`}
        value={String(folder.parent ?? 0)}
        options={folderChoices(
          folders.filter(({ id }) => id !== folder.id),
          t`the top`,
        )}
        onChoice={(parent) => void change(acts, folder.id, { parent: Number(parent) })}
      />
      {mayKeep && (
        <chakra.fieldset fontSize="sm">
          <chakra.legend fontWeight="600">
            <Trans>Kept to</Trans>
          </chakra.legend>
          {sites.map((site) => (
            <chakra.label key={site.id} display="flex" gap="2" alignItems="baseline">
              <input
                type="checkbox"
                checked={folder.sites.includes(site.id)}
                onChange={(event) =>
                  void change(acts, folder.id, {
                    sites: event.target.checked
                      ? [...folder.sites, site.id]
                      : folder.sites.filter((each) => each !== site.id),
                  })
                }
              />
              {site.name}
            </chakra.label>
          ))}
          <Text fontSize="xs" color="quiet">
            {inherited
              ? t`A folder above is kept to some sites already.`
              : t`With none chosen, every site may use what it holds.`}
          </Text>
        </chakra.fieldset>
      )}
      <Button
        size="xs"
        variant="outline"
        alignSelf="flex-start"
        onClick={async () => {
          const params = { path: { folder_id: folder.id } }
          if (await acts.run(() => ask(client.DELETE("/api/folders/{folder_id}", { params }))))
            onFolder(folder.parent)
        }}
      >
        <Trans>Remove the folder; what it holds moves up</Trans>
      </Button>
    </Stack>
  )
}

/** What stands beside the items: the particulars of one, or of many; or what helps to bring more in. */
import { chakra, Heading, Stack } from "@chakra-ui/react"
import { useQuery } from "@tanstack/react-query"
import { sitesAsked } from "../../api/answers"
import type { FolderOut, ItemEntry, LibraryEntry, Session } from "../../api/client"
import type { Limits } from "../../look/useSending"
import { ChosenItems } from "./Chosen"
import { Commons } from "./Commons"
import { Describing } from "./Describing"
import { OneFolder } from "./Folders"
import { ItemParticulars } from "./ItemParticulars"
import type { Acts } from "./useActs"

interface Props {
  beside: "commons" | "describing" | null
  chosen: ReadonlySet<number>
  many: boolean
  folders: FolderOut[]
  folder: FolderOut | undefined
  acts: Acts
  entry: ItemEntry | undefined
  /** What is known of the item while its entry is on its way. */
  brief: LibraryEntry | undefined
  limits: Limits
  session: Session
  /** Counts the wishes to put what is chosen into the bin. */
  deleting: number
  bin: boolean
  onTake(id: string, title: string): void
  onClose(): void
  onDone(): void
  onFolder(to: number | null): void
}

export function Beside(props: Props) {
  const { beside, chosen, many, folders, folder, acts, entry, brief, limits, session, deleting, bin } = props
  const { onTake, onClose, onDone, onFolder } = props
  const { may_arrange: mayArrange, may_keep: mayKeep } = session
  const sites = useQuery(sitesAsked)
  return beside === "commons" ? (
    <Commons onTake={({ id, title }) => onTake(id, title)} onClose={onClose} />
  ) : beside === "describing" ? (
    <Describing acts={acts} onClose={onClose} />
  ) : many ? (
    <ChosenItems
      key={deleting}
      numbers={[...chosen]}
      folders={folders}
      acts={acts}
      bin={bin}
      mayArrange={mayArrange}
      mayKeep={mayKeep}
      onDone={onDone}
    />
  ) : (
    <>
      {folder && mayArrange && (
        <OneFolder
          key={`${folder.id} ${folder.name}`}
          folder={folder}
          folders={folders}
          sites={sites.data ?? []}
          acts={acts}
          mayKeep={mayKeep}
          onFolder={onFolder}
        />
      )}
      {!entry && brief && <Coming entry={brief} />}
      {entry && (
        <ItemParticulars
          key={entry.item.id}
          entry={entry}
          folders={folders}
          acts={acts}
          limits={limits}
          mayArrange={mayArrange}
          mayKeep={mayKeep}
        />
      )}
    </>
  )
}

/** What stands where the particulars will be, while they are on their way. */
function Coming({ entry: { item } }: { entry: LibraryEntry }) {
  return (
    <Stack gap="3">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body" wordBreak="break-word">
        {item.title}
      </Heading>
      {item.thumbnail && (
        <chakra.img src={item.thumbnail} alt="" maxH="10rem" objectFit="contain" objectPosition="left" />
      )}
    </Stack>
  )
}

import { NodeSelection } from "prosemirror-state"
import type { ComponentType } from "react"
import type { PageOut } from "../../../api/client"
import { kinds, linkAt } from "../../../editor/commands"
import type { Known } from "../../../editor/known"
import type { Saver } from "../../../editor/saver"
import type { Sheet } from "../../../editor/sheet"
import type { Desk } from "../desk"
import { useSheetState } from "../useSheetState"
import { AnimationParticulars } from "./Animation"
import {
  CallParticulars,
  EquationParticulars,
  HolderParticulars,
  ListParticulars,
  PreformattedParticulars,
  TableParticulars,
} from "./Blocks"
import { DownloadsParticulars } from "./Downloads"
import { FilmParticulars } from "./Film"
import { GalleryParticulars } from "./Gallery"
import { HostedParticulars } from "./Hosted"
import { LinkParticulars } from "./Link"
import { PageParticulars } from "./Page"
import { PaperParticulars } from "./Paper"
import { PictureParticulars } from "./Picture"
import { PostParticulars } from "./Post"
import type { ShownProps } from "./parts"
import { ReadNextParticulars } from "./ReadNext"
import { ParagraphSetting, WordSetting } from "./Setting"
import { SlideshowParticulars } from "./Slideshow"

/** What is asked of a node that is shown as a whole, by its kind. */
const SHOWN: Record<string, ComponentType<ShownProps>> = {
  picture: PictureParticulars,
  film: FilmParticulars,
  sound: FilmParticulars,
  hosted: HostedParticulars,
  downloads: DownloadsParticulars,
  gallery: GalleryParticulars,
  slideshow: SlideshowParticulars,
  read_next: ReadNextParticulars,
  paper: PaperParticulars,
  animation: AnimationParticulars,
  post: PostParticulars,
}

interface Props {
  page: PageOut
  sheet: Sheet
  saver: Saver | null
  known: Known
  editable: boolean
  desk: Desk
  onLink(): void
}

/** The particulars of what is at the caret, the nearest first; the page itself stands last. */
export function Particulars(props: Props) {
  const { page, sheet, saver, known, editable, onLink, desk } = props
  const { selection } = useSheetState(sheet)
  const node = selection instanceof NodeSelection ? selection.node : null
  const equation = node && (node.type === kinds.equation || node.type === kinds.formula)
  const link = linkAt(sheet.state)
  const Shown = node ? SHOWN[node.type.name] : undefined
  const { palette } = page
  return (
    <>
      {node && Shown && (
        <Shown
          key={selection.from}
          page={page}
          sheet={sheet}
          known={known}
          position={selection.from}
          node={node}
          editable={editable}
        />
      )}
      {equation && (
        <EquationParticulars
          key={selection.from}
          sheet={sheet}
          position={selection.from}
          node={node}
          editable={editable}
        />
      )}
      {!node && link && (
        <LinkParticulars sheet={sheet} known={known} link={link} editable={editable} onChange={onLink} />
      )}
      {editable && <CallParticulars sheet={sheet} known={known} onChoose={onLink} />}
      {!node && <WordSetting sheet={sheet} palette={palette} editable={editable} />}
      {editable && <PreformattedParticulars sheet={sheet} />}
      {editable && <ListParticulars sheet={sheet} />}
      {editable && <TableParticulars sheet={sheet} />}
      {editable && <HolderParticulars sheet={sheet} />}
      {!node && <ParagraphSetting sheet={sheet} palette={palette} editable={editable} />}
      {!node && <PageParticulars page={page} sheet={sheet} saver={saver} editable={editable} desk={desk} />}
    </>
  )
}

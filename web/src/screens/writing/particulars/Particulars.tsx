import { NodeSelection } from "prosemirror-state"
import type { PageOut } from "../../../api/client"
import { kinds, linkAt } from "../../../editor/commands"
import type { Known } from "../../../editor/known"
import type { Saver } from "../../../editor/saver"
import type { Sheet } from "../../../editor/sheet"
import type { Desk } from "../desk"
import { useSheetState } from "../useSheetState"
import {
  CallParticulars,
  EquationParticulars,
  HolderParticulars,
  ListParticulars,
  PreformattedParticulars,
  TableParticulars,
} from "./Blocks"
import { LinkParticulars } from "./Link"
import { PageParticulars } from "./Page"
import { PictureParticulars } from "./Picture"
import { ParagraphSetting, WordSetting } from "./Setting"

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
  const { palette } = page
  return (
    <>
      {node?.type === kinds.picture && (
        <PictureParticulars
          key={selection.from}
          page={page.id}
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

/**
 * The kinds of node of which the editor knows more than the core says: a file for each, listed here in the order in
 * which the Shelf offers them. What is asked in the particulars of one that is selected stands in
 * `screens/writing/particulars`.
 */
import type { Attrs, Node } from "prosemirror-model"
import type { EditorView } from "prosemirror-view"
import type { AnyNode } from "../../document/types.generated"
import type { Known } from "../known"
import { animation } from "./animation"
import { aside } from "./aside"
import { callToAction } from "./callToAction"
import { download, downloads } from "./downloads"
import { equation, formula } from "./equation"
import { film, sound } from "./film"
import { gallery } from "./gallery"
import { hosted } from "./hosted"
import type { EditorKind } from "./kind"
import { paper } from "./paper"
import { picture } from "./picture"
import { divider, preformatted, quotation } from "./plain"
import { post } from "./post"
import { further, readNext } from "./readNext"
import { slide, slideshow } from "./slideshow"
import { table } from "./table"

export const KINDS: Readonly<Partial<Record<AnyNode["type"], EditorKind>>> = {
  table,
  downloads,
  download,
  gallery,
  slideshow,
  slide,
  paper,
  animation,
  quotation,
  aside,
  call_to_action: callToAction,
  divider,
  preformatted,
  equation,
  formula,
  picture,
  film,
  sound,
  hosted,
  post,
  read_next: readNext,
  further,
}

/** The views of the kinds that have one, for a sheet whose items `known` knows. */
export const viewsOf = (known: Known) =>
  Object.fromEntries(
    Object.entries(KINDS).flatMap(([name, { view }]) =>
      view
        ? [
            [
              name,
              (node: Node, editor: EditorView, at: () => number | undefined) => view(node, editor, known, at),
            ],
          ]
        : [],
    ),
  )

export interface BlockOffer {
  kind: "block"
  type: AnyNode["type"]
  attrs?: Attrs
  name: string
  says: string
}

/** What has no place in the library and is brought in all the same. */
export const BLOCKS: readonly BlockOffer[] = Object.entries(KINDS).flatMap(([type, { offers = [] }]) =>
  offers.map((offer): BlockOffer => ({ kind: "block", type: type as AnyNode["type"], ...offer })),
)

/** What is on the clipboard, and what the sheet puts there. */
import { DOMSerializer, type Fragment } from "prosemirror-model"
import { schema } from "./schema"

/** What was pasted. */
export interface Clip {
  html: string
  text: string
  /** Rich Text Format, where the text has pictures that did not come along: it holds them. */
  rtf: string
  /** Pictures that lie on the clipboard beside the text. */
  pictures: File[]
}

const OWN = "data-still-page"

/** Marks what is copied from a sheet, so that a sheet takes it as it is. */
class OwnSerializer extends DOMSerializer {
  override serializeFragment(
    fragment: Fragment,
    options?: { document?: Document },
    target?: HTMLElement | DocumentFragment,
  ) {
    const made = super.serializeFragment(fragment, options, target)
    const [first] = made.childNodes
    if (!target && first instanceof (first?.ownerDocument?.defaultView ?? window).Element)
      first.setAttribute(OWN, "")
    return made
  }
}

export const clipboardSerializer = new OwnSerializer(
  DOMSerializer.nodesFromSchema(schema),
  DOMSerializer.marksFromSchema(schema),
)

/** Whether this comes from a sheet. */
export const isOwn = (html: string) => html.includes(OWN) && html.includes("data-pm-slice")

/**
 * What a paste brings: a text to be read, files to be added, or nothing. Office programs put a picture of the words
 * beside the words; it counts only where the text has pictures that did not come along.
 */
export function clipOf(data: DataTransfer | null): Clip | { files: File[] } | null {
  if (!data) return null
  const html = data.getData("text/html")
  const text = data.getData("text/plain")
  const files = [...data.files]
  // In a template nothing is loaded; without styles and handlers nothing offends the page's content security policy.
  const bare = html
    .replace(/<(style|script)\b.*?<\/\1/gis, "")
    .replace(/[\s"'/](style|on\w+)\s*=/gi, " data-$1=")
  const { content } = Object.assign(document.createElement("template"), { innerHTML: bare })
  const images = [...content.querySelectorAll("img")]
  const words = `${content.textContent}${text}`.trim()
  if (files.length && !words) return { files }
  if (!html && !text) return null
  const missing = images.filter((image) => !/^(data:|item:)/i.test(image.getAttribute("src") ?? ""))
  const pictures = files.filter(({ type }) => type.startsWith("image/")).slice(0, missing.length)
  const rtf = missing.some((image) => /^file:/i.test(image.getAttribute("src") ?? ""))
    ? data.getData("text/rtf")
    : ""
  return { html, text, rtf, pictures }
}

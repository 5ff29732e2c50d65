/** What the kinds share that show an item: attributes that the storable form writes as `data-NAME`. */
import { described } from "../../document/described"

/** The attributes of a kind by name, as the core describes them. */
const attrsOf = (kind: string) => described.nodes.find(({ name }) => name === kind)?.attrs ?? {}

/** How something stands and what is made of it, as far as it is well said. */
export function settingOf(kind: string, names: readonly string[], element: Element) {
  const setting: Record<string, unknown> = {}
  const known = attrsOf(kind)
  for (const name of names) {
    const { range, pattern } = known[name] ?? {}
    const value = element.getAttribute(`data-${name}`)
    if (value === null) continue
    if (range) {
      if (/^-?\d{1,5}$/.test(value) && Number(value) >= range[0] && Number(value) <= range[1])
        setting[name] = Number(value)
    } else if (new RegExp(`^(?:${pattern})$`).test(value)) setting[name] = value
  }
  return setting
}

export const settingAttributes = (names: readonly string[], attrs: Record<string, unknown>) =>
  Object.fromEntries(
    names.filter((name) => attrs[name] !== null).map((name) => [`data-${name}`, String(attrs[name])]),
  )

/** Set attributes that are not so already: setting the same source again would load it again. */
export function setTo(element: Element, attributes: Record<string, string | number | null>) {
  for (const [name, value] of Object.entries(attributes)) {
    if (value === null) element.removeAttribute(name)
    else if (element.getAttribute(name) !== String(value)) element.setAttribute(name, String(value))
  }
}

export const number = (address: string | null) => Number.parseInt(address?.slice(5) ?? "", 10)

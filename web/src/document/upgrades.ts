/**
 * What waits in a browser since the time of an earlier version of the format, made into what it is today: the same
 * steps as `stillpage_core/document/upgrades.py` takes, and those of the editor along with them. The fixtures of each
 * version hold the two together.
 */
import generated from "./schema.generated.json"
import type { DocNode } from "./types.generated"

const FIRST = 1
const VERSION: number = generated.version

interface Json {
  attrs?: { version?: number }
  content?: unknown[]
}
type StepJson = Record<string, unknown>

interface Upgrade {
  document(json: Json): Json
  step(json: StepJson): StepJson
}

const PLACES = ["from", "to", "gapFrom", "gapTo", "pos"]

/** By version: what leads from it to the next. */
const UPGRADES: Record<number, Upgrade> = {
  // Regions: what was written stands in main, one position further on.
  1: {
    document: (json) => ({
      ...json,
      content: [{ type: "region", attrs: { name: "main" }, content: json.content }],
    }),
    step: (json) => {
      const moved = { ...json }
      for (const name of PLACES)
        if (typeof json[name] === "number" && json.stepType !== "docAttr") moved[name] = json[name] + 1
      return moved
    },
  },
}

/** The version of the format that a document as JSON is of. */
export const versionOf = (json: unknown): number => (json as Json | null)?.attrs?.version ?? FIRST

function upgrades(version: number): Upgrade[] {
  const found: Upgrade[] = []
  for (let each = version; each < VERSION; each++) found.push(UPGRADES[each] as Upgrade)
  return found
}

/** A document as JSON, of the present version; one of a newer is given back as it is. */
export function upgraded(json: DocNode): DocNode {
  const given = json as unknown as Json
  const version = versionOf(given)
  if (version >= VERSION) return json
  const made = upgrades(version).reduce((document, { document: next }) => next(document), given)
  return { ...made, attrs: { ...made.attrs, version: VERSION } } as unknown as DocNode
}

/** A step of the editor as JSON, made for a document of some version, for the same document of the present one. */
export const upgradedStep = (json: unknown, version: number): unknown =>
  json && typeof json === "object"
    ? upgrades(version).reduce((step, { step: next }) => next(step), json as StepJson)
    : json

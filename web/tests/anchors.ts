/**
 * The addresses of headings, for `tests/outside/test_anchors_against_core.py`.
 *
 *     node anchors.js < CASES
 *
 * Reads a document (JSON) on each line, and prints the addresses of its headings that have words.
 */
import "./spoken"
import { readFileSync } from "node:fs"
import { anchorsOf } from "../src/editor/anchors"
import { schema } from "../src/editor/schema"

for (const line of readFileSync(0, "utf8").trimEnd().split("\n")) {
  const found = anchorsOf(schema.nodeFromJSON(JSON.parse(line)))
  console.log(JSON.stringify(found.map(({ anchor }) => anchor)))
}

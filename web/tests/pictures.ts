/**
 * What the sheet makes of pictures, for `tests/outside/test_pictures_against_core.py`.
 *
 *     node pictures.js < CASES
 *
 * Reads a line of JSON for each case (an item, the attributes of a use, the room there), and prints the cut's name and how the
 * picture is shown.
 */
import "./spoken"
import { readFileSync } from "node:fs"
import { cutAt, keyOf, shown } from "../src/document/pictures"

for (const line of readFileSync(0, "utf8").trimEnd().split("\n")) {
  const { item, attrs, room } = JSON.parse(line)
  const { width, height, src, srcset, sizes, sources } = shown(item, attrs, room)
  console.log(JSON.stringify({ cut: keyOf(cutAt(item, attrs)), width, height, src, srcset, sizes, sources }))
}

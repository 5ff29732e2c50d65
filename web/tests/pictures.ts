/**
 * What the sheet makes of pictures, for `tests/outside/test_pictures_against_core.py`.
 *
 *     node pictures.js < CASES
 *
 * Reads a line of JSON for each case (an item, the attributes of a use, the room there; of a film also the picture that is
 * its cover; one elsewhere is `hosted`;
 * with `label`, the language of a page, it is a document), and prints the cut's name and how the picture is shown; of a film its size and cover.
 */
import "./spoken"
import { readFileSync } from "node:fs"
import { labelOf } from "../src/document/downloads"
import { coverItem, filmShown } from "../src/document/films"
import { hostedShown } from "../src/document/hosted"
import { cutAt, keyOf, shown } from "../src/document/pictures"

for (const line of readFileSync(0, "utf8").trimEnd().split("\n")) {
  const { item, attrs, room, cover, label } = JSON.parse(line)
  if (label) {
    console.log(JSON.stringify(labelOf(item, label)))
    continue
  }
  if ("cover" in attrs) {
    const pictured = coverItem(attrs.cover) === null ? undefined : (cover ?? undefined)
    if (item.hosted) {
      console.log(JSON.stringify(hostedShown(item, attrs, room, pictured)))
      continue
    }
    console.log(JSON.stringify(filmShown(item, attrs, room, pictured)))
    continue
  }
  const { width, height, src, srcset, sizes, sources } = shown(item, attrs, room)
  console.log(JSON.stringify({ cut: keyOf(cutAt(item, attrs)), width, height, src, srcset, sizes, sources }))
}

"""Pictures on the sheet against the core: the same cut, the same size, the same files, whatever is said of them."""

import json
import random
from dataclasses import asdict
from unittest import TestCase

from stillpage_core.media.editing import EDITS
from stillpage_core.media.plan import plan
from stillpage_core.media.shown import Room, picture_cut, shown
from stillpage_core.resolving import ImageFile, PictureTarget

from .bundles import answers_of

CASES, SEED = 3000, 7


class SheetAgainstCore(TestCase):
    def test_three_thousand_pictures_are_shown_the_same(self):
        chance = random.Random(SEED)
        cases = [self.case(chance) for _ in range(CASES)]
        given = [{"item": item, "attrs": attrs, "room": asdict(room)} for _, item, attrs, room in cases]
        answers = answers_of("pictures", [json.dumps(each) for each in given])
        self.assertEqual(len(answers), CASES)
        for (target, _, attrs, room), line in zip(cases, answers, strict=True):
            at = asdict(shown(target, attrs, room))
            wanted = {"cut": picture_cut(target, attrs).key, **at, "sources": list(at["sources"])}
            self.assertEqual(json.loads(line), wanted, (target.width, target.height, target.edits, attrs))

    def case(self, chance):
        width, height = chance.randint(1, 6000), chance.randint(1, 6000)
        own = self.edits(chance) if chance.random() < 0.3 else None
        attrs = {
            **self.edits(chance),
            "width": chance.choice((None, chance.randint(16, 4000))),
            "place": chance.choice((None, "start", "end", "centre", "wide")),
        }
        mark = {"edits": own} if own else {}
        bare = PictureTarget(1, "Lock", "", (), width=width, height=height, **mark)
        cuts = {"", picture_cut(bare, attrs).key} if chance.random() < 0.8 else {""}
        files = tuple(
            ImageFile(f"/{cut}-{each.width}.{each.form.ending}", each.width, each.height, 9, each.form.mime, cut)
            for cut in sorted(cuts)
            for each in plan(width, height, drawing=chance.random() < 0.2)
        )
        if chance.random() < 0.05:
            files = (ImageFile("/lines.svg", width, height, 9, "image/svg+xml", ""),)
        target = PictureTarget(1, "Lock", "", files, width=width, height=height, **mark)
        item = {"width": width, "height": height, "edits": own, "files": [asdict(file) for file in files]}
        return target, item, attrs, Room(chance.choice((720, chance.randint(200, 900))), chance.randint(900, 1200))

    def edits(self, chance):
        edits = dict.fromkeys(EDITS)
        if chance.random() < 0.5:
            edits["turn"] = chance.randint(0, 3)
        if chance.random() < 0.5:
            edits["straighten"] = chance.randint(-150, 150)
        if chance.random() < 0.4:
            edits["crop"] = ",".join(str(chance.randint(low, 10_000)) for low in (0, 0, 1, 1))
        if chance.random() < 0.4:
            edits["ratio"] = f"{chance.randint(1, 99)}:{chance.randint(1, 99)}"
        if chance.random() < 0.5:
            edits["focus"] = f"{chance.randint(0, 10_000)},{chance.randint(0, 10_000)}"
        return edits

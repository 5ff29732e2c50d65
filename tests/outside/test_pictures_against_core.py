"""Pictures and films on the sheet against the core: the same cut, size and files, whatever is said of them."""

import json
import random
from dataclasses import asdict, replace
from unittest import TestCase

from stillpage_core.languages import own_name
from stillpage_core.media.editing import EDITS
from stillpage_core.media.labels import facts_of, label_of
from stillpage_core.media.plan import plan
from stillpage_core.media.playing import cover_file, film_size, hosted_cover, hosted_natural, hosted_size
from stillpage_core.media.shown import Room, picture_cut, shown
from stillpage_core.resolving import FilmTarget, FixedResolver, HostedTarget, ImageFile, ItemTarget, PictureTarget

from .bundles import answers_of

CASES, SEED = 3000, 7


COVER = PictureTarget(
    5,
    "Gates",
    "",
    tuple(ImageFile(f"/gates-{across}.jpg", across, across * 2 // 3, 9, "image/jpeg") for across in (320, 640, 900)),
    width=900,
    height=600,
)


def files_of(target):
    return [asdict(file) for file in target.files]


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

    def test_films_have_the_same_size_and_cover(self):
        chance = random.Random(SEED)
        cases = [self.film(chance) for _ in range(1000)]
        given = [
            {
                "item": {"width": target.width, "height": target.height, "edits": None, "files": files_of(target)},
                "attrs": attrs,
                "room": asdict(room),
                "cover": {"width": 900, "height": 600, "edits": None, "files": files_of(COVER)} if pictured else None,
            }
            for target, attrs, room, pictured in cases
        ]
        answers = answers_of("pictures", [json.dumps(each) for each in given])
        for (target, attrs, room, pictured), line in zip(cases, answers, strict=True):
            width, height = film_size(target, attrs, room)
            known = FixedResolver(pictures={5: COVER} if pictured else {})
            poster, _ = cover_file(target, attrs, room, known)
            self.assertEqual(json.loads(line), {"width": width, "height": height, "poster": poster}, attrs)

    def test_films_elsewhere_have_the_same_size_and_cover(self):
        chance = random.Random(SEED)
        cases = [self.elsewhere(chance) for _ in range(500)]
        given = []
        for target, attrs, room, pictured in cases:
            width, height = hosted_natural(target.width, target.height)
            own = target.cover or PictureTarget(2, "", "", ())
            item = {"width": own.width, "height": own.height, "edits": None, "files": files_of(own)}
            cover = {"width": 900, "height": 600, "edits": None, "files": files_of(COVER)} if pictured else None
            hosted = {"width": width, "height": height}
            given.append({"item": {**item, "hosted": hosted}, "attrs": attrs, "room": asdict(room), "cover": cover})
        answers = answers_of("pictures", [json.dumps(each) for each in given])
        for (target, attrs, room, pictured), line in zip(cases, answers, strict=True):
            width, height = hosted_size(target, attrs, room)
            known = FixedResolver(pictures={5: COVER} if pictured else {})
            cover, _ = hosted_cover(target, attrs, room, known)
            self.assertEqual(json.loads(line), {"width": width, "height": height, "cover": cover}, attrs)

    def test_documents_of_a_list_say_the_same(self):
        languages = ("", "en", "en-GB", "cy", "CY-gb", "qaa", "zh-Hant")
        files = [
            ItemTarget(1, "Form", "/f", kind, size, pages=pages, language=language)
            for kind, size in (("PDF", 212_345), ("XLSX", 0), ("", 0))
            for pages in (0, 1, 12)
            for language in languages
        ]
        cases = [(file, page) for file in files for page in languages[1:]]
        given = []
        for file, page in cases:
            name = own_name(file.language.partition("-")[0]) if file.language else ""
            item = {"link_facts": facts_of(file), "language": file.language, "language_name": name}
            given.append(json.dumps({"item": item, "attrs": {}, "label": page}))
        for (file, page), line in zip(cases, answers_of("pictures", given), strict=True):
            self.assertEqual(json.loads(line), label_of(file, page), (file, page))

    def elsewhere(self, chance):
        own = replace(COVER, number=2, files=tuple(replace(each, address=f"/own-{each.width}") for each in COVER.files))
        target = HostedTarget(
            2,
            "Over the aqueduct",
            "https://films.example/watch/2",
            width=chance.randint(16, 1920),
            height=chance.randint(16, 1080),
            cover=own if chance.random() < 0.7 else None,
        )
        _, attrs, room, pictured = self.film(chance)
        return target, {**attrs, "cover": chance.choice((None, "item-5"))}, room, pictured

    def film(self, chance):
        width, height = chance.randint(16, 1920), chance.randint(16, 1080)
        files = tuple(
            ImageFile(f"/{cut}-{across}.jpg", across, 9, 9, "image/jpeg", cut)
            for cut in ("still-10", "still-50", "at-1500")
            if chance.random() < 0.8
            for across in sorted({width, min(320, width)})
        )
        attrs = {
            "width": chance.choice((None, chance.randint(16, 4000))),
            "place": chance.choice((None, "start", "end", "centre", "wide")),
            "cover": chance.choice((None, "still-10", "still-50", "at-1500", "at-9", "item-5")),
        }
        room = Room(chance.randint(200, 900), chance.randint(900, 1200))
        return FilmTarget(1, "Lock", files=files, width=width, height=height), attrs, room, chance.random() < 0.5

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

"""What the tests of the checks share: what the library and the site hold, and what is found in some blocks."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

from stillpage_core.checking import Around, Finding, Subject, Theme, check_page
from stillpage_core.document.changes import SetFact, apply
from stillpage_core.document.node import Node
from stillpage_core.media.hosting import FilmHost
from stillpage_core.media.pictures import JPEG
from stillpage_core.resolving import (
    FilmTarget,
    FixedResolver,
    HostedTarget,
    ImageFile,
    ItemTarget,
    PageTarget,
    PictureTarget,
    Track,
)

from ..documents import body, document

THEME = Theme(
    tones={"rust": (0x9A, 0x4A, 0x12), "pale": (0x90, 0x90, 0x90), "mid": (0x70, 0x70, 0x70)},
    styles={"lead": (0x1D, 0x27, 0x33), "verse": (0x1D, 0x27, 0x33), "faint": (0xAA, 0xAA, 0xAA)},
    grounds={
        "page": (255, 255, 255),
        "note": (0xEE, 0xEE, 0xF4),
        "tip": (0xEE, 0xF4, 0xEE),
        "warning": (0xF6, 0xE8, 0xD8),
        "header": (0xE4, 0xE4, 0xE4),
    },
)

_FILES = (
    ImageFile("/media/a.jpg", 400, 300, 60_000, JPEG.mime),
    ImageFile("/media/b.jpg", 1200, 900, 300_000, JPEG.mime),
)


def a_picture(number: int, title: str, alt: str, **facts: Any) -> PictureTarget:
    return PictureTarget(number, title, alt, **{"files": _FILES, "width": 1200, "height": 900, **facts})


ENGLISH = Track("captions", "en", "English", "/media/en.vtt", ("The gate opens.",), cues=1)
_PLAYED = (
    ImageFile("/media/small.mp4", 768, 432, 2_000_000, "video/mp4", "small"),
    ImageFile("/media/film.mp4", 1280, 720, 6_000_000, "video/mp4", "film"),
    ImageFile("/media/film.webm", 1280, 720, 5_000_000, "video/webm", "film"),
    ImageFile("/media/10-1280.jpg", 1280, 720, 90_000, JPEG.mime, "still-10"),
    ImageFile("/media/10-320.jpg", 320, 180, 9_000, JPEG.mime, "still-10"),
    ImageFile("/media/50-1280.jpg", 1280, 720, 80_000, JPEG.mime, "still-50"),
)


def a_film(number: int, title: str, **facts: Any) -> FilmTarget:
    return FilmTarget(number, title, **{"files": _PLAYED, "width": 1280, "height": 720, "lasts": 65_000, **facts})


def a_sound(number: int, title: str, **facts: Any) -> FilmTarget:
    files = (ImageFile("/media/s.m4a", 0, 0, 400_000, "audio/mp4", "sound"),)
    return FilmTarget(number, title, "sound", **{"files": files, "lasts": 40_000, **facts})


HEADGATE = FilmHost(
    "Headgate Films",
    ("https://films.example/watch/*",),
    "https://films.example/oembed",
    "https://play.films.example",
    {"start": "t={}", "captions": "cc=1", "autoplay": "begin=1"},
)


def elsewhere(number: int, title: str, **facts: Any) -> HostedTarget:
    address, frame = f"https://films.example/watch/{number}", f"https://play.films.example/{number}?key=a%26b"
    return HostedTarget(
        number,
        title,
        **{"address": address, "host": HEADGATE, "provider": "Headgate", "frame": frame, "lasts": 125, **facts},
    )


KNOWN = FixedResolver(
    pages={
        1: PageTarget(1, "Boat licence", "/boating/boat-licence", frozenset({"prices"})),
        2: PageTarget(2, "Here", "/here"),
        3: PageTarget(3, "Hidden", None),
    },
    pictures={
        1: a_picture(1, "lock-gates", ""),
        2: a_picture(2, "aqueduct", "Four tall arches"),
        3: a_picture(3, "swirl", "", decorative=True),
        4: a_picture(4, "notice", "Notice of the stoppage", words=True),
        5: a_picture(5, "filling", "A lock filling", moves=float("inf")),
        6: a_picture(6, "huge", "A huge scene", files=(ImageFile("/media/h.jpg", 1200, 900, 900_000, JPEG.mime),)),
        17: a_picture(17, "old", "An old map", reach="binned"),
    },
    items={
        7: ItemTarget(7, "Boat licence form", "/media/form.pdf", "PDF", 212_345),
        8: ItemTarget(8, "Minutes", "/media/minutes.pdf", "PDF", 2_500_000, "signed in"),
        9: ItemTarget(9, "Plan", "/media/plan.docx", "DOCX", 800, "elsewhere"),
        10: ItemTarget(10, "An old plan", "/media/plan.pdf", "PDF", 900, wanting=("words",)),
        11: ItemTarget(11, "A newsletter", "/media/news.pdf", "PDF", 900, wanting=("tags", "language", "title")),
        12: ItemTarget(12, "A locked one", "/media/locked.pdf", "PDF", 900, wanting=("password",)),
        13: ItemTarget(13, "A handbook", "/media/book.pdf", "PDF", 900, wanting=("language",)),
    },
    films={
        20: a_film(20, "Through Lock 4"),
        21: a_film(21, "How to open a sluice", tracks=(ENGLISH,)),
        22: a_film(22, "MVI_0042.MOV", heard=False),
        23: a_film(23, "Quiet water", files=(), progress=40, heard=False),
        24: a_film(24, "Half a film", files=(), problem="It breaks off."),
        25: a_film(25, "Drafted", tracks=(replace(ENGLISH, drafted=True, faults={"uncovered": 2, "order": 1}),)),
        26: a_film(26, "Still to be given", unfinished=("en",)),
        27: a_film(27, "Gone to the bin", tracks=(ENGLISH,), reach="binned"),
        30: a_sound(30, "A warden tells"),
        31: a_sound(31, "A warden tells more", tracks=(ENGLISH,)),
    },
    elsewhere={
        40: elsewhere(40, "Over the aqueduct", cover=a_picture(40, "Over the aqueduct", "")),
        41: elsewhere(41, "The last pair of gates", captioned=True),
        42: elsewhere(42, "Taken away", gone="Headgate Films has this film no more."),
        43: elsewhere(43, "From a host that is not allowed", host=None),
        44: elsewhere(44, "In the bin", reach="binned"),
    },
    faults={"https://gone.example/": "the server answers 404."},
)

FULL = Around(
    title="Towpath walks",
    description="Three walks along the canal, from half an hour to half a day.",
    path="/visit/towpath-walks",
    site="Varrow Canal Trust",
    theme=THEME,
    weight=100_000,
    budget=1_000_000,
)
"""A page of which everything around the document is right."""


def findings(*blocks: Node, around: Around = FULL, resolver: FixedResolver = KNOWN) -> list[Finding]:
    return check_page(Subject(document(*blocks), resolver, around))


def found(*blocks: Node, around: Around = FULL) -> list[str]:
    return [finding.check for finding in findings(*blocks, around=around)]


class CheckTest(TestCase):
    """``assertFound`` and ``assertRight`` for one check at a time; other findings of the same text do not count."""

    check = ""
    resolver = KNOWN

    def of(self, blocks: tuple[Node, ...], around: Around) -> list[Finding]:
        found = findings(*blocks, around=around, resolver=self.resolver)
        return [each for each in found if each.check == self.check]

    def assertFound(self, *blocks: Node, times: int = 1, around: Around = FULL) -> Finding:
        these = self.of(blocks, around)
        self.assertEqual(len(these), times, [each.sentence for each in these])
        return these[0]

    def assertRight(self, *blocks: Node, around: Around = FULL) -> None:
        self.assertEqual([each.sentence for each in self.of(blocks, around)], [])

    def assertMended(self, *blocks: Node, into: tuple[Node, ...], repair: int = 0) -> None:
        """The first finding's repair makes these blocks of those, and nothing is found there any more."""
        finding = self.assertFound(*blocks)
        changes = finding.repairs[repair].changes
        self.assertFalse(any(isinstance(change, SetFact) for change in changes))
        after = apply(document(*blocks), changes)
        self.assertEqual(after, document(*into))
        self.assertRight(*body(after))

"""What the tests of the checks share: what the library and the site hold, and what is found in some blocks."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from stillpage_core.checking import Around, Finding, Subject, Theme, check_page
from stillpage_core.document.changes import SetFact, apply
from stillpage_core.document.node import Node
from stillpage_core.media.pictures import JPEG
from stillpage_core.resolving import FixedResolver, ImageFile, ItemTarget, PageTarget, PictureTarget

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


def findings(*blocks: Node, around: Around = FULL) -> list[Finding]:
    return check_page(Subject(document(*blocks), KNOWN, around))


def found(*blocks: Node, around: Around = FULL) -> list[str]:
    return [finding.check for finding in findings(*blocks, around=around)]


class CheckTest(TestCase):
    """``assertFound`` and ``assertRight`` for one check at a time; other findings of the same text do not count."""

    check = ""

    def of(self, blocks: tuple[Node, ...], around: Around) -> list[Finding]:
        return [each for each in findings(*blocks, around=around) if each.check == self.check]

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

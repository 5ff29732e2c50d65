"""The listening view against Chromium's accessibility tree, which follows HTML-AAM, ARIA and the computation of
accessible names (W3C): the same roles, levels and names in the same order, and the same words."""

import re
from collections.abc import Iterator
from typing import Any

from django.conf import settings
from hypothesis import HealthCheck, Phase, given
from hypothesis import settings as how

from stillpage.publishing.models import LiveCopy
from stillpage_core.writing import Link, PageParts, Site, ThemeFiles, render_page
from stillpage_core.writing.html import published_html
from stillpage_core.writing.listening import Heard, heard, marked_html, spoken

from ..browser.base import DemoTest
from ..core import many
from ..core.checks.base import KNOWN
from ..core.documents import DOCUMENTS, every_kind

THEME = settings.ROOT / "theme" / "page.css"
_SAME = {
    "Figcaption": "figcaption",
    "MathMLMath": "math",
    "LayoutTable": "table",
    "LayoutTableRow": "row",
    "Video": "video",
    "Audio": "audio",
}
"""Chromium's own names for roles."""
_GUESSED = "LayoutTableCell"
"""A cell of a table that Chromium takes for layout, as of one cell; a header cell is an ordinary one there."""
_COMPARED = frozenset(
    """banner navigation main contentinfo region group note heading paragraph list listitem link image figure figcaption
    blockquote separator table caption row cell columnheader rowheader math video
    audio""".split()
)
_NAMED = _COMPARED - {"math", "cell"}
"""An equation has no name for Chromium, and the name of an ordinary cell is nothing that is said: what is in it is."""
_LEVELLED = ("heading", "listitem")

Seen = tuple[str, int, str]


def words(text: str) -> str:
    return "".join(text.split())


def in_order(some: str, every: str) -> bool:
    """Whether all the letters of ``some`` stand in ``every``, in their order."""
    rest = iter(every)
    return all(letter in rest for letter in some)


def of_chromium(nodes: list[Any]) -> tuple[list[Seen], str]:
    by_id = {node["nodeId"]: node for node in nodes}
    seen: list[Seen] = []
    text: list[str] = []

    def visit(node: Any) -> None:
        role = _SAME.get(node["role"]["value"], node["role"]["value"])
        if not node.get("ignored"):
            name = str(node.get("name", {}).get("value", ""))
            if role == "StaticText":
                text.append(name)
            if role in _COMPARED or role == _GUESSED:
                level = next((each["value"]["value"] for each in node["properties"] if each["name"] == "level"), 0)
                seen.append(
                    (role, level if role in _LEVELLED else 0, words(name) if role in _NAMED or role == _GUESSED else "")
                )
        if role not in ("math", "video", "audio"):  # A player is one thing: its buttons are the browser's.
            for child in node.get("childIds", ()):
                visit(by_id[child])

    visit(nodes[0])
    return seen, words("".join(text))


def of_ours(things: list[Heard]) -> tuple[list[Seen], str]:
    def visit(thing: Heard) -> Iterator[Heard]:
        yield thing
        for child in thing.children:
            yield from visit(child)

    every = [each for thing in things for each in visit(thing)]
    seen = [
        (each.role, each.level if each.role in _LEVELLED else 0, words(each.name) if each.role in _NAMED else "")
        for each in every
        if each.role in _COMPARED
    ]
    return seen, words("".join(each.name for each in every if each.role in ("text", "folded")))


HEADERS = ("columnheader", "rowheader")


def _holds_media(heard, index):
    """Whether a film or a sound is heard after an entry and before the next cell or row."""
    for role, *_ in heard[index + 1 :]:
        if role in ("video", "audio"):
            return True
        if role in (*HEADERS, "cell", "row"):
            return False
    return False


class Listening(DemoTest):
    def tree_of(self, page):
        if not hasattr(page, "tree"):
            page.tree = page.context.new_cdp_session(page)
            page.tree.send("Accessibility.enable")
        return of_chromium(page.tree.send("Accessibility.getFullAXTree")["nodes"])

    def same(self, html, page, where=""):
        ours, our_words = of_ours(heard(html))
        theirs, their_words = self.tree_of(page)
        for index, (mine, other) in enumerate(zip(ours, theirs, strict=False)):
            if other[0] == _GUESSED and mine[0] in ("cell", "columnheader", "rowheader"):
                theirs[index] = mine
            elif mine[0] == other[0] and mine[0].endswith("header") and in_order(other[2], mine[2]):
                theirs[index] = mine  # Chromium looks through so many nodes for a name, and no more.
            elif mine[0] == other[0] and mine[0] in ("video", "audio") and other[2] == "Unabletoplaymedia.":
                theirs[index] = mine  # Here are no files to be played, which Chromium says in place of the name.
            elif mine[0] == other[0] and mine[0] in HEADERS and _holds_media(ours, index):
                theirs[index] = mine  # A header that holds a film is called by it, which here has no file either.
            elif mine[0] == other[0] == "link" and not other[2]:
                theirs[index] = mine  # A link without words, named by its title: Chromium minds a line break in it.
        self.assertEqual(ours, theirs, where)
        self.assertEqual(our_words, their_words, where)

    def test_every_live_page_of_the_demo_is_heard_as_chromium_has_it(self):
        with self.window(user=None) as page:
            # What is heard is what the page holds, not where its modules are just now.
            page.route(re.compile(r"/theme/(slideshow|animation)\."), lambda route: route.abort())
            lives = list(LiveCopy.objects.exclude(address=None).select_related("written__page__site"))
            self.assertGreater(len(lives), 15)
            for live in lives:
                page.goto(self.address(live.written.page))
                self.same(bytes(live.html).decode(), page, live.address)

    def test_two_hundred_random_documents_are_heard_as_chromium_has_them(self):
        style = re.sub(r"url\([^)]*\)", "none", THEME.read_text(encoding="utf-8"))
        site = Site("Varrow Canal Trust", "http://canal.localhost", "en", "canal", (Link("Visit", "/visit"),), "Foot.")
        with self.window(user=None) as page:

            @how(
                max_examples=many(200),
                phases=[Phase.generate],
                suppress_health_check=list(HealthCheck),
                deadline=None,
            )
            @given(DOCUMENTS)
            def hold(document):
                parts = PageParts("A title", "", "http://canal.localhost/a", published_html(document, KNOWN))
                # Without its module, what leads to a film elsewhere is a link.
                html = render_page(site, parts, ThemeFiles()).replace("data-frame", "data-led")
                page.set_content(html.replace("</head>", f"<style>{style}</style></head>"))
                self.same(html, page)

            hold()

    def test_marking_the_places_changes_nothing_that_is_heard(self):
        document = every_kind()
        marked = heard(f"<body>{marked_html(document, KNOWN)}</body>")
        self.assertEqual(of_ours(marked), of_ours(heard(f"<body>{published_html(document, KNOWN)}</body>")))
        places = [line.path for line in spoken(marked)]
        self.assertEqual(places[0], (0, 0))
        self.assertNotIn(None, places)
        self.assertEqual([path[0] for path in places], sorted(path[0] for path in places))

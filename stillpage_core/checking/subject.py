"""What is checked: a page as it is being written, and what is known around it.

The document is walked once; every check works on what was found then.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

from ..colour import Rgb
from ..document.changes import ReplaceText
from ..document.node import Mark, Node
from ..document.outline import Entry
from ..document.schema import SCHEMA
from ..document.walking import node_at, text_of, units
from ..errors import Path
from ..media.shown import Room, Rooms, room_of
from ..readability import Readability
from ..references import Reference, parse_reference
from ..resolving import Resolver
from ..writing.anchors import anchors_of


@dataclass(frozen=True)
class Theme:
    """What the site's theme offers: its tones, its text styles with their colours, and the grounds that words may
    stand on ("page", "note", "tip", "warning", "header"); and how much room its regions give to pictures."""

    tones: Mapping[str, Rgb]
    styles: Mapping[str, Rgb]
    grounds: Mapping[str, Rgb]
    rooms: Rooms = field(default_factory=dict)


@dataclass(frozen=True)
class Around:
    """What is known of the page and its site. None where it is not known: what asks for it is not checked then.

    ``title`` and ``description`` are the page's, ``path`` its address within the site. ``titles`` and
    ``descriptions`` are those of the site's other pages, in small letters, each with the address of a page that has
    it. ``weight`` is what readers load for the page, in bytes, and ``budget`` what they should at most.
    ``readability`` is that of the document where it has been reckoned already.
    """

    title: str | None = None
    description: str | None = None
    path: str | None = None
    site: str = ""
    titles: Mapping[str, str] = field(default_factory=dict)
    descriptions: Mapping[str, str] = field(default_factory=dict)
    language: str = "en"
    theme: Theme | None = None
    weight: int | None = None
    budget: int | None = None
    hardest_grade: float = 12
    readability: Readability | None = None
    copied_title: str = ""
    """The title of the page that this one was copied from."""
    film_limit: int | None = None
    """How many bytes a film of a page is to have at most."""


@dataclass(slots=True)
class Placed:
    """A node with its path, and the kinds of the nodes around it, from the document inwards."""

    path: Path
    node: Node
    within: tuple[str, ...]


@dataclass(slots=True)
class Words(Placed):
    """A block of words. ``flat`` has one character for everything that counts as one position at least: a line break
    is a newline, a formula U+FFFC."""

    flat: str
    plain: bool
    """Whether positions are indexes of ``flat``, as they are unless it has characters beyond U+FFFF."""

    def position(self, index: int) -> int:
        """The position (as in `document.walking`) of an index of ``flat``."""
        return index if self.plain else units(self.flat[:index])

    def span(self, start: int, end: int) -> tuple[int, int]:
        """Two indexes of ``flat`` as positions."""
        return (start, end) if self.plain else (self.position(start), self.position(end))

    def replaced(self, start: int, end: int, text: str) -> ReplaceText:
        """Other words in place of those between two indexes of ``flat``."""
        return ReplaceText(self.path, *self.span(start, end), text)

    @property
    def size(self) -> int:
        """The last position."""
        return self.position(len(self.flat))

    @property
    def kind(self) -> str:
        return self.node.kind


@dataclass(slots=True)
class Link:
    """A link: a run of words with a destination (``mark``), or a call to action (then ``mark`` is None)."""

    path: Path
    start: int
    end: int
    text: str
    href: str
    reference: Reference | None
    mark: Mark | None
    named: bool = True
    """Whether a letter or figure is among its words; an equation gives no name."""
    code: bool = False
    """Whether its words are code: “link” may be the name of an element then."""

    @property
    def span(self) -> tuple[int, int] | None:
        return (self.start, self.end) if self.mark else None

    def saying(self, words: str) -> ReplaceText:
        """The link with other words."""
        return ReplaceText(self.path, self.start, self.end, words)

    @property
    def new_window(self) -> bool:
        return bool(self.mark and self.mark.attrs["new_window"])


class Subject:
    """A page to be checked: its document, a resolver that knows what it names, and what is known around it."""

    def __init__(self, document: Node, resolver: Resolver, around: Around | None = None) -> None:
        self.document = document
        self.resolver = resolver
        self.around = around or Around()
        self.words: list[Words] = []
        """Every block of words, in reading order."""
        self._by_kind: dict[str, list[Placed]] = {}
        self._walk(document, (), ())

    def nodes(self, *kinds: str) -> list[Placed]:
        """Every block of these kinds, in reading order where one kind is asked for; formulas count as blocks here."""
        if len(kinds) == 1:
            return self._by_kind.get(kinds[0], [])
        return [each for kind in kinds for each in self._by_kind.get(kind, [])]

    def _walk(self, node: Node, path: Path, within: tuple[str, ...]) -> None:
        kind = SCHEMA.nodes[node.kind]
        if kind.is_textblock:
            flat = "".join(
                child.text if child.kind == "text" else "\n" if child.kind == "line_break" else "\ufffc"
                for child in node.content
            )
            placed: Placed = Words(path, node, within, flat, flat.isascii() or max(flat) < "\U00010000")
            self.words.append(placed)  # type: ignore[arg-type]
            if "\ufffc" in flat:
                inside = (*within, node.kind)
                for index, child in enumerate(node.content):
                    if child.kind == "formula":
                        self._by_kind.setdefault("formula", []).append(Placed((*path, index), child, inside))
        else:
            placed = Placed(path, node, within)
        self._by_kind.setdefault(node.kind, []).append(placed)
        if not kind.is_textblock and node.content:
            inside = (*within, node.kind)
            for index, child in enumerate(node.content):
                self._walk(child, (*path, index), inside)

    @cached_property
    def headings(self) -> list[Entry]:
        """The headings in reading order."""
        return [
            Entry(each.node.attrs["level"], " ".join(text_of(each.node).split()), each.path)
            for each in self.nodes("heading")
        ]

    @cached_property
    def links(self) -> list[Link]:
        """Every link that has a destination, calls to action among them, in reading order."""
        found: list[Link] = []
        for words in self.words:
            node = words.node
            if node.kind == "call_to_action":
                if href := node.attrs["href"]:
                    reference = parse_reference(href)
                    found.append(Link(words.path, 0, words.size, words.flat, href, reference, None))
            else:
                found += _links_in(words)
        return found

    @cached_property
    def leads(self) -> list[Link]:
        """Every link, those of slides and of pages to read next too; these have no words of their own to be changed."""
        slides = [
            Link(each.path, 0, 0, _line_of(each.node), href, parse_reference(href), None)
            for each in self.nodes("slide", "further")
            if (href := each.node.attrs["href"])
        ]
        return [*self.links, *slides]

    @cached_property
    def anchors(self) -> frozenset[str]:
        """The ids that links to places of this page may name."""
        return frozenset(anchors_of(self.document).values())

    @cached_property
    def running(self) -> list[Words]:
        """The blocks of running text: paragraphs, wherever they stand, that hold words."""
        return [each for each in self.words if each.node.kind == "paragraph" and each.flat.strip()]

    def at(self, path: Path) -> Node:
        """The node at a path."""
        return node_at(self.document, path)

    def title_of(self, link: Link) -> str | None:
        """The title of the page or item that a link leads to; None where it names none that is known."""
        reference = link.reference
        if reference is None or reference.number is None:
            return None
        known = (
            self.resolver.page(reference.number) if reference.kind == "page" else self.resolver.item(reference.number)
        )
        return known.title.strip() if known else None

    def alt_of(self, picture: Node) -> str:
        """What is read out in a picture's place; "" where nothing is."""
        target = self.resolver.picture(picture.attrs["item"])
        if target is None or picture.attrs["decorative"]:
            return ""
        own = (picture.attrs["alt"] or "").strip()
        return own or ("" if target.decorative else target.alt.strip())

    def room_of(self, path: Path) -> Room:
        """The room for a picture at a path."""
        return room_of(self.document, path, self.around.theme.rooms if self.around.theme else None)

    def ground_of(self, words: Words) -> str:
        """What the words stand on, by its name in `Theme.grounds`."""
        if "table_header" in words.within:
            return "header"
        for index, kind in enumerate(words.within):
            if kind == "aside":
                return str(self.at(words.path[:index]).attrs["sort"])
        return "page"


def _line_of(node: Node) -> str:
    """The line of a slide, or of a page to read next, that is its link."""
    return node.attrs.get("heading") or node.attrs["words"] or f"The entry {node.attrs['href']}"


def _links_in(words: Words) -> list[Link]:
    found: list[Link] = []
    mark_before: Mark | None = None
    position = 0
    for child in words.node.content:
        size = units(child.text) if child.kind == "text" else 1
        mark = next((each for each in child.marks if each.kind == "link"), None) if child.marks else None
        if mark is not None:
            said = child.text if child.kind == "text" else text_of(child)
            named = child.kind == "text" and any(map(str.isalnum, child.text))
            code = any(each.kind == "code" for each in child.marks)
            if mark == mark_before:
                found[-1].end = position + size
                found[-1].text += said
                found[-1].named = found[-1].named or named
                found[-1].code = found[-1].code and code
            else:
                href = mark.attrs["href"]
                reference = parse_reference(href)
                found.append(Link(words.path, position, position + size, said, href, reference, mark, named, code))
        mark_before = mark
        position += size
    return found

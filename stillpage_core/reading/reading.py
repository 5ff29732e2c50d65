"""What a reader gives back: a document, the pictures that came with it, and what was done on the way."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from ..document.fitting import said_of
from ..document.node import Mark, Node, document_of, make
from ..document.normal import normal_form
from ..document.schema import SCHEMA
from ..document.walking import blocks_of, runs_with, walk
from ..errors import ReadingError
from ..writing.anchors import numbered
from .regions import apart

PROVISIONAL = 900_000_000_000_000
"""Pictures and pages that have no number yet are numbered from here until they have one."""


@dataclass(frozen=True)
class Message:
    """A sentence on something that was mended on the way in, or left out."""

    sort: Literal["mended", "dropped"]
    sentence: str


@dataclass(frozen=True)
class Picture:
    """A picture (or, by its ``kind``, a film, a sound, or a film at another host) that came along and is not in the
    library yet; the document names it by its provisional ``number``.

    ``data`` are its bytes where they came along, otherwise ``address`` says where they are to be had. ``name`` is the
    name of its file, as far as it is known. ``instead`` stands in its place where it is not to be had.
    """

    number: int
    address: str = ""
    data: bytes | None = None
    name: str = ""
    alt: str = ""
    kind: Literal["picture", "film", "sound", "hosted", "animation", "post"] = "picture"
    instead: tuple[Node, ...] = ()


@dataclass(frozen=True)
class Reading:
    """A valid document in normal form, what was done on the way, and the title and the description, where the text has
    its own."""

    document: Node
    messages: tuple[Message, ...] = ()
    pictures: tuple[Picture, ...] = ()
    title: str | None = None
    description: str | None = None

    @property
    def kept(self) -> tuple[str, ...]:
        """What of the structure was kept, as in “3 headings”."""
        return tuple(
            f"{count:,} {one if count == 1 else many}" for one, many, count in _counted(self.document) if count
        )


def _counted(document: Node) -> list[tuple[str, str, int]]:
    found = Counter(node.kind for _, node in walk(document))
    links = sum(1 for _ in runs_with(document, "link"))
    equations = found["equation"] + found["formula"]
    emphasised = sum(1 for mark in ("strong", "emphasis") for _ in runs_with(document, mark))
    paragraphs = sum(1 for _, node in blocks_of(document) if node.kind == "paragraph" and node.content)
    return [
        ("paragraph", "paragraphs", paragraphs),
        ("heading", "headings", found["heading"]),
        ("list", "lists", found["bulleted_list"] + found["numbered_list"]),
        ("table", "tables", found["table"]),
        ("link", "links", links),
        ("picture", "pictures", found["picture"]),
        ("equation", "equations", equations),
        ("quotation", "quotations", found["quotation"]),
        ("stressed passage", "stressed passages", emphasised),
    ]


def has_words(text: object) -> bool:
    """Whether there is a letter or a digit in a text."""
    return any(map(str.isalnum, str(text)))


_SHOWN = frozenset(
    """picture film sound hosted downloads gallery slideshow paper animation post read_next
    formula equation divider""".split(),
)
"""The kinds of node that are something to see, whatever their words."""


def _says_something(block: Node) -> bool:
    return any(has_words(node.text) or node.kind in _SHOWN for _, node in walk(block))


NAMED = 8
"""How many of the links that are left out are told by their addresses, and of the pictures by their alt texts."""
_FLATTENED = {
    "heading": ("A heading", "headings"),
    "table": ("A table", "tables"),
    "preformatted": ("Preformatted text", "blocks of preformatted text"),
    "quotation": ("A quotation", "quotations"),
    "aside": ("An aside", "asides"),
    "call_to_action": ("A call to action", "calls to action"),
    "bulleted_list": ("A list", "lists"),
    "numbered_list": ("A list", "lists"),
}


class Told:
    """Gathers what a reader has to tell. Each thing is told once, with its number."""

    def __init__(self) -> None:
        self._links: set[str] = set()
        self._alts: set[str] = set()
        self._counts: dict[tuple[Literal["mended", "dropped"], str, str], int] = {}

    def mended(self, one: str, many: str = "", count: int = 1) -> None:
        """Something was put right: a sentence for one case, and one with ``{}`` for the number of several."""
        self._count(("mended", one, many or one), count)

    def dropped(self, one: str, many: str = "", count: int = 1) -> None:
        """Something was left out."""
        self._count(("dropped", one, many or one), count)

    def within(self, words: str, most: int, what: str) -> str:
        """Words of which only so many characters may be kept as the alt text, the caption …; the rest is told."""
        if len(words) <= most:
            return words
        cut = words.rfind(" ", most // 2, most)
        cut = most if cut < 0 else cut
        self.dropped(f"The end of a very long {what} was left out: {words[cut:].strip()}")
        return words[:cut]

    def flattened(self, kind: str) -> None:
        """A block became paragraphs, as none of its kind may stand where it stood (`document.fitting`)."""
        if name := _FLATTENED.get(kind):
            one, many = name
            where = "within a list, a quotation or a table became"
            self.mended(f"{one} {where} a paragraph", f"{{}} {many} {where} paragraphs")

    def link(self, address: str) -> None:
        """A link was left out, since its address may not stand in a document, or leads nowhere; its words stay. The
        first few are told by their addresses."""
        if address not in self._links and len(self._links) >= NAMED:
            self.dropped("Another link was left out, its words stay", "{} more links were left out, their words stay")
            return
        self._links.add(address)
        sentence = f"A link to “{address[:60]}” was left out, its words stay"
        self.dropped(sentence, f"{sentence} ({{}} times)")

    def without_file(self, alt: str) -> None:
        """A picture was left out, since its file did not come along; the first few are told by their alt texts."""
        one, many = "A picture that came without its file was left out", "{} pictures that came without their files"
        words = " ".join(alt.split())
        if not words or (words not in self._alts and len(self._alts) >= NAMED):
            self.dropped(one, f"{many} were left out")
            return
        self._alts.add(words)
        sentence = f"{one}. It showed: “{words}”"
        self.dropped(sentence, f"{sentence} ({{}} times)")

    def place(self, *, moved: bool) -> None:
        """A link led to a place of the text; it may be ``moved`` to the heading of its section."""
        if moved:
            one = "A link to a place within a section leads to its heading"
            self.mended(one, "{} links to places within sections lead to their headings")

    def picture(self, marks: Iterable[Mark]) -> None:
        """A picture came within these marks; it bears none, and a link around it is left out."""
        if any(mark.kind == "link" for mark in marks):
            self.dropped("A link around a picture was left out", "{} links around pictures were left out")

    @property
    def has_dropped(self) -> bool:
        """Whether anything was left out."""
        return any(sort == "dropped" for sort, *_ in self._counts)

    def _count(self, key: tuple[Literal["mended", "dropped"], str, str], count: int) -> None:
        if count:
            self._counts[key] = self._counts.get(key, 0) + count

    def messages(self) -> tuple[Message, ...]:
        """What was told, what was mended first."""
        all_of_them = [
            Message(sort, one if count == 1 else many.replace("{}", f"{count:,}"))
            for (sort, one, many), count in self._counts.items()
        ]
        return tuple(sorted(all_of_them, key=lambda message: message.sort != "mended"))


def as_it_stands(address: str) -> str | None:
    """The surroundings of a text that stands alone: nothing is known of what its addresses lead to."""
    return None


def no_post(address: str, in_code: bool) -> bool:
    """The surroundings of a text that stands alone: no network is known."""
    return False


@dataclass
class Arriving:
    """What goes along while a text is read: what is told, the pictures met, and what its addresses lead to.

    ``link`` is asked for every address that may not stand in a document as it is, a relative one, say; it answers
    with one that may, or None. ``post`` is asked whether what stands at the address of a quotation is shown as a post
    of a network, and is told whether the quotation is a code that a network gives, with a script beside it. ``whole``
    tells that the text is a page of its own and may begin with its title.
    """

    link: Callable[[str], str | None] = as_it_stands
    post: Callable[[str, bool], bool] = no_post
    whole: bool = False
    told: Told = field(default_factory=Told)
    pictures: list[Picture] = field(default_factory=list)
    title: str | None = None
    description: str | None = None
    _by_address: dict[str, int] = field(default_factory=dict)

    def picture(
        self,
        address: str = "",
        data: bytes | None = None,
        name: str = "",
        alt: str = "",
        kind: Literal["picture", "film", "sound", "hosted", "animation"] = "picture",
    ) -> int:
        """Take note of a picture, or a film or sound; returns its provisional number. The same address again is the
        same."""
        if address in self._by_address:
            return self._by_address[address]
        number = PROVISIONAL + len(self.pictures)
        self.pictures.append(Picture(number, address, data, name, alt, kind))
        if address:
            self._by_address[address] = number
        return number

    def quoted(self, address: str, instead: Sequence[Node]) -> int:
        """Take note of a post of a network that is quoted with these blocks; returns its provisional number."""
        number = PROVISIONAL + len(self.pictures)
        self.pictures.append(Picture(number, address, kind="post", instead=tuple(instead)))
        return number

    def finished(self, blocks: Sequence[Node], came_with_words: Callable[[], bool] | None = None) -> Reading:
        """The reading of these blocks, and of the regions among them (`regions`); a document without any gets one empty
        paragraph.

        Raises:
            ReadingError: when there are no words in it, none were told to be left out, and yet the source
                ``came_with_words``: better no document than an empty one that nobody is warned of.
        """
        if (
            came_with_words is not None
            and not self.title
            and not self.told.has_dropped
            and not any(map(_says_something, blocks))
            and came_with_words()
        ):
            raise ReadingError(
                "There are words in this, and none of them could be read. Nothing was changed. Save it in another "
                "format, as HTML or plain text, and try that; and keep the file for whoever looks after Still Page."
            )
        main, others = apart(blocks)
        document = normal_form(document_of(main, others))
        named = named_items((document, *(block for picture in self.pictures for block in picture.instead)))
        pictures = tuple(picture for picture in self.pictures if picture.number in named)
        return Reading(document, self.told.messages(), pictures, self.title, self.description)


_ITEMS = ("picture", "film", "sound", "hosted", "animation", "post")
"""The kinds of node that show an item."""


def named_items(nodes: Iterable[Node]) -> set[int]:
    """The numbers of the items that these nodes show, and that what stands within them shows."""
    return {each.attrs["item"] for node in nodes for _, each in walk(node) if each.kind in _ITEMS}


def with_pictures(
    document: Node, numbers: Mapping[int, int | None], instead: Mapping[int, tuple[Node, ...]] | None = None
) -> Node:
    """The document with provisional pictures named by their numbers in the library. In the place of one whose number is
    None stands what is given ``instead`` of it; without any it is left out. Its caption stays as a paragraph."""

    def settled(node: Node) -> list[Node]:
        if node.kind in _ITEMS and node.attrs["item"] in numbers:
            number = numbers[node.attrs["item"]]
            if number is not None:
                return [node.with_attrs(item=number)]
            other = [each for block in (instead or {}).get(node.attrs["item"], ()) for each in settled(block)]
            caption = node.attrs["caption"]
            return [*other, make("paragraph", [Node("text", text=caption)])] if caption else other
        if not node.content or node.content[0].kind == "text":
            return [node]
        content = [each for child in node.content for each in settled(child)]
        if content == list(node.content):
            return [node]
        allowed = SCHEMA.contents[node.kind]
        if "paragraph" in allowed.names:
            return [node.with_content(content or [make("paragraph")])]
        # What holds pictures alone: captions of those that are gone stand below it, and so do the words of a slide.
        held = [each for each in content if each.kind in allowed.names]
        below = [each for each in content if each.kind not in allowed.names]
        return [*([node.with_content(held)] if allowed.allows(each.kind for each in held) else said_of(node)), *below]

    return settled(document)[0] if numbers else document


def with_fresh_anchors(document: Node, taken: Collection[str]) -> Node:
    """The document with anchors that a page has not got yet, its links to them going along."""
    own = [str(node.attrs["anchor"]) for _, node in walk(document) if node.attrs.get("anchor")]
    used = set(taken)
    last: dict[str, int] = {}
    renamed: dict[str, str] = {}
    for anchor in dict.fromkeys(own):
        renamed[anchor] = numbered(anchor[:90] if anchor in used else anchor, used, last)

    def fresh(node: Node) -> Node:
        attrs = node.attrs
        if attrs.get("anchor"):
            attrs = {**attrs, "anchor": renamed[attrs["anchor"]]}
        marks = tuple(
            type(mark)("link", {**mark.attrs, "href": f"#{renamed[mark.attrs['href'][1:]]}"})
            if mark.kind == "link" and mark.attrs["href"][1:] in renamed and mark.attrs["href"][0] == "#"
            else mark
            for mark in node.marks
        )
        return Node(node.kind, attrs, tuple(fresh(child) for child in node.content), marks, node.text)

    return fresh(document) if any(old != new for old, new in renamed.items()) else document


def with_pages(document: Node, numbers: Mapping[int, int]) -> Node:
    """The document with links to provisional pages leading to the pages that were made of them."""

    def led(address: str | None) -> str | None:
        if address is None or not address.startswith("page:"):
            return address
        number, mark, fragment = address.removeprefix("page:").partition("#")
        return f"page:{numbers.get(int(number), int(number))}{mark}{fragment}"

    def settled(node: Node) -> Node:
        marks = node.marks
        if any(mark.kind == "link" for mark in marks):
            marks = tuple(
                type(mark)("link", {**mark.attrs, "href": led(mark.attrs["href"])}) if mark.kind == "link" else mark
                for mark in marks
            )
        attrs = {**node.attrs, "href": led(node.attrs["href"])} if "href" in node.attrs else node.attrs
        return Node(node.kind, attrs, tuple(settled(child) for child in node.content), marks, node.text)

    return settled(document) if numbers else document

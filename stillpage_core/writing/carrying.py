"""What goes along when a page goes out to a file: its title, its pictures, and where its links lead out there."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from ..document.node import Node, make
from ..document.walking import blocks_of, text_of, walk
from ..errors import Path
from ..media.animations import cut_for
from ..media.playing import told, transcribed, transcript_name
from ..references import parse_reference
from ..resolving import AnimationTarget, AnyFilm, HostedTarget, ItemTarget, PostTarget


@dataclass(frozen=True)
class PictureFile:
    """A picture with its bytes. ``width`` and ``height`` in pixels; ``alt`` is the library's own alt text, and
    ``decorative`` that it says so of it."""

    name: str
    mime: str
    data: bytes
    width: int
    height: int
    alt: str = ""
    decorative: bool = False


def as_written(href: str) -> str | None:
    """Links as they stand in the document; those that only mean something within it lead nowhere outside."""
    reference = parse_reference(href)
    return href if reference and reference.kind not in ("page", "item") else None


def looks_of(node: Node) -> str:
    """What tells one look of a film or an animation from its others: the cover that a use names, or its colours."""
    return cut_for(node.attrs["colours"]) if node.kind == "animation" else node.attrs.get("cover") or ""


@dataclass(frozen=True)
class Carried:
    """The page around the document. ``leads`` gives the address of a link outside, or None where it has none."""

    title: str = ""
    pictures: Mapping[int, PictureFile] = field(default_factory=dict)
    leads: Callable[[str], str | None] = as_written
    language: str = "en-GB"
    description: str = ""
    films: Mapping[int, AnyFilm] = field(default_factory=dict)
    """The films and sounds, and the films elsewhere, with the addresses at which readers get them."""
    items: Mapping[int, ItemTarget] = field(default_factory=dict)
    """The documents of lists of downloads."""
    covers: Mapping[int, Mapping[str, int]] = field(default_factory=dict)
    """Films and animations by number: the number of the picture among ``pictures`` that shows each, by `looks_of` a
    use."""
    animations: Mapping[int, AnimationTarget] = field(default_factory=dict)
    posts: Mapping[int, PostTarget] = field(default_factory=dict)

    def cover_of(self, node: Node) -> int | None:
        """The number of the picture that shows a film or an animation at this use."""
        return self.covers.get(node.attrs["item"], {}).get(looks_of(node))

    def still_of(self, node: Node) -> Node | None:
        """A frame of an animation that goes along, as a picture that stands as it does."""
        number = self.cover_of(node)
        if number is None:
            return None
        target = self.animations.get(node.attrs["item"])
        standing = {name: node.attrs[name] for name in ("width", "place", "space", "border", "caption", "decorative")}
        alt = node.attrs["alt"] or (target.alt if target else "")
        return make("picture", item=number, alt=alt or None, **standing)


@dataclass(frozen=True)
class Notes:
    """The footnotes of a document: anchor → number and item. ``lists`` are the paths of the lists that hold them."""

    items: Mapping[str, tuple[int, Node]]
    lists: frozenset[Path]

    def of(self, node: Node) -> str | None:
        """The anchor of the note that some words are the sign of: its number, raised, leading to it."""
        marks = {mark.kind: mark for mark in node.marks}
        if node.kind != "text" or "link" not in marks or "superscript" not in marks:
            return None
        anchor = str(marks["link"].attrs["href"]).removeprefix("#")
        known = self.items.get(anchor)
        return anchor if known and node.text == str(known[0]) else None


def notes_of(document: Node) -> Notes:
    """Lists whose every item is led to by its number are notes; they count on through the document."""
    led = {
        (str(mark.attrs["href"])[1:], node.text)
        for _, node in walk(document)
        for mark in node.marks
        if mark.kind == "link" and str(mark.attrs["href"]).startswith("#")
        if any(other.kind == "superscript" for other in node.marks)
    }
    items: dict[str, tuple[int, Node]] = {}
    lists: set[Path] = set()
    for place, block in blocks_of(document):
        if block.kind != "numbered_list" or block.attrs["start"] != len(items) + 1:
            continue
        anchors = [item.attrs["anchor"] for item in block.content]
        numbered = [(anchor, str(number)) for number, anchor in enumerate(anchors, start=len(items) + 1)]
        fresh = len(set(anchors)) == len(anchors) and not set(anchors) & set(items)
        if fresh and all(each in led for each in numbered):
            for (anchor, number), item in zip(numbered, block.content, strict=True):
                items[anchor] = (int(number), item)
            lists.add(place)
    return Notes(items, frozenset(lists))


def alt_written(picture: Node) -> str:
    """The alt text that a picture has on the page itself; "" where it has none, or needs none."""
    return "" if picture.attrs["decorative"] else str(picture.attrs["alt"] or "")


def marks_by_kind(node: Node) -> dict[str, dict[str, object]]:
    """The marks of some words: kind → attributes. Words are raised or lowered, not both."""
    marks = {mark.kind: dict(mark.attrs) for mark in node.marks}
    if "superscript" in marks:
        marks.pop("subscript", None)
    return marks


def alt_of(node: Node, carried: Carried) -> str:
    """What stands for a picture where it cannot be seen."""
    file = carried.pictures.get(node.attrs["item"])
    return "" if node.attrs["decorative"] else node.attrs["alt"] or (file.alt if file else "")


@dataclass(frozen=True)
class FilmWords:
    """A film or sound in a format that plays none: the words of a link to it (in brackets where it leads nowhere), its
    caption, and the paragraphs of its transcript, the first of them its name."""

    link: str
    caption: str
    transcript: tuple[str, ...]


def film_words(node: Node, films: Mapping[int, AnyFilm]) -> FilmWords:
    """What stands for a film or sound where it cannot be played."""
    target = films.get(node.attrs["item"])
    caption = node.attrs["caption"] or ""
    if target is None:
        return FilmWords("", caption, ())
    if isinstance(target, HostedTarget):
        return FilmWords(told(target), caption, ())
    track = transcribed(target) if node.attrs.get("transcript") else None
    return FilmWords(told(target), caption, (f"{transcript_name(track)}:", *track.paragraphs) if track else ())


def cover_node(node: Node, carried: Carried) -> Node | None:
    """The picture of a film that goes along, as a node, standing as the film does."""
    number = carried.cover_of(node) if node.kind != "sound" else None
    if number is None:
        return None
    standing = {name: node.attrs[name] for name in ("width", "place", "space", "border")}
    return make("picture", item=number, alt=carried.films[node.attrs["item"]].title or None, **standing)


def lines_of(node: Node) -> list[str]:
    """The lines of preformatted text."""
    return text_of(node).split("\n")

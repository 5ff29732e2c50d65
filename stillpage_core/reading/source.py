"""HTML written by hand → document, with what of it would be removed or changed, and where."""

from __future__ import annotations

import re
from dataclasses import dataclass
from html.parser import HTMLParser
from typing import Literal

from ..document.node import Node
from ..document.normal import normal_form
from ..document.schema import SCHEMA
from ..document.walking import units, walk
from ..errors import Path
from ..kinds.animation import SETTING as ANIMATION_SETTING
from ..kinds.film import SETTING as FILM_SETTING
from ..kinds.gallery import SETTING as GALLERY_SETTING
from ..kinds.hosted import SETTING as HOSTED_SETTING
from ..kinds.paper import SETTING as PAPER_SETTING
from ..kinds.picture import SETTING as PICTURE_SETTING
from ..kinds.slideshow import SETTING as SLIDESHOW_SETTING
from ..references import parse_reference
from ..writing.html import REGION
from ..writing.source import CARET
from .html import html_blocks
from .html.films import PLAYERS as FILM_PLAYERS
from .html.styles import meaning_of
from .reading import Arriving, Reading

_GONE = {
    "script": "a script",
    "style": "a style sheet",
    "iframe": "a framed page",
    "video": "a video",
    "audio": "a sound",
    "svg": "a drawing",
    "object": "an embedded object",
    "embed": "an embedded object",
    "canvas": "a drawing",
    "input": "a field",
    "select": "a field",
    "link": "a link to a style sheet",
    "meta": "words about the page",
    "template": "a template",
    "noscript": "words for browsers without scripts",
}
"""Elements that go with all that is in them."""
_OTHERWISE = {"b": "strong", "i": "em", "strike": "s", "del": "s", "tt": "code", "kbd": "code", "samp": "code"} | {
    "h1": "h2",
    "menu": "ul",
    "dfn": "em",
    "cite": "em",
    "var": "em",
    "ins": "u",
}
_SETTINGS = (PICTURE_SETTING, *FILM_SETTING.values(), HOSTED_SETTING, ANIMATION_SETTING)
_HELD = [f"data-{name}" for name in (*GALLERY_SETTING, *SLIDESHOW_SETTING, *PAPER_SETTING)]
_ALLOWED: dict[str, set[str]] = {
    "img": {"src", "alt", "data-decorative"},
    "div": {
        "class",
        "data-sort",
        "role",
        "data-latex",
        "data-title",
        "data-new-window",
        REGION,
        "data-name",
        "data-pictures",
        *_HELD,
    },
    "p": {"class", "data-emphasis"},
    "span": {"class", "data-latex"},
    "table": set(),
    "thead": set(),
    "tfoot": set(),
    "math": {"display", "xmlns"},
    "figure": {"class", *(f"data-{name}" for names in _SETTINGS for name in names)},
    "video": {"src", "loop", "autoplay"},
    "audio": {"src", "loop"},
    "iframe": {"src"},
    "pre": {"class"},
    "code": {"class"},
}
_PLAYERS = (*FILM_PLAYERS, "iframe")
"""Elements that stay where they show an item."""
_ELEMENTS = [each.element for each in SCHEMA.nodes.values()] + [each.element for each in SCHEMA.marks.values()]
for _element in filter(None, _ELEMENTS):
    for _level in "23456" if "{level}" in _element.tag else "2":
        _ALLOWED.setdefault(_element.tag.format(level=_level), set()).update(_element.attributes)
for _tag, _other in _OTHERWISE.items():
    _ALLOWED[_tag] = _ALLOWED[_other]
_LINES = r"(?:p|h[1-6]|pre|figcaption|caption)"
_TO_WORDS = re.compile(rf"(?:\s*<(?!/?{_LINES}\b)[^>]*>)*\s*<{_LINES}\b[^>]*>")
_AFTER_BLOCK = re.compile(
    rf"(?:</(?:{_LINES}|li|ul|ol|div|table|tr|td|th|figure|blockquote)>"
    r"|<(?:hr|ul|ol|li|div|table|tbody|tr|td|th|figure|blockquote|img)\b[^>]*>)$"
)
_VOID = frozenset("area base br col embed hr img input link meta param source track wbr".split())
_OPTIONAL = frozenset("p li td th tr tbody thead tfoot dt dd".split())
"""Elements whose end HTML lets one leave out (HTML Living Standard, 13.1.2.4)."""


@dataclass(frozen=True)
class Note:
    """Something of the source that will not come through as written. ``start`` and ``end`` are positions in it, in
    UTF-16 code units."""

    start: int
    end: int
    sort: Literal["removed", "changed", "wrong"]
    sentence: str


@dataclass(frozen=True)
class SourceReading:
    """The document that the source means, what will not come through, and the caret's place in the document."""

    reading: Reading
    notes: tuple[Note, ...]
    caret: tuple[Path, int] | None


def read_source(html: str, caret: int | None = None, arriving: Arriving | None = None) -> SourceReading:
    """Read HTML as `writing.source` writes it, white space within blocks included. Never raises.

    ``caret`` is a position in ``html``, in UTF-16 code units.
    """
    arriving = arriving or Arriving()
    plain = html.replace(CARET, "")
    marked = _marked(plain, caret) if caret is not None else plain
    blocks, _ = html_blocks(marked, arriving, exact=True)
    reading = arriving.finished(blocks)
    document, place = _without_caret(reading.document)
    reading = Reading(document, reading.messages, reading.pictures)
    checker = _Checker(plain)
    return SourceReading(reading, tuple(sorted(checker.notes(), key=lambda note: note.start)), place)


def _marked(html: str, caret: int) -> str:
    """The source with `CARET` at a position; within a tag it moves behind it."""
    at = len(html.encode("utf-16-le")[: caret * 2].decode("utf-16-le", "ignore"))
    opened = html.rfind("<", 0, at)
    if opened >= 0 and ">" not in html[opened:at]:
        closed = html.find(">", at)
        at = closed + 1 if closed >= 0 else opened
    # Between blocks there are no words; the place moves into the next line's.
    before = html[:at].rstrip()
    if (not before or _AFTER_BLOCK.search(before)) and (match := _TO_WORDS.match(html, at)):
        at = match.end()
    return html[:at] + CARET + html[at:]


def _without_caret(document: Node) -> tuple[Node, tuple[Path, int] | None]:
    for path, node in walk(document):
        if not SCHEMA.nodes[node.kind].is_textblock:
            continue
        position = 0
        for child in node.content:
            if CARET in child.text:
                found = (path, position + units(child.text[: child.text.index(CARET)]))
                return normal_form(_bare(document)), found
            position += units(child.text) if child.kind == "text" else 1
    return normal_form(_bare(document)), None


def _bare(node: Node) -> Node:
    if node.kind == "text":
        return Node("text", {}, (), node.marks, node.text.replace(CARET, ""))
    attrs = {
        name: value.replace(CARET, "") or None if isinstance(value, str) and CARET in value else value
        for name, value in node.attrs.items()
    }
    content = tuple(_bare(child) for child in node.content)
    if node.kind == "paragraph" and len(content) == 1 and not content[0].text and content[0].kind == "text":
        content = ()
    return Node(node.kind, attrs, content, node.marks, node.text)


def _is_ours(attrs: list[tuple[str, str | None]]) -> bool:
    """Whether a player plays an item of the library."""
    reference = parse_reference(dict(attrs).get("src") or "")
    return reference is not None and reference.kind == "item"


class _Checker(HTMLParser):
    """Goes through the source and notes what the schema has no place for."""

    def __init__(self, html: str) -> None:
        super().__init__(convert_charrefs=True)
        self.html = html
        self.found: list[Note] = []
        self.opened: list[tuple[str, int]] = []
        self.gone = ""
        self.players: list[str] = []
        starts = [0]
        for line in html.split("\n"):
            starts.append(starts[-1] + len(line) + 1)
        self.starts = starts
        self.wide = any(ord(each) > 0xFFFF for each in html)

    def notes(self) -> list[Note]:
        self.feed(self.html)
        self.close()
        for tag, place in self.opened:
            if tag not in _OPTIONAL:
                self.note(place, place + len(tag) + 1, "wrong", f"<{tag}> is never closed.")
        return self.found

    def place(self) -> int:
        line, column = self.getpos()
        return self.starts[line - 1] + column

    def note(self, start: int, end: int, sort: Literal["removed", "changed", "wrong"], sentence: str) -> None:
        if self.wide:
            start, end = units(self.html[:start]), units(self.html[:end])
        self.found.append(Note(start, end, sort, sentence))

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if self.gone:
            return
        place = self.place()
        written = self.get_starttag_text() or ""
        end = place + len(written)
        if tag in _PLAYERS and _is_ours(attrs):
            self.players.append(tag)
        if tag in _GONE and not (self.players and self.players[-1] == tag):
            what = " with what is in it" if tag not in _VOID else ""
            self.note(place, end, "removed", f"<{tag}>, {_GONE[tag]}, will be left out{what}.")
            if tag not in _VOID and not written.endswith("/>"):
                self.gone = tag
            return
        if tag not in _VOID:
            self.opened.append((tag, place))
        if tag in _OTHERWISE:
            why = "; level 1 is the page’s title" if tag == "h1" else ""
            self.note(place, end, "changed", f"<{tag}> will be written as <{_OTHERWISE[tag]}>{why}.")
        elif tag not in _ALLOWED:
            self.note(place, end, "removed", f"<{tag}> will be left out; its words stay.")
            return
        for name, value in attrs:
            self.attribute(tag, name, value or "", place, written)

    def attribute(self, tag: str, name: str, value: str, place: int, written: str) -> None:
        found = re.search(rf"(?<=\s){re.escape(name)}(?=[\s=>/])", written, re.IGNORECASE)
        start = place + (found.start() if found else 0)
        end = start + len(name)
        if name not in _ALLOWED.get(tag, set()):
            meaning = meaning_of(value) if name == "style" else None
            extra = " Bold and italic have elements of their own." if meaning and meaning.marks else ""
            self.note(start, end, "removed", f"The attribute “{name}” of <{tag}> will be left out.{extra}")
        elif name in ("href", "src"):
            reference = parse_reference(value)
            fine = reference is not None and (name == "href" or reference.kind == "item")
            if value and not fine:
                what = "The link" if name == "href" else "The picture"
                stays = ", its words stay" if name == "href" else ": it is not in the media library"
                self.note(start, end, "removed", f"{what} “{value[:60]}” will be left out{stays}.")

    def handle_startendtag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.handle_starttag(tag, attrs)
        if self.opened and self.opened[-1][0] == tag and tag not in _VOID:
            # HTML has no elements that end themselves; such a tag opens one.
            place = self.place()
            self.note(place, place + len(tag) + 1, "wrong", f"<{tag}/> opens <{tag}> and does not close it.")

    def handle_endtag(self, tag: str) -> None:
        if self.gone:
            self.gone = "" if tag == self.gone else self.gone
            return
        names = [name for name, _ in self.opened]
        place = self.place()
        if tag in _VOID or (tag in _GONE and not (self.players and self.players[-1] == tag)):
            return
        if tag in _GONE:
            self.players.pop()
        if tag not in names:
            self.note(place, place + len(tag) + 3, "wrong", f"</{tag}> closes nothing.")
            return
        while self.opened:
            name, start = self.opened.pop()
            if name == tag:
                return
            if name not in _OPTIONAL:
                self.note(start, start + len(name) + 1, "wrong", f"<{name}> is not closed before </{tag}>.")

    def handle_comment(self, data: str) -> None:
        if not self.gone:
            self.note(self.place(), self.place() + 4, "removed", "A comment will be left out.")

"""Links within HTML: those that lead to a heading, and those that lead to a note and back.

There is no element for footnotes; programs write each as a link with a name of its own, to another link that leads
back. So a pair of links that lead to one another is a note, whatever the program calls it.
"""

from __future__ import annotations

import re
import zlib
from collections.abc import Iterator

from selectolax.lexbor import LexborNode

from ...references import FRAGMENT
from .styles import meaning_of

PERMALINKS = frozenset("¶#🔗∞")
"""Signs that programs put behind a heading, as a link to itself."""
_HEADINGS = frozenset("h1 h2 h3 h4 h5 h6".split())
_SIGN = re.compile(r"[\s\[\](){}↩↑^*†‡§.︎️]*+(?:\d{1,4}|[a-z]{1,5})?[\s\[\](){}↩↑^*†‡§.:︎️]*", re.IGNORECASE)


def note_anchor(words: str) -> str:
    """The anchor of a note, made of its words, so that notes of several texts seldom meet."""
    return f"note-{zlib.crc32(words.encode('utf-8', 'replace')) & 0xFFFFF:05x}"


class Fragments:
    """What the links within a piece of HTML lead to. Elements are known by their ``mem_id``."""

    def __init__(self, root: LexborNode | None) -> None:
        self.notes: dict[int, tuple[int, str]] = {}
        """Bodies of notes: number and anchor."""
        self.references: dict[int, str] = {}
        """Links that are the sign of a note: its anchor."""
        self.returns: set[int] = set()
        """Links at a note that lead back to its sign."""
        self.anchors: dict[int, str] = {}
        """Headings and list items that something leads to."""
        self.moved = 0
        """How many links led to a place within a section, and lead to its heading now."""
        links = list(root.css('a[href^="#"]')) if root is not None else []
        if root is not None and links:
            self._find(root, links)

    def __bool__(self) -> bool:
        return bool(self.notes or self.anchors)

    def _find(self, root: LexborNode, links: list[LexborNode]) -> None:
        named: dict[str, LexborNode] = {}
        for element in root.css("[id], a[name]"):
            for name in (element.attributes.get("id"), element.attributes.get("name")):
                if name:
                    named.setdefault(name, element)
        leading: dict[str, list[LexborNode]] = {}
        for link in links:
            leading.setdefault(_target(link), []).append(link)
        above = _headings_above(root)
        for link in links:
            target = named.get(_target(link))
            if target is None or link.mem_id in self.returns:
                continue
            back = next((each for name in _names(link) for each in leading.get(name, ())), None)
            if back is not None and back.mem_id != link.mem_id and _SIGN.fullmatch(back.text() or ""):
                self._note(link, back, _target(link))
            elif (place := _place(target)) is not None and re.fullmatch(FRAGMENT, _target(link)[:100]):
                self.anchors.setdefault(place.mem_id, _target(link)[:100])
                self.references[link.mem_id] = self.anchors[place.mem_id]
            elif (heading := above.get(target.mem_id)) is not None and (name := _heading_name(heading, link)):
                self.moved += 1
                self.anchors.setdefault(heading.mem_id, name)
                self.references[link.mem_id] = self.anchors[heading.mem_id]

    def _note(self, link: LexborNode, back: LexborNode, name: str) -> None:
        body = _body(back, name, _around(link))
        if body is None or body.mem_id in self.notes:
            return
        anchor = note_anchor(body.text() or "")
        self.notes[body.mem_id] = (len(self.notes) + 1, anchor)
        self.references[link.mem_id] = anchor
        self.returns.add(back.mem_id)


def _headings_above(root: LexborNode) -> dict[int, LexborNode]:
    """Of each element that has a name, the heading of the section it stands in."""
    found: dict[int, LexborNode] = {}
    heading: LexborNode | None = None
    for element in root.css("h1, h2, h3, h4, h5, h6, [id], a[name]"):
        if element.tag in _HEADINGS:
            heading = element
        elif heading is not None:
            found[element.mem_id] = heading
    return found


def _heading_name(heading: LexborNode, link: LexborNode) -> str | None:
    """The anchor of a heading that has none yet: its own name, or that of the place within its section."""
    names = (heading.attributes.get("id") or "", _target(link)[:100])
    return next((name for name in names if re.fullmatch(FRAGMENT, name) and len(name) <= 100), None)


def _target(link: LexborNode) -> str:
    return (link.attributes.get("href") or "#")[1:]


def _names(link: LexborNode) -> Iterator[str]:
    """What a link may be led to by: its own names, or those of what stands just around it or within."""
    near = [link, *([link.parent] if link.parent is not None and link.parent.tag in ("sup", "span", "a") else [])]
    if link.child is not None and link.child.tag not in (None, "-text"):
        near.append(link.child)
    for element in near:
        for name in (element.attributes.get("id"), element.attributes.get("name")):
            if name:
                yield name


def _around(link: LexborNode) -> set[int]:
    """The elements that a link stands in."""
    found: set[int] = set()
    element = link.parent
    while element is not None:
        found.add(element.mem_id)
        element = element.parent
    return found


def _body(back: LexborNode, name: str, around: set[int]) -> LexborNode | None:
    """The element that holds a note: a list item, a description, or a part named for it, or the paragraph. What the
    sign of the note stands in (``around``) cannot be its body."""
    paragraph: LexborNode | None = None
    element = back.parent
    while element is not None and element.tag not in ("body", "html", "table", "ol", "ul", "dl"):
        if element.mem_id in around:
            break
        if element.tag == "li":
            return element
        if element.tag == "dt":
            return _description(element)
        style = element.attributes.get("style") or ""
        if element.tag in ("div", "aside", "dd") and (
            element.attributes.get("id") == name or (style and meaning_of(style).note) or _named_alike(element, name)
        ):
            return element
        if paragraph is None and element.tag in ("p", "div", "dd"):
            paragraph = element
        element = element.parent
    return paragraph


def _description(term: LexborNode) -> LexborNode | None:
    """The description that follows a term, where the term holds nothing but the sign of the note."""
    following = term.next
    while following is not None and following.tag == "-text" and not (following.text_content or "").strip():
        following = following.next
    alone = _SIGN.fullmatch(term.text() or "") is not None
    return following if alone and following is not None and following.tag == "dd" else None


def _named_alike(element: LexborNode, name: str) -> bool:
    own = element.attributes.get("id")
    return bool(own) and len(own or "") > 2 and name.startswith(own or "")


def _first_heading(part: LexborNode) -> LexborNode | None:
    """The heading that a part begins with."""
    element: LexborNode | None = part.child
    while element is not None:
        if element.tag == "-text" and not (element.text_content or "").strip():
            element = element.next
        elif element.tag in _HEADINGS:
            return element
        elif element.tag in ("div", "header", "hgroup", "section", "a", "span") and element.child is not None:
            element = element.child
        elif element.tag in ("a", "span"):
            element = element.next  # A place of its own, without words.
        else:
            return None
    return None


def _place(target: LexborNode) -> LexborNode | None:
    """The heading or list item that a name stands for."""
    element: LexborNode | None = target
    while element is not None and element.tag not in ("body", "html"):
        if element.tag in _HEADINGS or (element is target and element.tag == "li"):
            return element
        element = element.parent
    if target.tag in ("section", "article", "div", "main"):
        return _first_heading(target)
    following = target.next
    while following is not None and following.tag == "-text" and not (following.text_content or "").strip():
        following = following.next
    return following if following is not None and following.tag in _HEADINGS else None

"""What holds for the whole reading of a piece of HTML."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

from selectolax.lexbor import LexborNode

from ...kinds.ways import reads
from ..reading import Arriving
from .fragments import Fragments
from .styles import NOTHING, meaning_of
from .tree import Attributes, children_of

_LOOKS = frozenset(("class", "style"))
_TITLES = frozenset(("MsoTitle", "Title"))

FLAT = {
    "msocaption": "caption",
    "caption": "caption",
    "msoquote": "quotation",
    "msointensequote": "quotation",
    "quotations": "quotation",
    "western-quotations": "quotation",
    "preformatted-text": "preformatted",
}
"""Classes that word processors write for paragraphs of a style, and what such a style means."""


class Reader:
    """What holds for the whole reading: how white space is treated, what links within the text lead to."""

    def __init__(self, arriving: Arriving, root: LexborNode, *, exact: bool) -> None:
        self.arriving = arriving
        self.told = arriving.told
        self.exact = exact
        self.own = reads()
        self.telling = _TITLES | {css_class for css_class, _ in self.own.get("p", ())}
        """Classes of paragraphs that are more than paragraphs."""
        self.regions: set[int] = set()
        """Elements that are regions, by their ``mem_id``."""
        self.in_table = False
        self.has_listings = False
        self.paint = False
        self.classes: dict[str, str] = {}
        self._plain: dict[tuple[tuple[str, str | None], ...], bool] = {}
        self.language = "" if exact else _language_of(root)
        self.fragments = Fragments(None if exact else root)

    def is_plain(self, attributes: Attributes) -> bool:
        """Whether a paragraph with these attributes is nothing but a paragraph. Texts hold the same few again and
        again, so each is judged once."""
        if not attributes:
            return True
        key = tuple(attributes.items())
        plain = self._plain.get(key)
        if plain is None:
            if not attributes.keys() <= _LOOKS:
                return False
            meaning = meaning_of(self.style_of(attributes))
            self.paint = self.paint or meaning.paint
            says_nothing = replace(meaning, paint=False) == NOTHING
            classes = (attributes.get("class") or "").split()
            plain = self._plain[key] = says_nothing and not any(
                name.lower() in FLAT or name in self.telling for name in classes
            )
        return plain

    def style_of(self, attributes: Attributes) -> str:
        """What the classes of an element and its own style declare."""
        style = attributes.get("style") or ""
        named = attributes.get("class") if self.classes else None
        return ";".join([*(self.classes.get(name, "") for name in named.split()), style]) if named else style


def _language_of(root: LexborNode) -> str:
    """The language of a text as its elements tell it: that of the whole, or the one that most letters are said to be
    in, where more are than are not. Without its region; "" where none is told."""
    around = root.parent
    whole = around.attributes.get("lang") if around is not None and around.tag == "html" else None
    whole = root.attributes.get("lang") or whole
    if whole:
        return whole.split("-")[0].lower()
    letters: Counter[str] = Counter()
    for element in root.css("[lang]"):
        said = (element.attributes.get("lang") or "").split("-")[0].lower()
        letters[said] += sum(len(each.text_content or "") for each in children_of(element) if each.tag == "-text")
    if not letters:
        return ""
    most = max(letters, key=lambda each: letters[each])
    return most if 2 * letters[most] > len(root.text()) else ""


def is_hidden(node: LexborNode, reader: Reader) -> bool:
    """Whether a row or an item is not shown."""
    attributes = node.attributes
    if reader.exact or not attributes:
        return False
    hidden = "hidden" in attributes or meaning_of(attributes.get("style") or "").hidden
    if hidden:
        reader.told.dropped("Hidden text was left out", "{} pieces of hidden text were left out")
    return hidden

"""What a piece of HTML asks of whoever builds its tree, reckoned before that is done.

The standard's own algorithm looks through all open elements for many tags (“has an element in scope”, HTML Living
Standard, 13.2.4.2), and makes every open formatting element anew for each block that begins within it (“reconstruct the
active formatting elements”, 13.2.4.3). So its work grows with the tags times what is open, and a few kilobytes can ask
for minutes and gigabytes. Browsers give up silently; we say so before.
"""

from __future__ import annotations

import re

from ...budget import spend
from ...errors import ReadingError

_TAG = re.compile(r"<(/?[a-zA-Z][a-zA-Z0-9]*)")
_VOID = frozenset("area base br col embed hr img input link meta param source track wbr".split())
_ENDS_ITSELF = frozenset(
    "p li dt dd tr td th thead tbody tfoot option optgroup colgroup caption rp rt html body head".split()
)
"""Elements that another of their sort, or the end of what they stand in, ends: they do not nest by being left open."""
_FORMATTING = frozenset("a b big code em font i nobr s small strike strong tt u".split())
_SORTS = {
    f"{sign}{name}": sort
    for sort, names in (("void", _VOID), ("ends itself", _ENDS_ITSELF), ("formatting", _FORMATTING))
    for name in names
    for sign in ("", "/")
}
DEEPEST = 60_000_000
"""The most looks at open elements: they take a second or less."""
MOST_MADE = 400_000
"""The most formatting elements that are made anew."""


_NESTING = re.compile(
    rf"<(?!/?(?:{'|'.join(sorted(_ENDS_ITSELF | _VOID, key=len, reverse=True))})[\s/>])(/?[a-zA-Z][a-zA-Z0-9]*)"
)


def _may_be_too_much(html: str) -> bool:
    """A look at the tags that nest, alone: whether all tags together could ask for too much at the deepest place."""
    tags = max(1, html.count("<"))
    deepest, most = DEEPEST // tags, MOST_MADE // tags
    depth = formatting = 0
    for match in _NESTING.finditer(html):
        tag = match[1]
        if _SORTS.get(tag) == "formatting":
            formatting = max(0, formatting + (-1 if tag[0] == "/" else 1))
        else:
            depth = max(0, depth + (-1 if tag[0] == "/" else 1))
        if formatting > most or depth + formatting > deepest:
            return True
    return False


def check_nesting(html: str) -> None:
    """Raise `ReadingError` when building the tree of this would take too long, or too much memory. Linear: one look
    at each tag."""
    spend(len(html) // 64)
    if not _may_be_too_much(html):
        return
    depth = formatting = looks = made = 0
    for match in _TAG.finditer(html):
        tag = match[1]
        sort = _SORTS.get(tag) or _SORTS.get(tag.lower(), "")
        if sort == "void":
            continue
        closes = tag[0] == "/"
        if sort == "formatting":
            formatting = max(0, formatting + (-1 if closes else 1))
            # A formatting element that is closed out of order is looked for among all that are open.
            looks += formatting if closes else 0
            continue
        if sort != "ends itself":
            depth = max(0, depth + (-1 if closes else 1))
        looks += depth
        if not closes:
            made += formatting
        if looks > DEEPEST or made > MOST_MADE:
            raise ReadingError(
                "The elements of this HTML stand within each other thousands deep, as no page's do. Nothing was read. "
                "Copy the text from where it is shown, or save it as plain text."
            )

"""Links to headings of the same text that were written for another rule of making anchors than ours.

A table of contents at the beginning of a Markdown file names its headings as the program makes them that shows it:
most drop signs and join the words by hyphens, where ours makes a hyphen of every sign (`writing.anchors.slug`).
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence

from ..document.node import Node, document_of
from ..document.walking import text_of
from ..references import FRAGMENT
from ..writing.anchors import anchors_of, linked_places
from .regions import by_region, without_regions

_DROPPED = re.compile(r"[^\w\- ]+")


def _signs_dropped(text: str) -> str:
    words = unicodedata.normalize("NFC", text).strip().lower()
    return _DROPPED.sub("", words).replace(" ", "-")


def with_places(blocks: Sequence[Node], title: str | None = None) -> list[Node]:
    """The blocks with an anchor on each heading that a link names by its words without their signs, or by these and a
    number where several have the same; the text's ``title``, which is no block, is counted as the first."""
    document = document_of(without_regions(blocks))
    wanted = {name for name in linked_places(document) if re.fullmatch(FRAGMENT, name) and len(name) <= 100}
    wanted -= set(anchors_of(document).values())
    if not wanted:
        return list(blocks)
    written = {name.lower(): name for name in sorted(wanted)}
    seen: dict[str, int] = {_signs_dropped(title): 1} if title else {}

    def named(block: Node) -> Node:
        if block.kind != "heading":
            return block
        name = _signs_dropped(text_of(block))
        count = seen.get(name, 0)
        seen[name] = count + 1
        name = f"{name}-{count}" if count else name
        # Browsers tell small letters from capitals; the programs that make these names do not.
        return block.with_attrs(anchor=written.pop(name)) if name in written and not block.attrs["anchor"] else block

    return by_region(blocks, lambda held: map(named, held))

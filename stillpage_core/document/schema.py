"""Every kind of node and mark there is. The format is laid down here and nowhere else.

The editor's schema, the TypeScript types and the JSON Schema are generated from this file (`generated.py`); the HTML
writer and reader work from it. A change that older documents do not survive raises `VERSION`.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from . import references
from .content import Content, compile_content
from .kinds import Attribute, Element, MarkKind, NodeKind

VERSION = 1
"""The version of the format, kept in every document."""

NODES = (
    NodeKind(
        "doc",
        "the body of a page",
        content="block+",
        attributes={"version": Attribute("integer", default=VERSION, minimum=VERSION, maximum=VERSION)},
    ),
    NodeKind("paragraph", "running text", content="inline*", group="block", element=Element("p"), marks=True),
    NodeKind(
        "heading",
        "a heading; level 1 is the page's title and stands outside the document",
        content="inline*",
        group="block",
        attributes={"level": Attribute("integer", minimum=2, maximum=6)},
        element=Element("h{level}"),
        marks=True,
        defining=True,
    ),
    NodeKind("bulleted_list", "a list without an order", content="list_item+", group="block", element=Element("ul")),
    NodeKind(
        "numbered_list",
        "a list whose order matters",
        content="list_item+",
        group="block",
        attributes={"start": Attribute("integer", default=1, minimum=0, maximum=999_999)},
        element=Element("ol", {"start": "start"}),
    ),
    NodeKind(
        "list_item",
        "one item of a list; lists and pictures may stand inside it",
        content="paragraph (paragraph | bulleted_list | numbered_list | picture)*",
        element=Element("li"),
        defining=True,
    ),
    NodeKind(
        "preformatted",
        "code or other text whose lines stand as they are; each line end is a line_break",
        content="inline*",
        group="block",
        attributes={
            "language": Attribute(
                "string", default=None, nullable=True, minimum=1, maximum=40, pattern=r"[A-Za-z0-9+#._-]+"
            )
        },
        element=Element("pre", {"data-language": "language"}),
        defining=True,
    ),
    NodeKind("divider", "a change of subject, shown as a line", group="block", element=Element("hr")),
    NodeKind(
        "picture",
        "a picture of the media library. alt is None where the item's own alt text serves",
        group="block",
        attributes={
            "item": Attribute("integer", minimum=1, maximum=10**15 - 1),
            "alt": Attribute("string", default=None, nullable=True, minimum=1, maximum=1000),
            "decorative": Attribute("boolean", default=False),
        },
    ),
    NodeKind("text", "words", group="inline", inline=True),
    NodeKind(
        "line_break", "a new line in the same paragraph", group="inline", inline=True, element=Element("br"), marks=True
    ),
)

MARKS = (
    MarkKind(
        "link",
        "a link, to an address as in references.py",
        Element("a", {"href": "href"}),
        attributes={
            "href": Attribute("string", minimum=1, maximum=references.LONGEST, pattern=references.PATTERN),
        },
        inclusive=False,
    ),
    MarkKind("strong", "words of importance", Element("strong", also=("b",))),
    MarkKind("emphasis", "words that are stressed", Element("em", also=("i",))),
    MarkKind("underline", "words underlined", Element("u")),
    MarkKind("strike", "words no longer right", Element("s", also=("strike", "del"))),
    MarkKind("superscript", "raised, as in an ordinal", Element("sup")),
    MarkKind("subscript", "lowered, as in a formula", Element("sub")),
    MarkKind("code", "words of a program or of a key", Element("code", also=("tt", "kbd", "samp"))),
)


@dataclass(frozen=True)
class Schema:
    """The kinds by name, and the compiled content expression of each kind of node."""

    nodes: Mapping[str, NodeKind]
    marks: Mapping[str, MarkKind]
    contents: Mapping[str, Content]

    def mark_rank(self, name: str) -> int:
        """Where a mark stands when several are nested: the lowest is outermost."""
        return list(self.marks).index(name)


def _build() -> Schema:
    groups: dict[str, list[str]] = {}
    for kind in NODES:
        if kind.group:
            groups.setdefault(kind.group, []).append(kind.name)
    return Schema(
        nodes={kind.name: kind for kind in NODES},
        marks={kind.name: kind for kind in MARKS},
        contents={kind.name: compile_content(kind.content, groups, {kind.name for kind in NODES}) for kind in NODES},
    )


SCHEMA = _build()

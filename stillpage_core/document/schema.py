"""Every kind of node and mark there is. What a document stands on is laid down here, the other kinds in `kinds`, and
the format nowhere else.

The editor's schema, the TypeScript types and the JSON Schema are generated from this (`generated.py`); the HTML writer
and reader work from it. A change that older documents do not survive raises `VERSION`.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from importlib import import_module

from .. import references
from ..kinds import KINDS
from ..kinds.kind import Attribute, Element, MarkKind, NodeKind
from ..kinds.parts import PARTS
from .content import Content, compile_content

VERSION = 2
"""The version of the format, kept in every document."""

MAIN = "main"
"""The region that every document has, first of all."""

REGION_NAME = "[a-z][a-z0-9-]*"

_ANCHOR = Attribute("string", default=None, nullable=True, maximum=100, pattern=references.FRAGMENT)
_ALIGN = Attribute("string", default=None, nullable=True, pattern="centre|end")
_STYLE = Attribute("string", default=None, nullable=True, maximum=40, pattern="[a-z][a-z0-9-]*")
_PLACE = "(?:0|[1-9][0-9]{0,3}|10000)"
_SPAN = Attribute("integer", default=1, minimum=1, maximum=200)

_GROUND = (
    NodeKind(
        "doc",
        "the body of a page: its regions, main first, none twice. What the page is called elsewhere rides along: label "
        "in the navigation, search_title in search results, None where the title serves. share is the picture of the "
        "library that stands for the page where it is shared, share_focus (x,y in ten-thousandths) what stays of it",
        content="region+",
        attributes={
            "version": Attribute("integer", default=VERSION, minimum=VERSION, maximum=VERSION),
            "label": Attribute("string", default=None, nullable=True, minimum=1, maximum=80),
            "search_title": Attribute("string", default=None, nullable=True, minimum=1, maximum=200),
            "share": Attribute("integer", default=None, nullable=True, minimum=1, maximum=10**15 - 1),
            "share_focus": Attribute("string", default=None, nullable=True, pattern=f"{_PLACE},{_PLACE}"),
        },
    ),
    NodeKind(
        "region",
        "a part of the page that the theme gives a place of its own; main is always there",
        content="block+",
        attributes={"name": Attribute("string", default=MAIN, minimum=1, maximum=40, pattern=REGION_NAME)},
    ),
    NodeKind(
        "paragraph",
        "running text. style is a text style of the theme; align is None at the start of the line",
        content="inline*",
        group="block",
        attributes={"style": _STYLE, "align": _ALIGN},
        element=Element("p", {"data-style": "style", "data-align": "align"}),
        marks=True,
    ),
    NodeKind(
        "heading",
        "a heading; level 1 is the page's title and stands outside the document. anchor holds its address once "
        "something links to it, whatever becomes of its words",
        content="inline*",
        group="block",
        attributes={
            "level": Attribute("integer", minimum=2, maximum=6),
            "align": _ALIGN,
            "anchor": _ANCHOR,
        },
        element=Element("h{level}", {"data-align": "align", "data-anchor": "anchor"}),
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
        "one item of a list; lists, pictures and preformatted text may stand inside it. anchor is set where something "
        "links to it, as a footnote's number does to the note",
        content=f"paragraph ({PARTS})*",
        attributes={"anchor": _ANCHOR},
        element=Element("li", {"data-anchor": "anchor"}),
        defining=True,
    ),
    NodeKind(
        "table",
        "a table: its caption, if any, and its grid",
        content="table_caption? table_grid",
        group="block",
        defining=True,
    ),
    NodeKind(
        "table_caption",
        "what the table shows",
        content="inline*",
        element=Element("caption"),
        marks=True,
        defining=True,
    ),
    NodeKind(
        "table_grid",
        "the rows of a table. Every place of the grid belongs to just one cell",
        content="table_row+",
        element=Element("tbody"),
        table_role="table",
    ),
    NodeKind(
        "table_row",
        "a row; it may hold no cell of its own where cells above reach into it",
        content="(table_cell | table_header)*",
        element=Element("tr"),
        table_role="row",
    ),
    NodeKind(
        "table_cell",
        "a cell",
        content=f"({PARTS})+",
        attributes={"colspan": _SPAN, "rowspan": _SPAN},
        element=Element("td", {"colspan": "colspan", "rowspan": "rowspan"}),
        table_role="cell",
    ),
    NodeKind(
        "table_header",
        "a cell that names its column or its row",
        content=f"({PARTS})+",
        attributes={"colspan": _SPAN, "rowspan": _SPAN},
        element=Element("th", {"colspan": "colspan", "rowspan": "rowspan"}),
        table_role="header_cell",
    ),
    NodeKind(
        "preformatted",
        "code or other text whose lines stand as they are; each line end is a line_break",
        content="(text | line_break)*",
        group="block",
        attributes={
            "language": Attribute(
                "string", default=None, nullable=True, minimum=1, maximum=40, pattern=r"[A-Za-z0-9+#._-]+"
            )
        },
        element=Element("pre", {"data-language": "language"}),
        defining=True,
    ),
    NodeKind("text", "words", group="inline", inline=True),
    NodeKind(
        "line_break", "a new line in the same paragraph", group="inline", inline=True, element=Element("br"), marks=True
    ),
)
"""What a document stands on."""

NODES: tuple[NodeKind, ...] = (
    *_GROUND,
    *(kind for name in KINDS for kind in import_module(f"..kinds.{name}", __package__).NODES),
)

MARKS = (
    MarkKind(
        "link",
        "a link, to an address as in references.py",
        Element("a", {"href": "href", "title": "title", "data-new-window": "new_window"}),
        attributes={
            "href": Attribute("string", minimum=1, maximum=references.LONGEST, pattern=references.PATTERN),
            "title": Attribute("string", default=None, nullable=True, minimum=1, maximum=200),
            "new_window": Attribute("boolean", default=False),
        },
        inclusive=False,
    ),
    MarkKind(
        "abbreviation",
        "a short form, with the words it stands for",
        Element("abbr", {"title": "expansion"}),
        attributes={"expansion": Attribute("string", minimum=1, maximum=200)},
        inclusive=False,
    ),
    MarkKind(
        "language",
        "words in another language, by its tag (BCP 47)",
        Element("span", {"lang": "code"}),
        attributes={"code": Attribute("string", maximum=35, pattern=r"[A-Za-z]{2,3}(?:-[A-Za-z0-9]{2,8})*")},
    ),
    MarkKind(
        "tone",
        "words in a colour of the theme's palette",
        Element("span", {"data-tone": "name"}),
        attributes={"name": Attribute("string", maximum=40, pattern="[a-z][a-z0-9-]*")},
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

    ranks: Mapping[str, int]

    def mark_rank(self, name: str) -> int:
        """Where a mark stands when several are nested: the lowest is outermost."""
        return self.ranks[name]


def _build() -> Schema:
    groups: dict[str, list[str]] = {}
    for kind in NODES:
        if kind.group:
            groups.setdefault(kind.group, []).append(kind.name)
    return Schema(
        nodes={kind.name: kind for kind in NODES},
        marks={kind.name: kind for kind in MARKS},
        contents={kind.name: compile_content(kind.content, groups, {kind.name for kind in NODES}) for kind in NODES},
        ranks={kind.name: rank for rank, kind in enumerate(MARKS)},
    )


SCHEMA = _build()


def is_region(name: str) -> bool:
    """Whether a region other than main may have this name."""
    return name != MAIN and not SCHEMA.nodes["region"].attributes["name"].problem(name)

"""Documents for tests: short ways to write them, and hypothesis strategies that make any valid one."""

from __future__ import annotations

from hypothesis import strategies as st

from stillpage_core.document.node import Mark, Node, make, text_node
from stillpage_core.document.normal import normal_form


def words(text: str, *marks: Mark) -> Node:
    return text_node(text, marks)


def link(href: str) -> Mark:
    return Mark("link", {"href": href})


STRONG, EMPHASIS = Mark("strong"), Mark("emphasis")
PLAIN_MARKS = [Mark(kind) for kind in ("underline", "strike", "superscript", "subscript", "code")]


def paragraph(*content: Node | str) -> Node:
    return make("paragraph", _nodes(content))


def heading(level: int, *content: Node | str) -> Node:
    return make("heading", _nodes(content), level=level)


def picture(item: int = 1, alt: str | None = None, *, decorative: bool = False) -> Node:
    return make("picture", item=item, alt=alt, decorative=decorative)


def divider() -> Node:
    return make("divider")


def preformatted(*lines: str, language: str | None = None) -> Node:
    content: list[Node] = []
    for index, line in enumerate(lines):
        content += [make("line_break")] if index else []
        content += [text_node(line)] if line else []
    return make("preformatted", content, language=language)


def item(*blocks: Node) -> Node:
    return make("list_item", blocks)


def bulleted(*items: Node) -> Node:
    return make("bulleted_list", items)


def numbered(*items: Node, start: int = 1) -> Node:
    return make("numbered_list", items, start=start)


def document(*blocks: Node) -> Node:
    return make("doc", blocks or [paragraph()])


def every_kind() -> Node:
    """A document that holds every kind of node and mark, also at edges: empty, nested, last, first, long."""
    long = "The canal winds on between its hedges, and nobody is in a hurry. " * 6
    return document(
        paragraph("Before any heading, ", words("strong", STRONG), " and ", words("stressed", EMPHASIS), "."),
        heading(2, "A main heading"),
        paragraph(long),
        heading(3, "One below, with ", words("a link", link("page:1"))),
        paragraph(
            "Two  spaces, a break", make("line_break"), "and ", words("both", link("https://a.example/"), STRONG)
        ),
        bulleted(
            item(paragraph("one")),
            item(paragraph("two"), numbered(item(paragraph(long)), item(paragraph("b"), paragraph("second")), start=4)),
            item(paragraph("three"), bulleted(item(paragraph("deep"), bulleted(item(paragraph("deeper")))))),
        ),
        picture(1),
        divider(),
        preformatted("one  line", "", "  an indented one"),
        paragraph(*(words(f"{mark.kind} ", mark) for mark in PLAIN_MARKS), words("all", STRONG, *PLAIN_MARKS)),
        heading(4, "Four"),
        numbered(item(paragraph("a")), item(paragraph("b"), picture(1, decorative=True)), start=9),
        heading(5, "Five"),
        paragraph(),
        heading(6, "Six"),
        heading(2, "Two headings in a row"),
        picture(1, "Worded for this page"),
        paragraph("The end", make("line_break")),
    )


def _nodes(content: tuple[Node | str, ...]) -> list[Node]:
    return [text_node(each) if isinstance(each, str) else each for each in content]


_TEXT = st.text(
    st.characters(exclude_categories=("Cc", "Cs")) | st.sampled_from(list(" <>&\"'\u00a0*_`[]#\U0001f9ed")),
    min_size=1,
    max_size=24,
)
_HREFS = st.sampled_from(
    ["page:1", "page:12#before", "item:7", "#a-b", "https://a.example/?q=1&r=2#x", "mailto:a@b.example", "tel:+44-100"]
)
_MARKS = st.lists(
    st.one_of(st.sampled_from([STRONG, EMPHASIS, *PLAIN_MARKS]), _HREFS.map(link)),
    max_size=3,
    unique_by=lambda mark: mark.kind,
)
_INLINE = st.lists(
    st.one_of(
        st.builds(text_node, _TEXT, _MARKS),
        _MARKS.map(lambda marks: Node("line_break", marks=text_node("-", marks).marks)),
    ),
    max_size=5,
)
_PARAGRAPHS = _INLINE.map(lambda nodes: make("paragraph", nodes))
_PICTURES = st.builds(
    picture, st.integers(1, 99), st.none() | _TEXT.filter(lambda text: text.strip() == text), decorative=st.booleans()
)


def _lists(blocks: st.SearchStrategy[Node]) -> st.SearchStrategy[Node]:
    items = st.builds(lambda first, rest: item(first, *rest), _PARAGRAPHS, st.lists(blocks | _PICTURES, max_size=2))
    several = st.lists(items, min_size=1, max_size=3)
    return st.one_of(
        _PARAGRAPHS,
        several.map(lambda each: bulleted(*each)),
        st.builds(lambda each, start: numbered(*each, start=start), several, st.integers(0, 999_999)),
    )


_HEADINGS = st.builds(lambda level, nodes: make("heading", nodes, level=level), st.integers(2, 6), _INLINE)
_PREFORMATTED = st.builds(
    lambda lines, language: preformatted(*lines, language=language),
    st.lists(_TEXT | st.just(""), min_size=1, max_size=4),
    st.sampled_from([None, "python", "c++"]),
)
BLOCKS = st.one_of(
    st.recursive(_PARAGRAPHS, _lists, max_leaves=8), _HEADINGS, _PICTURES, _PREFORMATTED, st.just(divider())
)
DOCUMENTS = st.lists(BLOCKS, min_size=1, max_size=6).map(lambda blocks: normal_form(document(*blocks)))
"""Any valid document in normal form."""

"""HTML → document.

HTML in the storable form (`writing.html`) gives exactly the document it was written from. Any other HTML is read for
its structure: what the schema has no kind for is looked through, and its words stay.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from selectolax.lexbor import LexborHTMLParser, LexborNode

from ..document.fitting import fitted, words_of
from ..document.kinds import MarkKind
from ..document.node import Mark, Node, make, text_node
from ..document.references import parse_reference
from ..document.schema import SCHEMA
from ..document.tables import squared
from ..writing.html import ASIDE_LABELS, FORM
from .reading import Reading, finished
from .text import clean

_UNSEEN = frozenset(
    """head title script style template noscript meta link base svg object embed iframe audio video canvas map
    select datalist input button textarea -comment""".split()
)
_INLINE = frozenset(
    """a abbr b bdi bdo big cite code data del dfn em font i ins kbd label mark q ruby s samp small span strike strong
    sub sup time tt u var wbr rp rt""".split()
)
_MARKS: dict[str, list[MarkKind]] = {}
for _kind in SCHEMA.marks.values():
    for _tag in (_kind.element.tag, *_kind.element.also):
        _MARKS.setdefault(_tag, []).append(_kind)
_LISTS = {"ul": "bulleted_list", "ol": "numbered_list"}
_DEEPEST = 30
"""Elements nested deeper than this that would become nested lists are read as their words."""
_RECURSION = 120

Marks = tuple[Mark, ...]


def read_html(html: str) -> Reading:
    """Read a page or a part of one. Never raises: every input gives a valid document."""
    root = LexborHTMLParser(html.replace("\x00", "")).body
    if root is None:
        return finished([], [])
    stored = root.css_first(f"article[{FORM}]")
    reader = _Reader(exact=stored is not None, lower=0 if stored or not root.css_first("h1") else 1)
    if reader.lower:
        reader.messages.append("Headings were lowered by one level: level 1 is the page's title")
    blocks = _Blocks(reader)
    blocks.children(stored or root, (), 0)
    return finished(blocks.done(), reader.messages)


def children_of(node: LexborNode) -> Iterator[LexborNode]:
    """The children of a node, text and comments too."""
    child = node.child
    while child is not None:
        yield child
        child = child.next


class _Reader:
    """What holds for the whole reading: how white space is treated, how far headings are lowered, the messages."""

    def __init__(self, *, exact: bool, lower: int) -> None:
        self.exact = exact
        self.lower = lower
        self.in_table = False
        self.messages: list[str] = []


class _Blocks:
    """Gathers blocks in one container. Words outside any block wait in ``run`` until a block ends it."""

    def __init__(self, reader: _Reader, lists: int = 0) -> None:
        self.reader = reader
        self.lists = lists
        self.blocks: list[Node] = []
        self.run: list[Node] = []

    def done(self) -> list[Node]:
        self.end_run()
        return self.blocks

    def end_run(self) -> None:
        words = self.run if self.reader.exact else _collapsed(self.run)
        self.run = []
        if words:
            self.blocks.append(make("paragraph", words))

    def children(self, parent: LexborNode, marks: Marks, depth: int) -> None:
        for child in children_of(parent):
            self.one(child, marks, depth)

    def one(self, node: LexborNode, marks: Marks, depth: int) -> None:
        tag = node.tag or ""
        if tag == "-text":
            if text := _text(node, self.reader):
                self.run.append(text_node(text, marks))
        elif depth > _RECURSION:
            if words := clean(node.text(separator=" ")):
                self.run.append(text_node(words, marks))
        elif tag in _UNSEEN:
            if tag not in ("head", "-comment"):
                self.reader.messages.append(f"<{tag}> was left out")
        elif tag == "br":
            self.run.append(Node("line_break", marks=marks))
        elif tag == "img":
            self.picture(node)
        elif tag == "math" or (tag in ("span", "div") and "data-latex" in node.attributes):
            self.equation(node, tag, marks)
        elif tag in _INLINE:
            self.children(node, self.marked(node, tag, marks), depth + 1)
        else:
            self.block(node, tag, marks, depth)

    def block(self, node: LexborNode, tag: str, marks: Marks, depth: int) -> None:
        self.end_run()
        classes = (node.attributes.get("class") or "").split()
        if tag == "hr":
            self.blocks.append(make("divider"))
        elif tag == "pre":
            self.preformatted(node)
        elif tag == "p" and "call" in classes and (link := node.css_first("a")) and link.text() == node.text():
            self.call_to_action(node, link)
        elif tag in ("p", "caption", "figcaption") or re.fullmatch("h[1-6]", tag):
            self.textblock(node, tag, marks, depth)
        elif tag in _LISTS and self.lists < _DEEPEST // 2:
            self.list(node, tag, marks, depth)
        elif tag == "blockquote" or (tag == "figure" and "quotation" in classes):
            self.quotation(node, tag, marks, depth)
        elif tag == "div" and "aside" in classes:
            self.aside(node, marks, depth)
        elif tag == "table" and not self.reader.in_table:
            self.table(node, marks, depth)
        else:
            self.children(node, marks, depth + 1)
            self.end_run()

    def inside(self, node: LexborNode, marks: Marks, depth: int) -> list[Node]:
        """The blocks within an element."""
        inner = _Blocks(self.reader, self.lists)
        inner.children(node, marks, depth + 1)
        return inner.done()

    def marked(self, node: LexborNode, tag: str, marks: Marks) -> Marks:
        for kind in _MARKS.get(tag, ()):
            attrs = self.attributes(node, kind)
            if attrs is not None and not any(each.kind == kind.name for each in marks):
                marks = (*marks, Mark(kind.name, attrs))
        return marks

    def attributes(self, node: LexborNode, kind: MarkKind) -> dict[str, object] | None:
        """The attributes of a mark as the element has them; None when one that must be there is missing or wrong."""
        attrs: dict[str, object] = {}
        written = {name: html_name for html_name, name in kind.element.attributes.items()}
        for name, attribute in kind.attributes.items():
            given = written[name] in node.attributes
            words = clean(node.attributes.get(written[name]) or "").strip()
            value: object = given if attribute.type == "boolean" else words or None
            if name == "title" and value:
                value = str(value)[: attribute.maximum]
            if value is None or attribute.problem(value):
                if attribute.required:
                    if kind.name == "link" and value:
                        self.reader.messages.append(f"A link to “{str(value)[:60]}” was left out, its words stay")
                    return None
                value = attribute.default
            attrs[name] = value
        return attrs

    def equation(self, node: LexborNode, tag: str, marks: Marks) -> None:
        """An equation by its LaTeX: written in an attribute, or going along as an annotation (MathML 4, 6.8)."""
        note = node.css_first('annotation[encoding="application/x-tex"]') if tag == "math" else None
        latex = clean((note.text() if note else node.attributes.get("data-latex")) or "")
        latex = latex if self.reader.exact else latex.strip()
        if not latex or SCHEMA.nodes["formula"].attributes["latex"].problem(latex):
            self.run += [text_node(words, marks)] if (words := clean(node.text())) else []
        elif tag == "div" or node.attributes.get("display") == "block":
            self.end_run()
            self.blocks.append(make("equation", latex=latex))
        else:
            self.run.append(Node("formula", {"latex": latex}, marks=text_node("-", marks).marks))

    def textblock(self, node: LexborNode, tag: str, marks: Marks, depth: int) -> None:
        blocks = self.inside(node, marks, depth)
        if not blocks and self.reader.exact:
            blocks = [make("paragraph")]
        attrs = {"align": _value(node, "paragraph", "align"), "style": _value(node, "paragraph", "style")}
        if heading := re.fullmatch("h([1-6])", tag):
            level = min(6, max(2, int(heading[1]) + self.reader.lower))
            attrs = {"align": attrs["align"], "anchor": _value(node, "heading", "anchor"), "level": level}
        kind = "heading" if heading else "paragraph"
        self.blocks += [make(kind, block.content, **attrs) if block.kind == "paragraph" else block for block in blocks]

    def call_to_action(self, node: LexborNode, link: LexborNode) -> None:
        words = _spaced(link.text(), self.reader)
        words = words if self.reader.exact else words.strip(" ")
        href = link.attributes.get("href") or ""
        emphasis = _value(node, "call_to_action", "emphasis") or "main"
        content = [text_node(words)] if words else []
        self.blocks.append(
            make("call_to_action", content, href=href if parse_reference(href) else None, emphasis=emphasis)
        )

    def quotation(self, node: LexborNode, tag: str, marks: Marks, depth: int) -> None:
        """A quotation; its source stands in a figcaption beside it, or in a footer within."""
        source: list[Node] | None = None
        inner = _Blocks(self.reader, self.lists)
        for child in children_of(node):
            if child.tag in ("figcaption", "footer"):
                source = words_of(self.inside(child, marks, depth))
            elif child.tag == "blockquote" and tag == "figure":
                inner.children(child, marks, depth + 1)
                inner.end_run()
            else:
                inner.one(child, marks, depth + 1)
        self.blocks.append(quotation(inner.done(), source))

    def aside(self, node: LexborNode, marks: Marks, depth: int) -> None:
        inner = _Blocks(self.reader, self.lists)
        for child in children_of(node):
            label = child.tag == "p" and child.attributes.get("class") == "aside-label"
            if not (label and child.text() in ASIDE_LABELS.values()):
                inner.one(child, marks, depth + 1)
        blocks = fitted("aside", inner.done())
        self.blocks.append(make("aside", blocks, sort=_value(node, "aside", "sort") or "note"))

    def table(self, node: LexborNode, marks: Marks, depth: int) -> None:
        self.reader.in_table = True
        caption: list[Node] | None = None
        rows: list[Node] = []
        waiting = list(children_of(node))[::-1]
        while waiting:
            child = waiting.pop()
            if child.tag in ("thead", "tbody", "tfoot"):
                waiting += list(children_of(child))[::-1]
            elif child.tag == "caption":
                caption = words_of(self.inside(child, marks, depth))
            elif child.tag == "tr":
                cells = [self.cell(each, marks, depth) for each in children_of(child) if each.tag in ("td", "th")]
                rows.append(make("table_row", cells))
        self.reader.in_table = False
        rows = squared(rows)
        if not any(row.content for row in rows):
            self.blocks += [make("paragraph", caption)] if caption else []
            return
        parts = [make("table_caption", caption)] if caption is not None else []
        self.blocks.append(make("table", [*parts, make("table_grid", rows)]))

    def cell(self, node: LexborNode, marks: Marks, depth: int) -> Node:
        spans = {}
        for name in ("colspan", "rowspan"):
            written = node.attributes.get(name) or ""
            spans[name] = min(200, max(1, int(written))) if re.fullmatch(r"\d{1,4}", written) else 1
        kind = "table_header" if node.tag == "th" else "table_cell"
        return make(kind, fitted(kind, self.inside(node, marks, depth)), **spans)

    def preformatted(self, node: LexborNode) -> None:
        lines = _lines(node).replace("\r\n", "\n").replace("\r", "\n")
        code = node.css_first("code")
        named = re.search(r"(?:^|\s)language-(\S+)", (code.attributes.get("class") or "") if code else "")
        language = node.attributes.get("data-language") or (named[1] if named else None)
        if not language or SCHEMA.nodes["preformatted"].attributes["language"].problem(language):
            language = None
        content: list[Node] = []
        for index, line in enumerate((lines if self.reader.exact else lines.strip("\n")).split("\n")):
            content += [make("line_break")] if index else []
            content += [text_node(clean(line))] if clean(line) else []
        self.blocks.append(make("preformatted", content, language=language))

    def list(self, node: LexborNode, tag: str, marks: Marks, depth: int) -> None:
        items: list[Node] = []
        for child in children_of(node):
            inner = _Blocks(self.reader, self.lists + 1)
            if child.tag == "li":
                inner.children(child, marks, depth + 1)
                items.append(make("list_item", fitted("list_item", inner.done())))
                continue
            inner.one(child, marks, depth + 1)
            if blocks := inner.done():
                nested = items and blocks[0].kind.endswith("_list")
                before = items.pop().content if nested else ()
                items.append(make("list_item", fitted("list_item", (*before, *blocks))))
        if not items:
            return
        start = node.attributes.get("start") or ""
        attrs = {"start": int(start)} if tag == "ol" and re.fullmatch(r"\d{1,6}", start) else {}
        self.blocks.append(make(_LISTS[tag], items, **attrs))

    def picture(self, node: LexborNode) -> None:
        attributes = node.attributes
        reference = parse_reference(attributes.get("src") or "")
        if reference is None or reference.kind != "item" or reference.fragment:
            self.reader.messages.append("A picture that is not in the media library was left out")
            return
        alt = clean(attributes.get("alt") or "")[:1000] or None
        decorative = "data-decorative" in attributes or attributes.get("alt") == ""
        self.end_run()
        self.blocks.append(make("picture", item=reference.number, alt=alt, decorative=decorative))


def quotation(blocks: list[Node], source: list[Node] | None) -> Node:
    """A quotation of these blocks, fitted, with its source if there is one."""
    parts = [make("quotation_words", fitted("quotation_words", blocks))]
    return make("quotation", parts if source is None else [*parts, make("quotation_source", source)])


def _value(node: LexborNode, kind: str, name: str) -> object:
    """An attribute as the storable form writes it (``data-`` and the name), or its default where there is none that
    may stand."""
    attribute = SCHEMA.nodes[kind].attributes[name]
    given = node.attributes.get(f"data-{name}")
    return attribute.default if given is None or attribute.problem(given) else given


def _lines(node: LexborNode) -> str:
    """The words of preformatted text with its line ends; a br is one too. Not recursive: input may be nested deep."""
    found: list[str] = []
    waiting = [node]
    while waiting:
        child = waiting.pop()
        if child.tag == "-text":
            found.append(child.text_content or "")
        elif child.tag == "br":
            found.append("\n")
        elif child.tag not in _UNSEEN:
            waiting += reversed(list(children_of(child)))
    return "".join(found)


def _text(node: LexborNode, reader: _Reader) -> str:
    return _spaced(node.text_content or "", reader)


def _spaced(text: str, reader: _Reader) -> str:
    """Words with their white space as it stands, or as HTML shows it."""
    return clean(text if reader.exact else re.sub(r"[ \t\n\r\f]+", " ", text))


def _collapsed(run: list[Node]) -> list[Node]:
    """Words with white space as HTML shows it: one space, none at the ends nor beside a line break."""
    words: list[Node] = []
    at_start = True
    for node in run:
        if node.kind == "line_break":
            _trim_end(words)
            words.append(node)
            at_start = True
            continue
        if node.kind != "text":
            words.append(node)
            at_start = False
            continue
        text = node.text.lstrip(" ") if at_start else node.text
        if text:
            words.append(text_node(text, node.marks))
            at_start = text.endswith(" ")
    _trim_end(words)
    while words and words[-1].kind == "line_break":
        words.pop()
        _trim_end(words)
    while words and words[0].kind == "line_break":
        words.pop(0)
    return words


def _trim_end(words: list[Node]) -> None:
    while words and words[-1].kind == "text":
        text = words[-1].text.rstrip(" ")
        if text:
            words[-1] = text_node(text, words[-1].marks)
            return
        words.pop()

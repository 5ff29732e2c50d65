"""HTML → document.

HTML in the storable form (`writing.html`) gives exactly the document it was written from. Any other HTML is read for
its structure: what the schema has no kind for is looked through, and its words stay.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from selectolax.lexbor import LexborHTMLParser, LexborNode

from ..document.node import Mark, Node, make, text_node
from ..document.references import parse_reference
from ..document.schema import SCHEMA
from ..writing.html import FORM
from .reading import Reading, as_item, finished
from .text import clean

_UNSEEN = frozenset(
    """head title script style template noscript meta link base svg math object embed iframe audio video canvas map
    select datalist input button textarea -comment""".split()
)
_INLINE = frozenset(
    """a abbr b bdi bdo big cite code data del dfn em font i ins kbd label mark q ruby s samp small span strike strong
    sub sup time tt u var wbr rp rt""".split()
)
_MARKS = {
    tag: kind.name for kind in SCHEMA.marks.values() for tag in (kind.element.tag, *kind.element.also) if tag != "a"
}
_LISTS = {"ul": "bulleted_list", "ol": "numbered_list"}
_DEEPEST = 30
"""Elements nested deeper than this that would become nested lists are read as their words."""
_RECURSION = 300

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
        elif tag in _INLINE:
            self.children(node, self.marked(node, tag, marks), depth + 1)
        elif tag == "hr":
            self.end_run()
            self.blocks.append(make("divider"))
        elif tag == "pre":
            self.end_run()
            self.preformatted(node)
        elif tag == "p" or re.fullmatch("h[1-6]", tag):
            self.textblock(node, tag, marks, depth)
        elif tag in _LISTS and self.lists < _DEEPEST // 2:
            self.end_run()
            self.list(node, tag, marks, depth)
        else:
            self.end_run()
            self.children(node, marks, depth + 1)
            self.end_run()

    def marked(self, node: LexborNode, tag: str, marks: Marks) -> Marks:
        mark: Mark | None = None
        if tag == "a" and (href := (node.attributes.get("href") or "").strip()):
            if parse_reference(href):
                mark = Mark("link", {"href": href})
            else:
                self.reader.messages.append(f"A link to “{href[:60]}” was left out, its words stay")
        elif tag in _MARKS:
            mark = Mark(_MARKS[tag])
        if mark is None or any(each.kind == mark.kind for each in marks):
            return marks
        return (*marks, mark)

    def textblock(self, node: LexborNode, tag: str, marks: Marks, depth: int) -> None:
        self.end_run()
        inner = _Blocks(self.reader, self.lists)
        inner.children(node, marks, depth + 1)
        blocks = inner.done()
        if not blocks and self.reader.exact:
            blocks = [make("paragraph")]
        if tag != "p":
            level = min(6, max(2, int(tag[1]) + self.reader.lower))
            blocks = [
                make("heading", block.content, level=level) if block.kind == "paragraph" else block for block in blocks
            ]
        self.blocks += blocks

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
                items.append(as_item(inner.done()))
                continue
            inner.one(child, marks, depth + 1)
            if blocks := inner.done():
                nested = items and blocks[0].kind.endswith("_list")
                if nested:
                    items[-1] = items[-1].with_content((*items[-1].content, *blocks))
                else:
                    items.append(as_item(blocks))
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
    text = node.text_content or ""
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

"""Markdown (CommonMark 0.31.2, with tables and with equations between dollar signs) → document."""

from __future__ import annotations

import re
from collections.abc import Sequence

from markdown_it import MarkdownIt
from markdown_it.token import Token
from mdit_py_plugins.dollarmath import dollarmath_plugin

from ..document.fitting import fitted, words_of
from ..document.node import Mark, Node, make, text_node
from ..document.references import parse_reference
from ..document.schema import SCHEMA
from ..document.tables import squared
from ..document.walking import text_of
from ..writing.html import ASIDE_LABELS
from .html import quotation, read_html
from .reading import Reading, finished
from .text import clean

_LISTS = {"bullet_list_open": "bulleted_list", "ordered_list_open": "numbered_list"}
_MARKS = {"strong_open": "strong", "em_open": "emphasis"}


def read_markdown(text: str) -> Reading:
    """Read CommonMark. Level-1 headings are lowered with the rest; what the schema has no kind for becomes text."""
    parser = MarkdownIt("commonmark").enable("table")
    parser.use(dollarmath_plugin, allow_space=False, allow_digits=False, double_inline=False)
    parser.validateLink = _any_address  # type: ignore[method-assign, assignment]
    tokens = parser.parse(text.removeprefix("\ufeff"))
    messages: list[str] = []
    lower = 1 if any(token.type == "heading_open" and token.tag == "h1" for token in tokens) else 0
    if lower:
        messages.append("Headings were lowered by one level: level 1 is the page's title")
    return finished(_Blocks(tokens, lower, messages).until(None), messages)


def _any_address(address: str) -> bool:
    """Addresses are judged by the schema's own rules, which are stricter and know pages and items."""
    return True


class _Blocks:
    """Turns the flat list of tokens into nested blocks."""

    def __init__(self, tokens: Sequence[Token], lower: int, messages: list[str]) -> None:
        self.tokens = tokens
        self.lower = lower
        self.messages = messages
        self.place = 0

    def until(self, end: str | None) -> list[Node]:
        blocks: list[Node] = []
        while self.place < len(self.tokens):
            token = self.tokens[self.place]
            self.place += 1
            if token.type == end:
                break
            blocks += self.block(token)
        return blocks

    def block(self, token: Token) -> list[Node]:
        if token.type in ("paragraph_open", "heading_open"):
            inline = self.tokens[self.place]
            self.place += 2
            return self.textblock(token, inline)
        if token.type in _LISTS:
            items = self.until(token.type.replace("_open", "_close"))
            start = min(int(token.attrs.get("start", 1)), 999_999) if token.type == "ordered_list_open" else 1
            attrs = {"start": start} if token.type == "ordered_list_open" else {}
            return [make(_LISTS[token.type], items, **attrs)]
        if token.type == "list_item_open":
            return [make("list_item", fitted("list_item", self.until("list_item_close")))]
        if token.type == "blockquote_open":
            return [_quoted(self.until("blockquote_close"))]
        if token.type == "table_open":
            return [self.table()]
        if token.type in ("math_block", "math_block_label"):
            latex = " ".join(clean(token.content.replace("\n", " ")).split())[:2000]
            return [make("equation", latex=latex)] if latex else []
        if token.type in ("fence", "code_block"):
            lines = token.content.removesuffix("\n").split("\n")
            return [make("preformatted", _joined(lines), language=_language(token.info))]
        if token.type == "html_block":
            reading = read_html(token.content)
            self.messages += reading.messages
            return [block for block in reading.document.content if block.kind != "paragraph" or block.content]
        return [make("divider")] if token.type == "hr" else []

    def table(self) -> Node:
        rows: list[Node] = []
        while (token := self.tokens[self.place]).type != "table_close":
            self.place += 1
            if token.type == "tr_open":
                rows.append(make("table_row"))
            elif token.type in ("th_open", "td_open"):
                kind = "table_header" if token.type == "th_open" else "table_cell"
                paragraph = Token("paragraph_open", "p", 1)
                blocks = self.textblock(paragraph, self.tokens[self.place])
                rows[-1] = rows[-1].with_content((*rows[-1].content, make(kind, fitted(kind, blocks))))
        self.place += 1
        return make("table", [make("table_grid", squared(rows))])

    def textblock(self, token: Token, inline: Token) -> list[Node]:
        blocks: list[Node] = []
        run: list[Node] = []
        for piece in _Inline(self.messages).pieces(inline.children or []):
            if piece.kind == "picture":
                if run:
                    blocks.append(self.wrap(token, run))
                blocks.append(piece)
                run = []
            else:
                run.append(piece)
        if run or not blocks:
            blocks.append(self.wrap(token, run))
        return blocks

    def wrap(self, token: Token, run: list[Node]) -> Node:
        if token.type == "paragraph_open":
            return make("paragraph", run)
        level = min(6, max(2, int(token.tag[1]) + self.lower))
        return make("heading", run, level=level)


class _Inline:
    def __init__(self, messages: list[str]) -> None:
        self.messages = messages
        self.marks: list[Mark | None] = []

    def pieces(self, tokens: Sequence[Token]) -> list[Node]:
        """Words, line breaks and pictures of one block, in order."""
        found: list[Node] = []
        for token in tokens:
            if token.type in _MARKS:
                self.marks.append(Mark(_MARKS[token.type]))
            elif token.type == "link_open":
                title = clean(re.sub(r"\s+", " ", str(token.attrs.get("title", "")))).strip()[:200]
                self.marks.append(self.link(str(token.attrs.get("href", "")), title))
            elif token.type.endswith("_close"):
                self.marks.pop()
            elif token.type in ("hardbreak", "softbreak"):
                hard = token.type == "hardbreak"
                found.append(
                    Node("line_break", marks=text_node("-", self.now()).marks) if hard else text_node(" ", self.now())
                )
            elif token.type == "math_inline" and (latex := clean(token.content).strip()[:2000]):
                found.append(Node("formula", {"latex": latex}, marks=text_node("-", self.now()).marks))
            elif token.type == "code_inline":
                found.append(text_node(clean(token.content), [*self.now(), Mark("code")]))
            elif token.type == "image":
                found += self.picture(token)
            elif token.type != "html_inline" and (text := clean(token.content)):
                found.append(text_node(text, self.now()))
        return found

    def now(self) -> list[Mark]:
        return list({mark.kind: mark for mark in self.marks if mark}.values())

    def link(self, href: str, title: str) -> Mark | None:
        if parse_reference(href):
            return Mark("link", {"href": href, "title": title or None, "new_window": False})
        self.messages.append(f"A link to “{href[:60]}” was left out, its words stay")
        return None

    def picture(self, token: Token) -> list[Node]:
        reference = parse_reference(str(token.attrs.get("src", "")))
        alt = clean(re.sub(r"\s+", " ", "".join(child.content or " " for child in token.children or [])))[:1000]
        if reference and reference.kind == "item" and not reference.fragment:
            return [make("picture", item=reference.number, alt=alt or None)]
        self.messages.append("A picture that is not in the media library was left out")
        return [text_node(alt, self.now())] if alt else []


def _quoted(blocks: list[Node]) -> Node:
    """What a block quotation stands for: an aside where its first words are “Note”, “Tip” or “Warning” alone and
    strong, otherwise a quotation, with a last paragraph after a dash as its source."""
    first = blocks[0] if blocks else make("paragraph")
    sorts = {label: sort for sort, label in ASIDE_LABELS.items()}
    strong = len(first.content) == 1 and [mark.kind for mark in first.content[0].marks] == ["strong"]
    if first.kind == "paragraph" and strong and (sort := sorts.get(text_of(first))):
        return make("aside", fitted("aside", blocks[1:]), sort=sort)
    last = blocks[-1] if len(blocks) > 1 else make("paragraph")
    if last.kind != "paragraph" or not text_of(last).startswith("— "):
        return quotation(blocks, None)
    opening, *rest = words_of([last])
    source = [text_node(opening.text[2:], opening.marks), *rest]
    return quotation(blocks[:-1], source)


def _language(info: str) -> str | None:
    """The language a fence names (CommonMark 4.5, the first word of the info string), if it may stand."""
    name = info.split(maxsplit=1)[0] if info.split() else None
    return None if name is None or SCHEMA.nodes["preformatted"].attributes["language"].problem(name) else name


def _joined(lines: Sequence[str]) -> list[Node]:
    joined: list[Node] = []
    for index, line in enumerate(lines):
        joined += [make("line_break")] if index else []
        joined += [text_node(clean(line))] if clean(line) else []
    return joined

"""Markdown → document: CommonMark 0.31.2, with tables, task lists, footnotes, struck words, and equations between
dollar signs."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from functools import cache

from markdown_it import MarkdownIt
from markdown_it.common.utils import unescapeAll
from markdown_it.rules_block.table import escapedSplit
from markdown_it.token import Token
from mdit_py_plugins.dollarmath import dollarmath_plugin
from mdit_py_plugins.footnote import footnote_plugin

from ..document.fitting import fitted
from ..document.node import Mark, Node, in_order, make
from ..document.schema import SCHEMA
from ..document.tables import squared
from ..document.walking import text_of, walk
from ..references import FRAGMENT, parse_reference
from ..writing.html import REGION
from .contents import with_places
from .front_matter import split_front_matter, taken
from .html import html_blocks, marks_of
from .html.fragments import note_anchor
from .html.tree import KNOWN
from .listed import Listed, Piece, assembled, labelled, with_source
from .reading import Arriving, Reading, Told
from .regions import region, without_regions
from .text import as_typed, clean, plain_blocks
from .titles import lowered, titled

_LISTS = {"bullet_list_open": "bulleted_list", "ordered_list_open": "numbered_list"}
_MARKS = {"strong": Mark("strong"), "em": Mark("emphasis"), "s": Mark("strike")}
_REGION_BEGINS = re.compile(rf'<div {REGION}="([^"]+)">')
_REGION_ENDS = "</div>"
"""Lines of HTML around the Markdown of a region."""
TASKS = {"[ ] ": "☐ ", "[x] ": "☑ ", "[X] ": "☑ "}
"""The signs of a task list, and the characters that stand for them in a document."""


def read_markdown(text: str, arriving: Arriving | None = None) -> Reading:
    """Read CommonMark. Level-1 headings are lowered with the rest; what the schema has no kind for becomes text. Never
    raises: what is nested too deeply to be read is text with its signs."""
    arriving = arriving or Arriving()
    said, text = split_front_matter(text)
    title, arriving.description = taken(said, arriving.told)
    try:
        blocks = markdown_blocks(text, arriving)
    except RecursionError:
        arriving.told.dropped("The structure was left out: it is nested too deeply to be read")
        return arriving.finished(plain_blocks(text))
    blocks = with_places(lowered(titled(blocks, arriving), arriving), arriving.title)
    # A title in the text is the one that readers have seen.
    if arriving.title and title and title != arriving.title:
        arriving.told.dropped(f"What the file says of itself was left out: title: {title}")
    arriving.title = arriving.title or title
    return arriving.finished(blocks)


_SIGNS_OF = (
    r"^#{1,6} \S",
    r"^(?:```|~~~)",
    r"^\|.*\|\s*$\n^\|[ :|-]+\|\s*$",
    r"\[[^\]\n]+\]\((?:https?:|/|#|\.)[^)\n]*\)",
    r"\*\*[^*\s][^*\n]*\*\*",
    r"^\s*- \[[ xX]\] ",
    r"^> \S",
    r"^\[\^[^\]]+\]: ",
)


def looks_like_markdown(text: str) -> bool:
    """Whether plain text is Markdown: it holds signs that nobody types for anything else."""
    sample = text[:20_000]
    found = [index for index, sign in enumerate(_SIGNS_OF) if re.search(sign, sample, re.MULTILINE)]
    # A line that begins with a number sign, or stressed words alone, may be anything.
    return len(found) > 1 or any(index in found for index in (2, 3, 5, 7))


def markdown_blocks(text: str, arriving: Arriving, numbers: Mapping[str, int] | None = None) -> list[Node]:
    """The blocks of a Markdown text, headings not lowered. ``numbers`` are those of its notes by their labels, where
    it is a part of a text; otherwise they are counted."""
    text = text.removeprefix("\ufeff")
    tokens = _parser().parse(text)
    labels = [str(token.meta["label"]) for token in tokens if token.type == "footnote_reference_open"]
    counted = {label: number for number, label in reversed(list(enumerate(labels, start=1)))}
    lines = re.split(r"\r\n?|\n", text)
    return assembled(_Blocks(tokens, lines, numbers or counted, arriving).until(None), arriving.told)


@cache
def _parser() -> MarkdownIt:
    """Making one takes as long as reading a page of text; reading changes nothing in it."""
    # Beyond its limit of nesting the parser drops what it has not read; here Python's own limit is met first.
    parser = MarkdownIt("commonmark", {"maxNesting": 10_000}).enable(["table", "strikethrough"])
    parser.use(dollarmath_plugin, allow_space=False, allow_digits=False, double_inline=False)
    parser.use(footnote_plugin, inline=False).disable("footnote_tail")
    parser.validateLink = _any_address  # type: ignore[method-assign, assignment]
    return parser


def _any_address(address: str) -> bool:
    """Addresses are judged by the schema's own rules, which are stricter and know pages and items."""
    return True


_BEFORE_ROW = re.compile(r"^[\s>*+\-.)\d]*\|")
_TAG = re.compile(r"</?([a-zA-Z][\w-]*)[^<>]*>")


def _is_typed(html: str) -> bool:
    """Whether this looks like a tag and is none of HTML: words between angles, as in “<your name>”. Names with a hyphen
    are those of elements that a page defines itself."""
    tag = _TAG.fullmatch(html)
    return tag is not None and tag[1].lower() not in KNOWN and "-" not in tag[1]


_NAMES = re.compile(r"<[a-zA-Z][^>]{0,400}?\s(?:id|name)\s*=\s*[\"']?([^\"'\s>]{1,100})", re.IGNORECASE)
_GIVEN = re.compile(rf" +\{{:? *#({FRAGMENT}) *\}} *$")
"""A name behind the words of a heading, as several programs write it: ``{#name}``, ``{: #name }``."""


def _led_to(tokens: Sequence[Token]) -> frozenset[str]:
    """The names that links within a text lead to, as far as they may be anchors."""
    found = {
        str(child.attrs.get("href", ""))[1:]
        for token in tokens
        for child in token.children or ()
        if child.type == "link_open" and str(child.attrs.get("href", "")).startswith("#")
    }
    return frozenset(name for name in found if len(name) <= 100 and re.fullmatch(FRAGMENT, name))


def _without_name(run: list[Node]) -> tuple[str | None, list[Node]]:
    """The name that stands behind the words of a heading, if any, and the words without it."""
    last = run[-1] if run else None
    match = _GIVEN.search(last.text) if last is not None and last.kind == "text" else None
    if last is None or match is None or len(match[1]) > 100:
        return None, _trimmed(run)
    rest = last.text[: match.start()].rstrip(" ")
    return match[1], [*run[:-1], Node("text", {}, (), last.marks, rest)] if rest else run[:-1]


class _Blocks:
    """Turns the flat list of tokens into nested blocks."""

    def __init__(
        self, tokens: Sequence[Token], lines: Sequence[str], labels: Mapping[str, int], arriving: Arriving
    ) -> None:
        self.tokens = tokens
        self.lines = lines
        self.labels = labels
        self.arriving = arriving
        self.place = 0
        self.notes = self._anchors()
        self.wanted = _led_to(tokens)
        self.names: list[str] = []
        """Names that stand on their own, and are those of the heading that follows."""

    def _anchors(self) -> dict[str, str]:
        """The anchor of each note: its label where it may serve, otherwise one made of its words."""
        anchors: dict[str, str] = {}
        label = ""
        for token in self.tokens:
            if token.type == "footnote_reference_open":
                label = str(token.meta["label"])
            elif token.type == "inline" and label and label not in anchors:
                own = re.fullmatch(FRAGMENT, label) and label.startswith("note-") and len(label) <= 100
                anchors[label] = label if own else note_anchor(label + token.content)
        return anchors

    def until(self, end: str | None) -> list[Piece]:
        pieces: list[Piece] = []
        while self.place < len(self.tokens):
            token = self.tokens[self.place]
            self.place += 1
            if token.type == end or (end == _REGION_ENDS and token.level == 0 and token.content.strip() == end):
                break
            if token.type == "footnote_reference_open":
                label = str(token.meta["label"])
                inside = self.blocks("footnote_reference_close")
                pieces.append(Listed(inside, 0, True, self.labels[label], "notes", self.notes.get(label)))
            else:
                pieces += self.block(token)
        return pieces

    def blocks(self, end: str) -> list[Node]:
        return assembled(self.until(end), self.arriving.told)

    def block(self, token: Token) -> list[Node]:
        if token.type in ("paragraph_open", "heading_open"):
            inline = self.tokens[self.place]
            self.place += 2
            return self.textblock(token, inline)
        if token.type in _LISTS:
            items = self.blocks(token.type.replace("_open", "_close"))
            start = min(int(token.attrs.get("start", 1)), 999_999) if token.type == "ordered_list_open" else 1
            attrs = {"start": start} if token.type == "ordered_list_open" else {}
            return [make(_LISTS[token.type], items, **attrs)]
        if token.type == "list_item_open":
            return [
                make(
                    "list_item",
                    _task(fitted("list_item", self.blocks("list_item_close"), self.arriving.told.flattened)),
                )
            ]
        if token.type == "blockquote_open":
            return [_quoted(self.blocks("blockquote_close"), self.arriving.told)]
        if token.type == "table_open":
            return [self.table()]
        if token.type in ("math_block", "math_block_label"):
            latex = " ".join(clean(token.content.replace("\n", " ")).split())
            if SCHEMA.nodes["equation"].attributes["latex"].problem(latex):
                # Longer than any equation may be: its lines stay as they were typed.
                return [make("preformatted", _joined(token.content.strip("\n").split("\n")))] if latex else []
            return [make("equation", latex=latex)]
        if token.type in ("fence", "code_block"):
            lines = token.content.removesuffix("\n").split("\n")
            return [make("preformatted", _joined(lines), language=self.language(token.info))]
        if token.type == "html_block" and _is_typed(token.content.strip()):
            return [make("paragraph", [Node("text", text=clean(token.content.strip()))])]
        if token.type == "html_block":
            if opened := _REGION_BEGINS.fullmatch(token.content.strip()) if token.level == 0 else None:
                return list(region(opened[1], self.blocks(_REGION_ENDS)))
            blocks, exact = html_blocks(token.content, self.arriving)
            blocks = [block for block in blocks if exact or block.kind != "paragraph" or block.content]
            blocks = without_regions(blocks) if token.level else blocks
            if exact or not (names := _NAMES.findall(token.content)):
                return blocks
            if len(blocks) == 1 and blocks[0].kind == "heading" and not blocks[0].attrs["anchor"]:
                return [blocks[0].with_attrs(anchor=self.anchor(names))]
            self.names += [] if blocks else names
            return blocks
        return [make("divider")] if token.type == "hr" else []

    def language(self, info: str) -> str | None:
        """The language a fence names (CommonMark 4.5, the first word of the info string), if it may stand. The rest
        is told."""
        name, *rest = unescapeAll(info).split(maxsplit=1) or [""]
        if SCHEMA.nodes["preformatted"].attributes["language"].problem(name):
            name, rest = "", [info]
        if said := clean(" ".join(rest)).strip():
            self.arriving.told.dropped(f"What stands beside the beginning of a block of code was left out: {said}")
        return name or None

    def table(self) -> Node:
        cells: list[list[Node]] = []
        while (token := self.tokens[self.place]).type != "table_close":
            self.place += 1
            if token.type == "tr_open":
                cells.append([])
                if len(cells) > 1 and token.map:
                    self.beyond(self.lines[token.map[0]], len(cells[0]))
            elif token.type in ("th_open", "td_open"):
                kind = "table_header" if token.type == "th_open" else "table_cell"
                paragraph = Token("paragraph_open", "p", 1)
                blocks = self.textblock(paragraph, self.tokens[self.place])
                cells[-1].append(make(kind, fitted(kind, blocks, self.arriving.told.flattened)))
        self.place += 1
        rows = [make("table_row", row) for row in cells]
        if len(rows) > 1 and all(map(_is_blank, rows[0].content)):
            # Markdown has no table without a row of headers; an empty one stands for none.
            rows.pop(0)
        return make("table", [make("table_grid", squared(rows))])

    def beyond(self, line: str, columns: int) -> None:
        """Tell what stands in a row of a table beyond its last column: the parser leaves it out (GFM 0.29, 4.10)."""
        for words in escapedSplit(_BEFORE_ROW.sub("", line).strip().removesuffix("|"))[columns:]:
            if words := clean(words).strip():
                self.arriving.told.dropped(f"What stands beyond the last column of a table was left out: {words}")

    def textblock(self, token: Token, inline: Token) -> list[Node]:
        blocks: list[Node] = []
        run: list[Node] = []
        for piece in _Inline(self).pieces(inline.children or []):
            if piece.kind == "picture":
                if any(each.text.strip(" ") or each.kind == "formula" for each in run):
                    blocks.append(self.wrap(token, _trimmed(run)))
                blocks.append(piece)
                run = []
            else:
                run.append(piece)
        names = [name for each in inline.children or () for name in _NAMES.findall(each.content)]
        if token.type == "heading_open":
            self.names += names
        elif names and not blocks and not run:
            self.names += names  # A place alone, before what it names.
            return []
        if any(each.text.strip(" ") or each.kind == "formula" for each in run) or not blocks:
            blocks.append(self.wrap(token, run))
        return blocks

    def wrap(self, token: Token, run: list[Node]) -> Node:
        names, self.names = self.names, []
        if token.type == "paragraph_open":
            return make("paragraph", run)
        given, run = _without_name(_without_space_before(run) if names else run)
        return make("heading", run, level=int(token.tag[1]), anchor=given or self.anchor(names))

    def anchor(self, names: Sequence[str]) -> str | None:
        """Of names that were given to a heading, the first that something leads to."""
        return next((name for name in names if name in self.wanted), None)


class _Inline:
    """The words of one block. ``marks`` are those that are open, each with the tag that opened it."""

    def __init__(self, blocks: _Blocks) -> None:
        self.known = blocks
        self.arriving = blocks.arriving
        self.marks: list[tuple[str, tuple[Mark, ...]]] = []

    def pieces(self, tokens: Sequence[Token]) -> Iterator[Node]:
        """Words, line breaks, equations and pictures of one block, in order."""
        for token in tokens:
            kind = token.type
            if kind == "text":
                if text := clean(token.content):
                    yield Node("text", {}, (), self.now(), text)
            elif kind == "link_open":
                title = clean(re.sub(r"\s+", " ", str(token.attrs.get("title", "")))).strip()
                title = self.arriving.told.within(title, 200, "title of a link")
                self.marks.append(("a", self.link(str(token.attrs.get("href", "")), title)))
            elif kind.endswith("_open") and token.tag in _MARKS:
                self.marks.append((token.tag, (_MARKS[token.tag],)))
            elif kind.endswith("_close"):
                self.close(token.tag)
            elif kind == "softbreak":
                yield Node("text", {}, (), self.now(), " ")
            elif kind == "hardbreak":
                yield Node("line_break", {}, (), self.now())
            elif kind == "math_inline":
                if latex := clean(token.content).strip():
                    too_long = SCHEMA.nodes["formula"].attributes["latex"].problem(latex)
                    yield (
                        Node("text", {}, (), self.now(), latex)
                        if too_long
                        else Node("formula", {"latex": latex}, (), self.now())
                    )
            elif kind == "code_inline":
                if words := clean(token.content):
                    yield Node("text", {}, (), self.now(Mark("code")), words)
            elif kind == "image":
                yield from self.picture(token)
            elif kind == "footnote_ref":
                yield self.note(str(token.meta["label"]))
            elif kind == "html_inline":
                yield from self.html(token.content)
            elif text := clean(token.content):
                yield Node("text", {}, (), self.now(), text)

    def now(self, *more: Mark) -> tuple[Mark, ...]:
        if not self.marks:
            return more
        opened = [mark for _, marks in self.marks for mark in marks]
        return in_order({mark.kind: mark for mark in (*opened, *more)}.values())

    def close(self, tag: str) -> None:
        for index in range(len(self.marks) - 1, -1, -1):
            if self.marks[index][0] == tag:
                del self.marks[index]
                return

    def html(self, html: str) -> Iterator[Node]:
        """A tag among the words: marks are opened and closed, line ends and pictures taken, the rest looked through."""
        if _is_typed(html):
            yield Node("text", {}, (), self.now(), clean(html))
        elif closing := re.match(r"</([a-zA-Z][\w-]*)", html):
            self.close(closing[1].lower())
        elif re.match(r"<br\b", html, re.IGNORECASE):
            yield Node("line_break", {}, (), self.now())
        elif re.match(r"<(?:img|math)\b", html, re.IGNORECASE) or "data-latex" in html:
            for block in html_blocks(html, self.arriving)[0]:
                if block.kind == "picture":
                    self.arriving.told.picture(self.now())
                yield from [block] if block.kind == "picture" else block.content
        elif re.match(r"<[a-zA-Z]", html) and not html.endswith("/>"):
            self.marks.append(marks_of(html, self.arriving))

    def note(self, label: str) -> Node:
        """The sign of a note: its number, raised, leading to it."""
        anchor = self.known.notes.get(label)
        words = str(self.known.labels.get(label, label))
        if anchor is None:
            return Node("text", {}, (), self.now(), words)
        link = Mark("link", {"href": f"#{anchor}", "title": None, "new_window": False})
        return Node("text", {}, (), self.now(link, Mark("superscript")), words)

    def link(self, href: str, title: str) -> tuple[Mark, ...]:
        leads = self.arriving.link(href) or (href if parse_reference(href) else None)
        if leads:
            return (Mark("link", {"href": leads, "title": title or None, "new_window": False}),)
        if href:
            self.arriving.told.link(href)
        return ()

    def picture(self, token: Token) -> Iterator[Node]:
        source = str(token.attrs.get("src", ""))
        reference = parse_reference(source)
        if source:
            self.arriving.told.picture(self.now())
        told = self.arriving.told
        alt = told.within(clean(re.sub(r"\s+", " ", _alt(token))).strip(), 1000, "alt text")
        caption = told.within(clean(re.sub(r"\s+", " ", str(token.attrs.get("title", "")))).strip(), 1000, "caption")
        if reference and reference.kind == "item" and not reference.fragment:
            yield make("picture", item=reference.number, alt=alt or None, caption=caption or None)
        elif source:
            name = re.split(r"[?#]", source)[0].rsplit("/", 1)[-1]
            number = self.arriving.picture(source, name=name, alt=alt)
            yield make("picture", item=number, alt=alt or None, caption=caption or None)
        elif alt:
            yield Node("text", {}, (), self.now(), alt)


def _is_blank(cell: Node) -> bool:
    return text_of(cell) == "" and all(node.kind != "picture" for _, node in walk(cell))


def _without_space_before(run: list[Node]) -> list[Node]:
    """Words without the space that parted them from a place before them."""
    first = run[0] if run else None
    if first is None or first.kind != "text":
        return run
    rest = first.text.lstrip(" ")
    return [Node("text", {}, (), first.marks, rest), *run[1:]] if rest else run[1:]


def _trimmed(run: list[Node]) -> list[Node]:
    """Words before a picture, without the space that parted them from it."""
    last = run[-1] if run else None
    if last is None or last.kind != "text" or not last.text.endswith(" "):
        return run
    rest = last.text.rstrip(" ")
    return [*run[:-1], Node("text", {}, (), last.marks, rest)] if rest else _trimmed(run[:-1])


def _alt(token: Token) -> str:
    """The words of a picture's description, its marks gone (CommonMark 6.4)."""
    return "".join(
        _alt(child) if child.type == "image" else child.content or (" " if "break" in child.type else "")
        for child in token.children or []
    )


def _task(blocks: list[Node]) -> list[Node]:
    """The blocks of a list item with the sign of a task as a character."""
    first = blocks[0]
    if not first.content or first.content[0].marks or first.content[0].text[:4] not in TASKS:
        return blocks
    opening = first.content[0]
    words = Node("text", text=TASKS[opening.text[:4]] + opening.text[4:].lstrip(" "))
    return [first.with_content((words, *first.content[1:])), *blocks[1:]]


def _quoted(blocks: list[Node], told: Told) -> Node:
    """What a block quotation stands for: an aside where its first words are “Note”, “Tip” or “Warning” alone and
    strong, otherwise a quotation, with a last paragraph after a dash as its source."""
    return labelled(blocks, told) or with_source(blocks, told)


def _joined(lines: Sequence[str]) -> list[Node]:
    joined: list[Node] = []
    for index, line in enumerate(lines):
        joined += [make("line_break")] if index else []
        joined += [Node("text", text=words)] if (words := as_typed(line)) else []
    return joined

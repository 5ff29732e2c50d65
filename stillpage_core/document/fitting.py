"""Making blocks fit where they are to stand: what may not stand in a list item or a cell keeps its words."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence

from ..kinds.ways import ways_of
from .node import Node, make, text_node
from .schema import SCHEMA


def _nobody(_: str) -> None:
    pass


def fitted(kind: str, blocks: Iterable[Node], flattened: Callable[[str], None] = _nobody) -> list[Node]:
    """Blocks that may stand in a container of this kind (``list_item``, ``quotation_words``, ``aside``,
    ``table_cell``, ``table_header``): a block that may not becomes paragraphs with its words. There is at least one;
    in a list item the first is a paragraph. ``flattened`` is told the kind of each block that became paragraphs."""
    allowed = SCHEMA.contents[kind].names
    given = list(blocks)
    fits = all(block.kind in allowed for block in given)
    result = given if fits else [part for block in given for part in _fit(block, allowed, flattened)]
    if not result or (kind == "list_item" and result[0].kind != "paragraph"):
        result.insert(0, make("paragraph"))
    return result


def _fit(block: Node, allowed: frozenset[str], flattened: Callable[[str], None]) -> Iterator[Node]:
    if block.kind in allowed:
        yield block
        return
    flattened(block.kind)
    if block.kind == "equation":
        yield make("paragraph", [make("formula", latex=block.attrs["latex"])])
    elif SCHEMA.nodes[block.kind].is_textblock:
        if block.content:
            yield make("paragraph", block.content)
    else:
        # What is said in attributes is not lost either: the title of a list of documents, the words of a slide.
        yield from said_of(block)
        for child in block.content:
            yield from _fit(child, allowed, flattened)


def said_of(block: Node) -> list[Node]:
    """The words that the attributes of a block hold itself, a paragraph a line."""
    words = ways_of(block.kind).words
    lines = words(block.with_content(())).split("\n") if words else ()
    return [make("paragraph", [text_node(line)]) for line in lines if line.strip()]


def words_of(blocks: Sequence[Node]) -> list[Node]:
    """The inline content of several blocks as that of one textblock, parted by line breaks. Pictures are left out."""
    found: list[Node] = []
    for block in blocks:
        if block.kind == "equation":
            inside = [make("formula", latex=block.attrs["latex"])]
        elif SCHEMA.nodes[block.kind].is_textblock:
            inside = list(block.content)
        else:
            inside = words_of(block.content)
        if inside:
            found += [make("line_break"), *inside] if found else inside
    return found

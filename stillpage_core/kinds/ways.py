"""What belongs to one kind of node: how it goes out into each format, how it comes in, whom it names, what it says."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from functools import cache
from importlib import import_module
from typing import TYPE_CHECKING, Any

from . import KINDS

if TYPE_CHECKING:
    from selectolax.lexbor import LexborNode

    from ..document.naming import Names
    from ..document.node import Mark, Node
    from ..reading.html.blocks import Blocks
    from ..resolving import Resolver
    from ..writing.docx import Writer as Docx
    from ..writing.html import File, Published, Storable
    from ..writing.markdown import Writer as Markdown
    from ..writing.odt import Writer as Odt
    from ..writing.text import Writer as Text

    Read = Callable[[Blocks, LexborNode, tuple[Mark, ...], int], bool]


@dataclass(frozen=True)
class Ways:
    """How nodes of one kind go out and come in. Every way but ``storable`` may be left out: what it does then is said
    beside it.

    A writer hands itself over, so that a kind may have it write what is within; ``style`` is that of the paragraphs
    around, as the format has it.
    """

    storable: Callable[[Storable, Node], str] | None = None
    """The storable HTML, which the reader turns back into the same node. Left out: the kind's element in the schema."""
    published: Callable[[Published, Node], str] | None = None
    """The HTML that readers get. Left out: the storable HTML."""
    file: Callable[[File, Node], str] | None = None
    """HTML in a file that stands alone. Left out: what readers get."""
    read: Mapping[str, Read] = field(default_factory=dict)
    """How it comes in from HTML, by the tag of its element, or by tag and class (“div.aside”). Each says whether the
    element was one; it is read as any other if not. Left out: by the kind's element in the schema alone."""
    markdown: Callable[[Markdown, Node], str] | None = None
    """Left out: the storable HTML on one line, which our reader knows."""
    text: Callable[[Text, Node], str] | None = None
    """Left out: its words."""
    docx: Callable[[Docx, Node, str], str] | None = None
    odt: Callable[[Odt, Node, str], str] | None = None
    """Left out: a paragraph of its text."""
    names: Callable[[Names, Node], None] | None = None
    """Tells what the node names, beside the links of its words. Left out: nothing."""
    loads: Callable[[Node, Resolver], Iterable[tuple[str, str]]] | None = None
    """What a browser loads for it beside what every page has: directives of the Content-Security-Policy with a source
    each (`writing.policy`). Left out: nothing."""
    words: Callable[[Node], str] | None = None
    """The words that its attributes hold. Left out: none; those of what is within count in any case."""


@cache
def all_ways() -> Mapping[str, Ways]:
    """The ways of every kind that has a folder, by the kind's name."""
    found: dict[str, Ways] = {}
    for name in KINDS:
        found |= import_module(f"{__package__}.{name}.ways").WAYS
    return found


@cache
def reads() -> Mapping[str, tuple[tuple[str, Any], ...]]:
    """How elements come in, by tag: the class that each must have (or none), and the way."""
    found: dict[str, tuple[tuple[str, Any], ...]] = {}
    for ways in all_ways().values():
        for said, way in ways.read.items():
            tag, _, css_class = said.partition(".")
            found[tag] = (*found.get(tag, ()), (css_class, way))
    return found


WAYLESS = Ways()
"""The ways of a kind without a folder: every one left out."""


def ways_of(kind: str) -> Ways:
    """The ways of a kind."""
    return all_ways().get(kind, WAYLESS)

"""The small changes that lead from one document to another, so that whoever writes in it keeps caret and undo."""

from __future__ import annotations

from collections.abc import Iterator

from ..budget import spend
from ..document.changes import Change, ReplaceInline, ReplaceNodes, SetAttributes
from ..document.node import Node
from ..document.schema import SCHEMA
from ..document.walking import units
from ..errors import Path
from .aligning import changed_runs, paired, rising
from .tokens import Token, nodes_of, tokens_of


def changes_between(old: Node, new: Node) -> list[Change]:
    """Changes that make ``new`` of ``old`` with `changes.apply`; both are in normal form. What stands in both stays
    untouched, to the word. Takes time in proportion to the two."""
    return list(_changes(old, new, ()))


def _changes(old: Node, new: Node, path: Path) -> Iterator[Change]:
    spend()
    if old == new:
        return
    if old.attrs != new.attrs:
        differing = {name: value for name, value in new.attrs.items() if old.attrs[name] != value}
        yield SetAttributes(path, differing)
    if SCHEMA.nodes[old.kind].is_textblock:
        yield from _in_words(old, new, path)
    else:
        yield from _in_blocks(old, new, path)


def _in_words(old: Node, new: Node, path: Path) -> Iterator[Change]:
    before, after = tokens_of(old), tokens_of(new)
    place, at = 0, 0
    for first, last, begin, end in changed_runs(before, after):
        place += sum(map(_units, before[at:first]))
        gone = sum(map(_units, before[first:last]))
        yield ReplaceInline(path, place, place + gone, tuple(nodes_of(after[begin:end])))
        place, at = place + gone, last


def _units(token: Token) -> int:
    return 1 if isinstance(token, Node) else units(token[0])


def _in_blocks(old: Node, new: Node, path: Path) -> Iterator[Change]:
    pairs = {
        here: there
        for here, there in paired(old.content, new.content).items()
        if old.content[here].kind == new.content[there].kind
    }
    here = sorted(pairs)
    kept = [here[index] for index in rising([pairs[each] for each in here])]
    at = there = 0
    for index in [*kept, len(old.content)]:
        place = pairs[index] if index < len(old.content) else len(new.content)
        if index > at or place > there:
            yield ReplaceNodes((*path, at), index - at, new.content[there:place])
        if index < len(old.content):
            yield from _changes(old.content[index], new.content[place], (*path, index))
        at, there = index + 1, place + 1

"""Two texts that began as one, made into one that has the changes of both.

Blocks are found again by what they are (`aligning`), so that one side may move a section while the other writes in it.
What both changed is merged word by word, and attribute by attribute. Only where both changed the same words, or the
same attribute, each in its way, is there a `Clash`: then both wordings stand, the one after the other, or the one
stands and the clash holds the other. No word that either side added is ever dropped.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from ..budget import spend
from ..document.node import Node, make
from ..document.normal import normal_form
from ..document.schema import SCHEMA
from ..document.tables import grid_of
from .aligning import changed_runs, paired, rising
from .tokens import Token, apart, nodes_of, tokens_of

Sort = Literal["words", "gone", "attributes"]

TOGETHER = (("alt", "decorative"), ("turn", "straighten", "crop", "ratio", "focus"))
"""Attributes that mean something as a group alone."""


@dataclass(frozen=True)
class Clash:
    """A place that both sides changed, each in its way.

    ``theirs`` and ``mine`` are the blocks as either would have them. Of "words" both stand in the merged text, theirs
    first; where one side took the block away ("gone"), its blocks are none, and the other's stand; of "attributes"
    theirs stands alone.
    """

    sort: Sort
    theirs: tuple[Node, ...]
    mine: tuple[Node, ...]


@dataclass(frozen=True)
class Merged:
    """A document with the changes of both sides, valid where all three were, and what has to be asked."""

    document: Node
    clashes: tuple[Clash, ...]
    facts: tuple[str, ...] = ()
    """The attributes of the document itself that both changed, each in its way: mine stand, and nobody is asked."""


def merge(base: Node, mine: Node, theirs: Node) -> Merged:
    """Merge two documents that both began as ``base``. Where both put something at the same place, theirs comes first.

    Takes time in proportion to the three texts.
    """
    found = _merged(_with_new_regions(base, mine, theirs), mine, theirs)
    assert found is not None, "a region takes any block, so its two forms can always be one"
    facts = [name for name in base.attrs if _one_of(*(each.attrs[name] for each in (base, mine, theirs))) is None]
    facts = [name for name in facts if mine.attrs[name] != theirs.attrs[name]]
    whole = found.nodes[0].with_attrs(**{name: mine.attrs[name] for name in facts})
    return Merged(normal_form(whole), tuple(found.clashes), tuple(facts))


def _with_new_regions(base: Node, mine: Node, theirs: Node) -> Node:
    """The base with the regions, empty, that both sides put in since: both write in one then."""
    known, put_in = ({region.attrs["name"] for region in each.content} for each in (base, mine))
    both = put_in - known
    new = [make("region", name=name) for region in theirs.content if (name := region.attrs["name"]) in both]
    return base.with_content([*base.content, *new]) if new else base


@dataclass
class _Found:
    """What becomes of one block: none, one, or both wordings."""

    nodes: list[Node]
    clashes: list[Clash]


def _merged(base: Node, mine: Node, theirs: Node) -> _Found | None:
    """One block; None where its two forms cannot be made one, and have to stand side by side a level above."""
    spend()
    if theirs in (mine, base):
        return _Found([mine], [])
    if mine == base:
        return _Found([theirs], [])
    kind = _one_of(base.kind, mine.kind, theirs.kind)
    if kind is None:
        return None
    attrs, clashing = _attributes(kind, base, mine, theirs)
    if SCHEMA.nodes[kind].is_textblock:
        found = _words(kind, attrs, base, mine, theirs)
    elif SCHEMA.nodes[kind].content:
        found = _blocks(kind, attrs, base, mine, theirs)
    else:
        found = _Found([Node(kind, attrs)], [])
    if found and clashing and found.nodes and kind != "doc":
        mine_too = found.nodes[0].with_attrs(**{name: mine.attrs[name] for name in clashing})
        found.clashes.append(Clash("attributes", (found.nodes[0],), (mine_too,)))
    return found


def _one_of(base: Any, mine: Any, theirs: Any) -> Any:
    """What a value becomes that either side may have changed; None where both did, and differ."""
    if theirs in (mine, base):
        return mine
    return theirs if mine == base else None


def _attributes(kind: str, base: Node, mine: Node, theirs: Node) -> tuple[Mapping[str, Any], list[str]]:
    """The attributes of both sides, and the names of those that both changed; of these, theirs stand."""
    if not base.kind == mine.kind == theirs.kind:
        return (mine if mine.kind == kind and base.kind != kind else theirs).attrs, []
    attrs = dict(theirs.attrs)
    clashing: list[str] = []
    grouped = {name for group in TOGETHER for name in group}
    groups = [group for group in TOGETHER if group[0] in attrs]
    for group in [*groups, *((name,) for name in attrs if name not in grouped)]:
        values = [tuple(each.attrs[name] for name in group) for each in (base, mine, theirs)]
        one = _one_of(*values)
        if one is None:
            clashing += group
        else:
            attrs.update(zip(group, one, strict=True))
    return attrs, clashing


# Words


def _words(kind: str, attrs: Mapping[str, Any], base: Node, mine: Node, theirs: Node) -> _Found | None:
    first: list[Token] = []
    second: list[Token] = []
    clash = False
    old, new, others = (tokens_of(each) for each in (base, mine, theirs))
    at = 0
    for run in _together(changed_runs(old, new), changed_runs(old, others)):
        _add(first, second, old[at : run.start], old[at : run.start])
        at = run.end
        one, other = run.texts(old, new, others)
        if run.clashes and one != other:
            clash = True
            _add(first, second, other, one)
        elif run.both_add:
            both = other if one == other else [*other, *apart(other, one), *one]
            _add(first, second, both, both)
        else:
            merged = run.merged(old, new, others)
            _add(first, second, merged, merged)
    _add(first, second, old[at:], old[at:])
    made = [Node(kind, attrs, tuple(nodes_of(tokens))) for tokens in ((first, second) if clash else (first,))]
    if not all(_valid(each) for each in made):
        return None
    if not clash:
        return _Found(made, [])
    made[1] = _without_anchor(made[1])
    return _Found(made, [Clash("words", (made[0],), (made[1],))])


def _add(first: list[Token], second: list[Token], to_first: Sequence[Token], to_second: Sequence[Token]) -> None:
    first += to_first
    second += to_second


Change = tuple[int, int, int, int]


@dataclass
class _Run:
    """Changes of both sides that touch the same words of the base, from ``start`` to ``end``."""

    start: int
    end: int
    mine: list[Change]
    theirs: list[Change]

    @property
    def both_add(self) -> bool:
        """Whether both put something between the same two words, and nothing else."""
        return self.start == self.end and bool(self.mine and self.theirs)

    @property
    def clashes(self) -> bool:
        """Whether both changed the same words, and not only by taking away."""
        if not self.mine or not self.theirs or self.both_add:
            return False
        return any(added < last for _, _, added, last in [*self.mine, *self.theirs])

    def texts(
        self, base: Sequence[Token], mine: Sequence[Token], theirs: Sequence[Token]
    ) -> tuple[list[Token], list[Token]]:
        """The words here as mine has them, and as theirs does."""
        return (
            _changed(self.start, self.end, self.mine, base, mine),
            _changed(self.start, self.end, self.theirs, base, theirs),
        )

    def merged(self, base: Sequence[Token], mine: Sequence[Token], theirs: Sequence[Token]) -> list[Token]:
        """The words here where no more than one side added any."""
        gone = {index for first, last, _, _ in [*self.mine, *self.theirs] for index in range(first, last)}
        added: dict[int, list[Token]] = {}
        for side, tokens in ((self.theirs, theirs), (self.mine, mine)):
            for first, _, begin, end in side:
                added.setdefault(first, []).extend(tokens[begin:end])
        kept: list[Token] = []
        for index in range(self.start, self.end + 1):
            kept += added.get(index, [])
            if index < self.end and index not in gone:
                kept.append(base[index])
        return kept


def _changed(
    start: int, end: int, changes: Sequence[Change], base: Sequence[Token], other: Sequence[Token]
) -> list[Token]:
    result: list[Token] = []
    for first, last, begin, stop in changes:
        result += base[start:first]
        result += other[begin:stop]
        start = last
    return [*result, *base[start:end]]


def _together(mine: Sequence[Change], theirs: Sequence[Change]) -> Iterator[_Run]:
    """Changes of both sides in order, those as one that touch the same words. What is added just before or just after
    words that the other side changed touches none of them."""
    ordered = sorted([(*each, 0) for each in theirs] + [(*each, 1) for each in mine], key=lambda each: each[:2])
    run: _Run | None = None
    for first, last, begin, end, side in ordered:
        change = (first, last, begin, end)
        same_place = run is not None and run.start == run.end == first == last
        if run is None or not (first < run.end or same_place):
            if run is not None:
                yield run
            run = _Run(first, last, [], [])
        run.end = max(run.end, last)
        (run.mine if side else run.theirs).append(change)
    if run is not None:
        yield run


# Blocks

Key = tuple[str, int]
"""A block: of the base, or new in mine or in theirs, and its index there."""


def _blocks(kind: str, attrs: Mapping[str, Any], base: Node, mine: Node, theirs: Node) -> _Found | None:
    in_mine, in_theirs = _pairs(kind, base, mine), _pairs(kind, base, theirs)
    nodes: list[Node] = []
    clashes: list[Clash] = []
    for side, index in _order(base, (mine, in_mine), (theirs, in_theirs)):
        if side != "base":
            nodes.append((mine if side == "mine" else theirs).content[index])
            continue
        found = _one_block(
            base.content[index],
            mine.content[in_mine[index]] if index in in_mine else None,
            theirs.content[in_theirs[index]] if index in in_theirs else None,
        )
        nodes += found.nodes
        clashes += found.clashes
    if not nodes:
        if kind in ("region", "table_cell", "table_header"):
            nodes = [make("paragraph")]
        elif not SCHEMA.contents[kind].allows(()):
            return _Found([], [])
    whole = Node(kind, attrs, tuple(nodes))
    return _Found([whole], clashes) if _valid(whole) else None


def _pairs(kind: str, base: Node, other: Node) -> dict[int, int]:
    if kind == "table_row" and len(base.content) == len(other.content):
        return {index: index for index in range(len(base.content))}
    return paired(base.content, other.content)


def _one_block(base: Node, mine: Node | None, theirs: Node | None) -> _Found:
    if mine is None or theirs is None:
        left = mine or theirs
        if left is None or left == base:
            return _Found([], [])
        if left.kind == "region":
            return _Found([left], [])  # Words written there go before the wish to be rid of it.
        there, here = (() if each is None else (each,) for each in (theirs, mine))
        return _Found([left], [Clash("gone", there, here)])
    found = _merged(base, mine, theirs)
    if found is None:
        second = _without_anchor(mine)
        return _Found([theirs, second], [Clash("words", (theirs,), (second,))])
    return found


def _without_anchor(block: Node) -> Node:
    """An address belongs to one block: to the first of two wordings."""
    return block.with_attrs(anchor=None) if block.attrs.get("anchor") else block


class _Line:
    """A sequence in which something can be put behind something else at once."""

    def __init__(self) -> None:
        self.after: dict[Key | None, Key | None] = {None: None}
        self.before: dict[Key, Key | None] = {}

    def put(self, first: Key, last: Key, behind: Key | None) -> None:
        """Put a run, from ``first`` to ``last``, behind a key (None: first of all)."""
        follows = self.after[behind]
        self.after[behind], self.before[first] = first, behind
        self.after[last] = follows
        if follows is not None:
            self.before[follows] = last

    def take(self, first: Key, last: Key) -> None:
        """Take a run out, to be put elsewhere."""
        behind, follows = self.before[first], self.after[last]
        self.after[behind] = follows
        if follows is not None:
            self.before[follows] = behind

    def end_of_new(self, key: Key | None) -> Key | None:
        """The last of the blocks new in theirs that follow a key, or the key."""
        while (follows := self.after[key]) is not None and follows[0] == "theirs":
            key = follows
        return key

    def __iter__(self) -> Iterator[Key]:
        key = self.after[None]
        while key is not None:
            yield key
            key = self.after[key]


Side = tuple[Node, dict[int, int]]


def _order(base: Node, mine: Side, theirs: Side) -> Iterable[Key]:
    """Every block there is, in the order that both sides make. What one side moved moves; where both did, theirs
    counts. What was added stays behind the block it was added behind."""
    keys, moved = _side("mine", mine)
    keys_there, moved_there = _side("theirs", theirs)
    line = _Line()
    behind: Key | None = None
    for key in keys_there:
        line.put(key, key, behind)
        behind = key
    for index in range(len(base.content)):
        if ("base", index) not in line.before:
            before: Key | None = ("base", index - 1) if index else None
            line.put(("base", index), ("base", index), before)
    added = _added(keys_there, theirs[0])
    behind = after = None
    for key in keys:
        if key[0] == "mine":
            block = mine[0].content[key[1]]
            if same := added.get((after, block)):
                behind = same.pop(0)
                continue
            place = behind if behind is not None and behind[0] == "mine" else line.end_of_new(behind)
            line.put(key, key, place)
        elif key in moved and key not in moved_there:
            last = line.end_of_new(key)
            line.take(key, last or key)
            line.put(key, last or key, line.end_of_new(behind))
        behind = key
        after = key if key[0] == "base" else after
    return line


def _added(keys: Iterable[Key], theirs: Node) -> dict[tuple[Key | None, Node], list[Key]]:
    """What theirs added, by the block of the base it follows and what it is: added by both, it is there once."""
    added: dict[tuple[Key | None, Node], list[Key]] = {}
    after: Key | None = None
    for key in keys:
        if key[0] == "base":
            after = key
        else:
            added.setdefault((after, theirs.content[key[1]]), []).append(key)
    return added


def _side(name: str, side: Side) -> tuple[list[Key], set[Key]]:
    """The blocks of a side in its order, and which of them it moved."""
    node, pairs = side
    known = {there: here for here, there in pairs.items()}
    keys: list[Key] = [
        ("base", known[index]) if index in known else (name, index) for index in range(len(node.content))
    ]
    old = [index for which, index in keys if which == "base"]
    still = {old[index] for index in rising(old)}
    return keys, {("base", index) for index in old if index not in still}


def _valid(node: Node) -> bool:
    """Whether a node may have just these children."""
    kind = SCHEMA.nodes[node.kind]
    if not SCHEMA.contents[node.kind].allows(child.kind for child in node.content):
        return False
    if kind.is_textblock and not kind.marks and any(child.marks for child in node.content):
        return False
    return kind.table_role != "table" or grid_of(node.content).problem is None

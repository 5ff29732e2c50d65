"""What two sequences have in common, and which block of one text is which of another.

Everything here takes time in proportion to its input: anchors that stand once on either side part the sequences
(“patience” matching), and only what is small is compared each with each.
"""

from __future__ import annotations

from bisect import bisect_left
from collections import Counter, defaultdict
from collections.abc import Hashable, Iterable, Sequence
from difflib import SequenceMatcher

from ..budget import spend
from ..document.node import Node
from ..document.schema import SCHEMA
from .tokens import words_in

SMALL = 2_500
"""How many pairs may be compared each with each."""
DEEPEST = 24
"""How often what lies between anchors is looked at for further ones."""
COMMON = 8
"""A word that more blocks hold says little about which is which."""
TELLING = 12
"""How many words of a block are looked for elsewhere, the rarest."""
ALIKE = 0.5
"""The share of words that two blocks must have in common to be held for one that was changed."""

Match = tuple[int, int, int]
"""Where a common run begins in the one and in the other, and how long it is."""


def numbered(one: Iterable[Node], other: Iterable[Node]) -> tuple[list[int], list[int]]:
    """A number for each node of two sequences, the same for those that are equal: numbers are compared at once."""
    numbers: dict[Node, int] = {}
    ones, others = ([numbers.setdefault(node, len(numbers)) for node in nodes] for nodes in (one, other))
    return ones, others


def matches(one: Sequence[Hashable], other: Sequence[Hashable]) -> list[Match]:
    """The runs that two sequences have in common, in the order of both."""
    found: list[Match] = []
    waiting = [(0, len(one), 0, len(other), 0)]
    while waiting:
        first, last, begin, end, depth = waiting.pop()
        start, start_other = first, begin
        while first < last and begin < end and one[first] == other[begin]:
            first, begin = first + 1, begin + 1
        if first > start:
            found.append((start, start_other, first - start))
        tail = 0
        while last > first and end > begin and one[last - 1] == other[end - 1]:
            last, end, tail = last - 1, end - 1, tail + 1
        if tail:
            found.append((last, end, tail))
        if first == last or begin == end:
            continue
        spend(last - first + end - begin)
        anchors = _anchors(one[first:last], other[begin:end]) if depth < DEEPEST else []
        if anchors:
            start, start_other = first, begin
            for at, there in [*((start + a, start_other + b) for a, b in anchors), (last, end)]:
                waiting.append((first, at, begin, there, depth + 1))
                if at < last:
                    found.append((at, there, 1))
                first, begin = at + 1, there + 1
        elif (last - first) * (end - begin) <= SMALL:
            small = SequenceMatcher(None, one[first:last], other[begin:end], autojunk=False)
            found += [(first + a, begin + b, size) for a, b, size in small.get_matching_blocks() if size]
    return _joined(sorted(found))


def _anchors(one: Sequence[Hashable], other: Sequence[Hashable]) -> list[tuple[int, int]]:
    """What stands once on either side and in the same order, as places in both."""
    here, there = Counter(one), Counter(other)
    place = {each: index for index, each in enumerate(other) if there[each] == 1}
    both = [(index, place[each]) for index, each in enumerate(one) if here[each] == 1 and each in place]
    return [both[index] for index in rising([there for _, there in both])]


def rising(numbers: Sequence[int]) -> list[int]:
    """The indexes of a longest run of rising numbers."""
    tops: list[int] = []
    lengths: list[int] = []
    before: list[int] = []
    for index, number in enumerate(numbers):
        place = bisect_left(lengths, number)
        before.append(tops[place - 1] if place else -1)
        tops[place : place + 1] = [index]
        lengths[place : place + 1] = [number]
    result: list[int] = []
    at = tops[-1] if tops else -1
    while at >= 0:
        result.append(at)
        at = before[at]
    return result[::-1]


def _joined(found: Iterable[Match]) -> list[Match]:
    joined: list[Match] = []
    for first, second, size in found:
        if joined and joined[-1][0] + joined[-1][2] == first and joined[-1][1] + joined[-1][2] == second:
            joined[-1] = (joined[-1][0], joined[-1][1], joined[-1][2] + size)
        else:
            joined.append((first, second, size))
    return joined


def changed_runs(one: Sequence[Hashable], other: Sequence[Hashable]) -> list[tuple[int, int, int, int]]:
    """The runs in which two sequences differ: from and to in the one, from and to in the other."""
    runs: list[tuple[int, int, int, int]] = []
    at = there = 0
    for first, second, size in [*matches(one, other), (len(one), len(other), 0)]:
        if first > at or second > there:
            runs.append((at, first, there, second))
        at, there = first + size, second + size
    return runs


_ALIKE = ({"bulleted_list", "numbered_list"}, {"table_cell", "table_header"})


def may_be_one(one: Node, other: Node) -> bool:
    """Whether one of the two can have become the other: their kinds are the same or stand for each other."""
    if one.kind == other.kind:
        return True
    if SCHEMA.nodes[one.kind].is_textblock and SCHEMA.nodes[other.kind].is_textblock:
        return True
    return any(one.kind in group and other.kind in group for group in _ALIKE)


def paired(base: Sequence[Node], other: Sequence[Node]) -> dict[int, int]:
    """Which block of ``base`` is which of ``other``: the same, then the same elsewhere, then those with the most words
    in common, then what stands in the same place. By index; what was added or removed has no pair. A region is known
    by its name."""
    if base and base[0].kind == "region":
        place = {region.attrs["name"]: index for index, region in enumerate(other)}
        names = [region.attrs["name"] for region in base]
        return {index: place[name] for index, name in enumerate(names) if name in place}
    pairs: dict[int, int] = {}
    for first, second, size in matches(*numbered(base, other)):
        pairs.update((first + offset, second + offset) for offset in range(size))
    taken = set(pairs.values())
    _between(base, other, pairs, taken)
    left = [index for index in range(len(base)) if index not in pairs]
    free = [index for index in range(len(other)) if index not in taken]
    if not left or not free:
        return pairs
    for here, there in alike(base, other, left, free):
        if here not in pairs and there not in taken:
            pairs[here] = there
            taken.add(there)
    _in_place(base, other, pairs, taken)
    return pairs


def _between(base: Sequence[Node], other: Sequence[Node], pairs: dict[int, int], taken: set[int]) -> None:
    """Pair what stands alone between two that are the same on both sides."""
    last_there = len(other)
    for index in range(len(base)):
        if index in pairs:
            continue
        before = pairs.get(index - 1, -2) if index else -1
        after = pairs.get(index + 1, -2) if index + 1 < len(base) else last_there
        there = before + 1
        if before >= -1 and after == there + 1 and there not in taken and may_be_one(base[index], other[there]):
            pairs[index] = there
            taken.add(there)


def alike(
    base: Sequence[Node], other: Sequence[Node], left: Sequence[int], free: Sequence[int]
) -> list[tuple[int, int]]:
    """Blocks that may be one, those first that have the most in common."""
    holding: dict[str, list[int]] = defaultdict(list)
    words = {index: Counter(words_in(base[index])) for index in left}
    for index, held in words.items():
        for word in held:
            holding[word].append(index)
    found: list[tuple[float, int, int, int]] = []
    for there in free:
        spend()
        mine = Counter(words_in(other[there]))
        rare = sorted((len(at), word) for word in mine if 0 < len(at := holding.get(word, ())) <= COMMON)[:TELLING]
        for here in {index for _, word in rare for index in holding[word]}:
            share = 2 * (mine & words[here]).total() / (mine.total() + words[here].total())
            if share >= ALIKE and may_be_one(base[here], other[there]):
                found.append((-share, abs(here - there), here, there))
    # What has no words, as a picture, is known by its kind and what it shows.
    shown = {_known(base[index]): index for index in left if not words[index]}
    for there in free:
        if (here_ := shown.get(_known(other[there]))) is not None and not words_in(other[there]):
            found.append((-1.0, abs(here_ - there), here_, there))
    return [(here, there) for _, _, here, there in sorted(found)]


def _known(node: Node) -> tuple[str, object]:
    """What a block without words is known by; of two empty paragraphs none is the other."""
    return (node.kind, node.attrs.get("item", id(node)))


def _in_place(base: Sequence[Node], other: Sequence[Node], pairs: dict[int, int], taken: set[int]) -> None:
    """Pair what is left, in order, between the same neighbours."""
    left: list[int] = []
    at = 0
    for index in range(len(base) + 1):
        if index < len(base) and index not in pairs:
            left.append(index)
            continue
        to = pairs.get(index, len(other))
        if left and to >= at:
            free = [place for place in range(at, to) if place not in taken]
            next_free = 0
            for here in left:
                for ahead, place in enumerate(free[next_free : next_free + COMMON], next_free):
                    if may_be_one(base[here], other[place]):
                        pairs[here] = place
                        taken.add(place)
                        next_free = ahead + 1
                        break
        left, at = [], max(at, to + 1)

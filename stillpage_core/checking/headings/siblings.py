"""Headings that stand side by side: of one level, under one heading."""

from __future__ import annotations

from collections.abc import Sequence

from ...document.outline import Entry


def siblings(headings: Sequence[Entry]) -> list[list[Entry]]:
    """The headings in groups, each of those that have the same heading above them and the same level."""
    groups: list[list[Entry]] = []
    open_groups: dict[int, list[Entry]] = {}
    for heading in headings:
        open_groups = {level: group for level, group in open_groups.items() if level <= heading.level}
        if heading.level not in open_groups:
            open_groups[heading.level] = []
            groups.append(open_groups[heading.level])
        open_groups[heading.level].append(heading)
    return groups

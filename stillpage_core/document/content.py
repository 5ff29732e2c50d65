"""Content expressions: which children a node may have.

The language is the one the editor's library uses: names of kinds or groups, ``|`` for a choice, parentheses, and
``*``, ``+`` and ``?``. It is compiled to a regular expression over the children's names.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass


@dataclass(frozen=True)
class Content:
    """A compiled expression. ``names`` are the kinds that may occur anywhere in it."""

    expression: str
    names: frozenset[str]
    pattern: re.Pattern[str]

    def allows(self, children: Iterable[str]) -> bool:
        """Whether a node may have children of these kinds, in this order."""
        return self.pattern.fullmatch("".join(f"{name}," for name in children)) is not None


def compile_content(expression: str, groups: Mapping[str, Iterable[str]], kinds: Iterable[str]) -> Content:
    """Compile ``expression``; raises ValueError when it uses a name that is neither a kind nor a group."""
    known = set(kinds)
    names: set[str] = set()

    def expand(match: re.Match[str]) -> str:
        name = match.group()
        members = list(groups.get(name, [name] if name in known else []))
        if not members:
            raise ValueError(f"“{name}” in the content expression “{expression}” is no kind and no group")
        names.update(members)
        return "(?:" + "|".join(f"{member}," for member in members) + ")"

    pattern = re.sub(r"\w+", expand, expression).replace(" ", "")
    return Content(expression, frozenset(names), re.compile(pattern))

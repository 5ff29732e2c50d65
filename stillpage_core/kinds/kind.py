"""What a kind of node, a kind of mark and an attribute are."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, Final, Literal


class _Required:
    def __repr__(self) -> str:
        return "REQUIRED"


REQUIRED: Final = _Required()
"""The default of an attribute that must be given."""


@dataclass(frozen=True)
class Attribute:
    """A typed attribute of a node or mark.

    ``minimum`` and ``maximum`` bound an integer, or the length in characters of a string.
    ``pattern`` is a regular expression in the dialect that Python, JSON Schema and JavaScript share; it must match
    the whole string.
    """

    type: Literal["integer", "string", "boolean"]
    default: Any = REQUIRED
    nullable: bool = False
    minimum: int | None = None
    maximum: int | None = None
    pattern: str | None = None

    @property
    def required(self) -> bool:
        return self.default is REQUIRED

    def problem(self, value: object) -> str | None:
        """Say what is wrong with ``value``, or return None when it may stand."""
        if value is None:
            return None if self.nullable else "may not be empty"
        if self.type == "boolean":
            return None if isinstance(value, bool) else "must be true or false"
        if self.type == "integer":
            if not isinstance(value, int) or isinstance(value, bool):
                return "must be a whole number"
            return self._out_of_bounds(value, "", "")
        if not isinstance(value, str):
            return "must be text"
        if control := forbidden_character(value):
            return f"holds a control character ({control})"
        if self.pattern is not None and not re.fullmatch(self.pattern, value):
            return f"is not of the form it must have: “{value[:80]}”"
        return self._out_of_bounds(len(value), " characters long", " characters")

    def _out_of_bounds(self, size: int, long: str, unit: str) -> str | None:
        if self.minimum is not None and size < self.minimum:
            return f"is {size}{long}, less than {self.minimum}{unit}"
        if self.maximum is not None and size > self.maximum:
            return f"is {size}{long}, more than {self.maximum}{unit}"
        return None


@dataclass(frozen=True)
class Element:
    """The HTML element that a node or mark becomes, said as data so that the page and the sheet cannot differ.

    ``tag`` may hold ``{attribute}``. ``attributes`` maps an HTML attribute to a document attribute, which is written
    unless it has its default value; one that is true is written without a value. ``also`` are tags that mean the same
    when they are read. ``css_class`` is a class that the element always has.
    """

    tag: str
    attributes: Mapping[str, str] = field(default_factory=dict)
    also: tuple[str, ...] = ()
    css_class: str = ""


@dataclass(frozen=True)
class NodeKind:
    """A kind of node.

    ``content`` and ``group`` are content expressions as in `content.py`. ``element`` is None where the writer and the
    editor each have a function for it. ``marks`` says whether the text inside may carry marks. ``table_role`` is the
    part that the kind plays in a table's grid ("table", "row", "cell", "header_cell").
    """

    name: str
    says: str
    content: str = ""
    group: str = ""
    attributes: Mapping[str, Attribute] = field(default_factory=dict)
    element: Element | None = None
    inline: bool = False
    marks: bool = False
    defining: bool = False
    table_role: str = ""

    @cached_property
    def defaults(self) -> Mapping[str, Any]:
        """Its attributes with their default values; None where one has to be given."""
        return {name: attribute.default for name, attribute in self.attributes.items()}

    @cached_property
    def is_textblock(self) -> bool:
        return self.content in ("inline*", "text*", "(text | line_break)*")


@dataclass(frozen=True)
class MarkKind:
    """A kind of mark: something said of a run of words. ``inclusive`` marks go on when words are typed at their end."""

    name: str
    says: str
    element: Element
    attributes: Mapping[str, Attribute] = field(default_factory=dict)
    inclusive: bool = True


FORBIDDEN = "[\x00-\x1f\x7f-\x9f\ud800-\udfff]"
"""The characters that no document may hold, as a regular expression: C0 and C1 controls, DEL, lone surrogates."""


def forbidden_character(text: str) -> str | None:
    """Name the first character that no document may hold, or None."""
    match = re.search(FORBIDDEN, text)
    return f"U+{ord(match.group()):04X}" if match else None

"""Documents of earlier versions of the format, made into ones of the present version: step by step, and for good.

Whatever was ever kept can be read: a row of the database, a file somebody took along, what waits in a browser. So no
step is ever taken out of `UPGRADES`; a fixture of each version stays in `tests/fixtures/formats`. What is newer than
this program is refused with a sentence, and left as it is.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from ..errors import DocumentError
from .schema import MAIN, VERSION

FIRST = 1
"""The version of a document that does not say which it is of."""


def _in_a_region(document: Mapping[str, Any]) -> dict[str, Any]:
    """Version 1 had no regions: what was written stands in main. `web/src/document/upgrades.ts` does the same for what
    waits in a browser, and a fixture holds the two together."""
    blocks = {"content": document["content"]} if "content" in document else {}
    return {**document, "content": [{"type": "region", "attrs": {"name": MAIN}, **blocks}]}


UPGRADES: dict[int, Callable[[Mapping[str, Any]], dict[str, Any]]] = {1: _in_a_region}
"""By version: what makes a document of it, as JSON, one of the next. Each leaves the version to `upgraded`."""


class NewerFormat(DocumentError):
    """A document was written by a newer program than this one."""

    name = "newer-format"
    title = "This was written by a newer Still Page"

    def __init__(self, version: int) -> None:
        super().__init__(
            (),
            f"This text is of version {version} of the format, and this Still Page reads it up to version {VERSION}. "
            "It is left as it is; a newer Still Page opens it.",
        )


def check_version(version: int) -> None:
    """Raise `NewerFormat` for a version that this program does not know."""
    if version > VERSION:
        raise NewerFormat(version)


def upgraded(value: Mapping[str, Any]) -> Mapping[str, Any]:
    """A document as JSON, of the present version; what is none is given back as it came, for whoever reads it next to
    say what is wrong with it.

    Raises:
        NewerFormat: when it is of a version that this program does not know.
    """
    attrs = value.get("attrs", {})
    version = attrs.get("version", FIRST) if isinstance(attrs, Mapping) else None
    if value.get("type") != "doc" or not isinstance(version, int) or isinstance(version, bool) or version < FIRST:
        return value
    check_version(version)
    for each in range(version, VERSION):
        value = UPGRADES[each](value)
        value = {**value, "attrs": {**value.get("attrs", {}), "version": each + 1}}
    return value

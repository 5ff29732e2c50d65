"""What a Markdown file says of itself before its text: lines of a name, a colon and a value between two rules.

Many programs write it so, in the simplest part of YAML 1.2: plain and quoted scalars, and lists of them. Anything else
is left as it is, and told.
"""

from __future__ import annotations

import re

from .reading import Told
from .text import clean

_RULES = re.compile(r"\A\ufeff?---[ \t]*\n(.{0,50000}?\n)?(?:---|\.\.\.)[ \t]*(?:\n|\Z)", re.DOTALL)
_LINE = re.compile(r"([A-Za-z_][\w .-]{0,60}?)[ \t]*:(?:[ \t]+(.*)|[ \t]*)")
_TITLE = frozenset({"title"})
_DESCRIPTION = frozenset({"description", "summary", "abstract", "excerpt"})


def split_front_matter(text: str) -> tuple[dict[str, str], str]:
    """The names and values that a text begins with, names in small letters, and the rest of the text. Without any,
    nothing, and the text."""
    text = text.replace("\r\n", "\n").replace("\r", "\n") if "\r" in text[:60_000] else text
    found = _RULES.match(text)
    lines = (found[1] or "").split("\n") if found else []
    said: dict[str, list[str]] = {}
    name = ""
    for line in lines:
        if not line.strip() or line.lstrip().startswith("#"):
            continue
        match = _LINE.fullmatch(line.rstrip())
        if match:
            name = match[1].lower()
            said.setdefault(name, []).extend(_values(match[2] or ""))
        elif name and (line[0] in " \t" or line.startswith("- ")):
            said[name].extend(_values(line.strip().removeprefix("- ")))
        else:
            return {}, text
    if found is None or not said:
        return {}, text
    return {name: ", ".join(values) for name, values in said.items()}, text[found.end() :]


def _values(written: str) -> list[str]:
    """A scalar, or the parts of a list in brackets."""
    written = written.strip()
    if written in ("|", ">", "|-", ">-", "[]", "~", "null"):
        return []
    if written.startswith("[") and written.endswith("]"):
        return [value for part in written[1:-1].split(",") for value in _values(part)]
    if len(written) > 1 and written[0] == written[-1] and written[0] in "\"'":
        written = written[1:-1].replace('\\"', '"') if written[0] == '"' else written[1:-1].replace("''", "'")
    return [" ".join(clean(written).split())] if written else []


def taken(said: dict[str, str], told: Told) -> tuple[str | None, str | None]:
    """The title and the description among what was said; the rest is told, as a page has no place for it."""
    title = next((value for name, value in said.items() if name in _TITLE and value), None)
    description = next((value for name, value in said.items() if name in _DESCRIPTION and value), None)
    left = [f"{name}: {value}"[:80] for name, value in said.items() if name not in _TITLE | _DESCRIPTION and value]
    if left:
        told.dropped(
            f"What the file says of itself was left out: {'; '.join(left[:8])}{'; …' if len(left) > 8 else ''}"
        )
    return title, description

"""Links with the same words that lead to different places.

WCAG 2.2, 2.4.9 Link Purpose (Link Only) (AAA); technique G91. Advised for everybody who lists the links of a page.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..document.node import Node
from ..document.references import parse_reference
from ..document.walking import Run, runs_with
from ..resolving import Resolver
from .finding import Finding
from .link_vague import is_vague, plain_words


def check(document: Node, resolver: Resolver) -> Iterator[Finding]:
    by_words: dict[str, list[Run]] = {}
    for run in runs_with(document, "link"):
        if (words := plain_words(run.text)) and not is_vague(run.text):
            by_words.setdefault(words, []).append(run)
    for runs in by_words.values():
        for run in runs[1:]:
            other = runs[0]
            if run.mark.attrs["href"] == other.mark.attrs["href"]:
                continue
            yield Finding(
                "link-same-words",
                f"“{run.text.strip()}” leads to {_place(run, resolver)} here, "
                f"and to {_place(other, resolver)} further up.",
                "Readers who go from link to link cannot tell the two apart.",
                "WCAG 2.2, 2.4.9; technique G91",
                "mend",
                run.path,
                (run.start, run.end),
            )


def _place(run: Run, resolver: Resolver) -> str:
    href = run.mark.attrs["href"]
    reference = parse_reference(href)
    if reference and reference.number:
        known = resolver.page(reference.number) if reference.kind == "page" else resolver.item(reference.number)
        if known:
            return f"“{known.title}”"
    return str(href)

"""Underlined words that look like a link. Common practice; failure F73 is its counterpart (links that do not)."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import MarkWords
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import runs_bearing, said

RULE = CheckRule(
    id="underlined",
    title="Underlined words that look like a link",
    whom="Everybody: they are taken for a link, and pressed.",
    source="Common practice; failure F73 is its counterpart",
    severity="look",
    means="On the web, underlined words are links. Other words that are underlined are pressed, and nothing happens.",
    right="Stress them with emphasis, or leave them plain.",
    together=True,
)


def check(subject: Subject) -> Iterator[Finding]:
    for words in subject.words:
        if words.kind == "preformatted":
            continue
        for start, end, _ in runs_bearing(words, "underline"):
            linked = any(first < end and start < last for first, last, _ in runs_bearing(words, "link"))
            if linked or not words.flat[start:end].strip():
                continue
            span = words.span(start, end)
            away = MarkWords(words.path, *span, "underline")
            stress = MarkWords(words.path, *span, "emphasis", {})
            yield RULE.finding(
                f"{said(words.flat[start:end], 40)} is underlined, and looks like a link.",
                words.path,
                span,
                Repair("Stress it with emphasis instead", (away, stress)),
                Repair("Leave it plain", (away,)),
            )

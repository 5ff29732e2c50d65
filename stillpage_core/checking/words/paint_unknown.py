"""A tone or a text style that the site's theme does not have. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import MarkWords, SetAttributes
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import runs_bearing, said

RULE = CheckRule(
    id="paint-unknown",
    title="A tone or style that the theme does not have",
    whom="Everybody: what was meant to stand out does not.",
    source="Common practice",
    severity="look",
    means="The words came from a site with another theme, or the theme was changed. They are shown as plain text.",
    right="Take a tone or style of this theme, or none.",
    together=True,
)


def check(subject: Subject) -> Iterator[Finding]:
    theme = subject.around.theme
    if theme is None:
        return
    for words in subject.words:
        style = words.node.attrs.get("style")
        if style and style not in theme.styles:
            yield RULE.finding(
                f"This site's theme has no text style “{style}”.",
                words.path,
                None,
                Repair("Make it plain text", (SetAttributes(words.path, {"style": None}),)),
            )
        for start, end, tone in runs_bearing(words, "tone"):
            if tone not in theme.tones:
                span = words.span(start, end)
                yield RULE.finding(
                    f"This site's theme has no tone “{tone}”, which {said(words.flat[start:end], 30)} asks for.",
                    words.path,
                    span,
                    Repair("Take the tone away", (MarkWords(words.path, *span, "tone"),)),
                )

"""Words whose colour does not stand out from what they stand on.

WCAG 2.2, 1.4.3 Contrast (Minimum) (AA): 4.5:1; its definitions of relative luminance and contrast ratio; technique
G18.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...colour import TEXT_RATIO, contrast
from ...document.changes import MarkWords, SetAttributes
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject, Theme
from ..wording import runs_bearing, said

RULE = CheckRule(
    id="contrast-too-low",
    title="Words that do not stand out from their ground",
    whom="Readers who see little, and everybody in the sun.",
    source="WCAG 2.2, 1.4.3; technique G18",
    severity="mend",
    means=f"The colour of words and that of their ground have to differ by {TEXT_RATIO}:1 at least. A tone that is "
    "right on the page may be too light on the ground of an aside or of a table's header.",
    right="Take another tone, or none.",
)


def check(subject: Subject) -> Iterator[Finding]:
    theme = subject.around.theme
    if theme is None:
        return
    for words in subject.words:
        ground = subject.ground_of(words)
        style = words.node.attrs.get("style") or ""
        if style in theme.styles and (ratio := _ratio(theme, theme.styles[style], ground)) < TEXT_RATIO:
            yield RULE.finding(
                f"The text style “{style}” reaches {ratio:.1f}:1 on the ground of {_NAMES[ground]}.",
                words.path,
                None,
                Repair("Take the style away", (SetAttributes(words.path, {"style": None}),)),
            )
        for start, end, tone in runs_bearing(words, "tone"):
            if tone is None or tone not in theme.tones or not words.flat[start:end].strip():
                continue
            ratio = _ratio(theme, theme.tones[tone], ground)
            if ratio < TEXT_RATIO:
                span = words.span(start, end)
                yield RULE.finding(
                    f"{said(words.flat[start:end], 40)}, in {tone}, reaches {ratio:.1f}:1 on the ground of "
                    f"{_NAMES[ground]}.",
                    words.path,
                    span,
                    Repair("Take the tone away", (MarkWords(words.path, *span, "tone"),)),
                )


_NAMES = {
    "page": "the page",
    "note": "a note",
    "tip": "a tip",
    "warning": "a warning",
    "header": "a table's header",
}


def _ratio(theme: Theme, colour: tuple[int, int, int], ground: str) -> float:
    return contrast(colour, theme.grounds[ground])

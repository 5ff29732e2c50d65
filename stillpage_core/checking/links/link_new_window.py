"""A link whose words and whose doing differ about a new window, or that opens one for a page of the site.

WCAG 2.2, 3.2.5 Change on Request (AAA); techniques G200, G201 and H83; failure F22. Readers are always told of a new
window by the page itself; that links within the site open none is common practice.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from ...document.changes import MarkWords, ReplaceText
from ...document.walking import units
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import said

_TYPED = re.compile(r"(?<!\s)\s*(?:[(\[]\s*)?\b(?:opens\s+)?in\s+a\s+new\s+(?:window|tab)\b\s*[)\]]?", re.IGNORECASE)

RULE = CheckRule(
    id="link-new-window",
    title="A new window that is not what readers expect",
    whom="Readers who go back by key find that they cannot; those who see only a part of the screen lose their way.",
    source="WCAG 2.2, 3.2.5; techniques G200 and G201",
    severity="look",
    means="A link that opens a new window says so by itself, to the eye and to the ear. Words typed for that are heard "
    "twice, or are wrong. And a page of the same site needs no new window: readers are still where they were.",
    right="Let links within the site open in the same window. Leave it to the page to tell of a new one.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for link in subject.links:
        if link.mark is None:
            continue
        about = f"{link.text} {link.href}"
        if match := _TYPED.search(link.text):
            start = link.start + units(link.text[: match.start()])
            away = ReplaceText(link.path, start, start + units(match[0]), "")
            does = "which the page tells by itself" if link.new_window else "but it does not"
            repairs = [Repair("Leave these words out", (away,))] if match[0].strip() != link.text.strip() else []
            sentence = f"The words of {said(link.text)} say that a new window opens, {does}."
            yield RULE.finding(sentence, link.path, link.span, *repairs, about=about)
        if link.new_window and link.reference and link.reference.kind in ("page", "heading"):
            same = {**link.mark.attrs, "new_window": False}
            yield RULE.finding(
                f"{said(link.text)} opens a new window for a page of the site.",
                link.path,
                link.span,
                Repair("Open it in the same window", (MarkWords(link.path, link.start, link.end, "link", same),)),
                about=about,
            )

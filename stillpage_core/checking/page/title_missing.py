"""A page without a title, or with one that says nothing.

WCAG 2.2, 2.4.2 Page Titled (A); techniques G88 and H25; failure F25. The titles that say nothing are common practice.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from ..wording import plain_words, said

_NOTHING = re.compile(
    r"(?:untitled|new|no title|title|draft|test|page|new page|untitled page|untitled document|document|copy|home page)"
    r"(?: \d+)?"
    r"|(?:copy of .*)|(?:.* copy(?: \d+)?)"
)

RULE = CheckRule(
    id="title-missing",
    title="A title that says nothing",
    whom="Everybody who finds the page in a search, in a list of open windows, or by ear: the title is what they get "
    "first.",
    source="WCAG 2.2, 2.4.2; techniques G88 and H25, failure F25",
    severity="mend",
    means="The title is the page's only heading of level 1, and its name everywhere else. “Untitled” and “New page” "
    "are the names of pages that nobody has named.",
    right="Say what the page is about, so that it is understood without its site.",
    wrong_example="New page",
    right_example="Boat licences",
)


def check(subject: Subject) -> Iterator[Finding]:
    title = subject.around.title
    if title is None:
        return
    if not title.strip():
        yield RULE.finding("The page has no title.", (), about="title")
    elif _NOTHING.fullmatch(plain_words(title)):
        yield RULE.finding(f"The title {said(title)} does not say what the page is about.", (), about=title)

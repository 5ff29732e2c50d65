"""A title that is cut off in a search result. Common practice; the width is measured as `sites.search_result` says."""

from __future__ import annotations

from collections.abc import Iterator

from ...sites.search_result import TITLE_WIDTH, shown_title, title_width
from ..finding import CheckRule, Finding
from ..subject import Subject

RULE = CheckRule(
    id="title-wide",
    title="A title too wide for a search result",
    whom="Readers who search: the end of the title is cut off.",
    source="Common practice",
    severity="look",
    means=f"Search results show about {TITLE_WIDTH} pixels of a title, the site's name behind it included.",
    right="Put what tells this page from others first, and leave out what the site's name says.",
)


def check(subject: Subject) -> Iterator[Finding]:
    around = subject.around
    if not around.title or not around.title.strip():
        return
    title = subject.document.attrs["search_title"] or around.title
    whole = shown_title(title, around.site, home=around.path == "/")
    width = title_width(title.strip())
    if width > TITLE_WIDTH:
        sentence = f"The title is {width:.0f} pixels wide in a search result; about {TITLE_WIDTH} are shown."
        yield RULE.finding(sentence, (), about=title)
    elif (width := title_width(whole)) > TITLE_WIDTH * 1.3:
        sentence = f"Title and site name are {width:.0f} pixels wide in a search result; about {TITLE_WIDTH} are shown."
        yield RULE.finding(sentence, (), about=title)

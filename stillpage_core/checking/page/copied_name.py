"""A copy of a page that still says the name of the page it was copied from. Common practice: pages are duplicated to
begin from, and the old name is found weeks later."""

from __future__ import annotations

import re
from collections.abc import Iterator

from ...document.changes import ReplaceText, SetAttributes, SetFact
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject

RULE = CheckRule(
    id="copied-name",
    title="A copy that says the name of its original",
    whom="All readers: they read of another thing than the page is about.",
    source="Common practice",
    severity="mend",
    means="The page was made as a copy of another one, and the other’s name still stands in it.",
    right="Put the page’s own name in its place, or say that it is right as it is.",
)
SHORTEST = 4
"""Names with fewer letters stand in other words too often."""


def check(subject: Subject) -> Iterator[Finding]:
    around = subject.around
    name, own = around.copied_title.strip(), (around.title or "").strip()
    if len(name) < SHORTEST or not own or own.casefold() == name.casefold():
        return
    # A title with a number behind it holds the name of the original: “Winter notice 2” after “Winter notice”.
    rest = r"(?!\s*\d)" if own.casefold().startswith(name.casefold()) else ""
    found = re.compile(rf"(?<!\w){re.escape(name)}(?!\w){rest}", re.IGNORECASE)
    said = f"It still says “{name}”, the name of the page that it was copied from"
    instead = f"Write “{own}” in its place"
    for fact, value in (("title", around.title), ("description", around.description)):
        if value and fact != "title" and found.search(value):
            put = SetFact(fact, found.sub(lambda _: own, value))
            yield RULE.finding(f"{said}, in the {fact}.", (), None, Repair(instead, (put,)), about=fact)
    for fact, where in (("label", "the name in the navigation"), ("search_title", "the title in search results")):
        value = subject.document.attrs[fact]
        if value and found.search(value):
            own_way = SetAttributes((), {fact: None})
            repair = Repair("Let it follow the title", (own_way,))
            yield RULE.finding(f"{said}, in {where}.", (), None, repair, about=fact)
    for words in subject.words:
        for match in found.finditer(words.flat):
            start, end = words.span(*match.span())
            repair = Repair(instead, (ReplaceText(words.path, start, end, own),))
            yield RULE.finding(f"{said}.", words.path, (start, end), repair)

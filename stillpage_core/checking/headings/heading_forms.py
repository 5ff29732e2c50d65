"""Headings side by side of which one has another form than the rest.

Common practice: items of the same sort on one page have headings of the same form. WCAG 2.2, 2.4.6, asks that
headings describe; technique G130.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable, Iterator

from ...document.outline import Entry
from ...errors import Path
from ...reading.mending import is_all
from ..finding import CheckRule, Finding
from ..subject import Subject
from ..wording import plain_words, said
from .siblings import siblings

RULE = CheckRule(
    id="heading-forms",
    title="Headings side by side of differing forms",
    whom="Readers who look the headings over: what is written otherwise seems to be something else.",
    source="Common practice; WCAG 2.2, 2.4.6",
    severity="look",
    means="Headings side by side are read as a list. Where all but one are a name with a number, or all but one are "
    "questions, or one alone ends with a stop or is set otherwise, the odd one is taken for something of another sort.",
    right="Give things of the same sort headings of the same form.",
    wrong_example="Lock 4, Lock 5, The sixth lock",
    right_example="Lock 4, Lock 5, Lock 6",
)

_COUNTED = re.compile(r"(.*?\w)\W+(\d+|[ivxlc]+)\b.*", re.IGNORECASE)
_ORDINALS = frozenset(
    """first second third fourth fifth sixth seventh eighth ninth tenth eleventh twelfth one two three four five six
    seven eight nine ten eleven twelve last next""".split()
)
_FORMS: tuple[tuple[str, str, Callable[[str], bool]], ...] = (
    ("is a question", "is no question", lambda text: text.endswith("?")),
    ("begins with a number", "does not begin with a number", lambda text: bool(re.match(r"\d+[.)]?\s", text))),
    ("ends with a full stop", "does not end with a full stop", lambda text: bool(re.search(r"[^.]\.$", text))),
)
"""What a heading is, what it is not, and how that is told."""
_ODD_ALONE = frozenset(("ends with a full stop",))
LONGEST = 200
"""Longer headings are told as such, and not compared."""


def check(subject: Subject) -> Iterator[Finding]:
    for group in siblings(subject.headings):
        named = [heading for heading in group if 0 < len(heading.text) <= LONGEST]
        if len(named) < 3:
            continue
        told: set[Path] = set()
        for finding in (*_counted(named), *_formed(named), *_painted(named, subject)):
            if finding.path not in told:
                told.add(finding.path)
                yield finding


def _counted(group: list[Entry]) -> Iterator[Finding]:
    """Where two or more are a name with a number, one that names the same thing otherwise."""
    by_name: dict[str, list[Entry]] = {}
    for heading in group:
        if match := _COUNTED.fullmatch(heading.text):
            by_name.setdefault(plain_words(match[1]), []).append(heading)
    others = [heading for heading in group if _ORDINALS.intersection(plain_words(heading.text).split())]
    for name, counted in by_name.items():
        if len(counted) < 2 or not name:
            continue
        places = {heading.path for heading in counted}
        for heading in others:
            words = plain_words(heading.text).split()
            if heading.path not in places and name.split()[-1] in words and _ORDINALS.intersection(words):
                yield RULE.finding(
                    f"{said(heading.text)} has another form than its neighbours, such as {said(counted[0].text)}.",
                    heading.path,
                )


def _formed(group: list[Entry]) -> Iterator[Finding]:
    """Of three or more, the only one that has not the form of all others; and the only one with a full stop. A single
    question, or a name that begins with a figure, is not odd among names."""
    for is_so, is_not, has in _FORMS:
        with_form = [heading for heading in group if has(heading.text)]
        without = [heading for heading in group if not has(heading.text)]
        if len(with_form) == 1 and is_so in _ODD_ALONE:
            yield RULE.finding(f"Only {said(with_form[0].text)} {is_so} among its neighbours.", with_form[0].path)
        elif len(without) == 1:
            yield RULE.finding(f"{said(without[0].text)} {is_not}, unlike its neighbours.", without[0].path)


def _painted(group: list[Entry], subject: Subject) -> Iterator[Finding]:
    """Of three or more, the only one that is strong or emphasised throughout, or is not; and the only one that stands
    elsewhere in its line."""
    nodes = [subject.at(heading.path) for heading in group]
    looks = [(is_all(node, "strong"), is_all(node, "emphasis"), node.attrs["align"]) for node in nodes]
    for look, how in enumerate(("bold", "emphasised", "set in the line")):
        values = Counter(each[look] for each in looks)
        if len(values) != 2 or min(values.values()) > 1:
            continue
        odd = next(index for index, each in enumerate(looks) if values[each[look]] == 1)
        said_so = "set otherwise in its line" if look == 2 else how if looks[odd][look] else f"not {how}"
        yield RULE.finding(f"{said(group[odd].text)} is {said_so}, unlike its neighbours.", group[odd].path)

"""The page check: one check a file, all of one signature, in folders by what they look at.

Files in reading order:

- ``subject.py``: what is checked, walked once
- ``finding.py``: what a rule, a finding and a repair are
- ``wording.py``, ``space.py``: words and white space, as several checks look at them
- ``headings/`` … ``page/``: the checks, listed in the ``__init__`` of each folder
- ``showing.py``: what a repair makes of the words, in words

To add a check, write a file with a ``RULE`` and a function ``check(subject)`` that yields findings, and add it to the
list of its folder.
"""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import replace

from ..document.walking import node_at, text_of
from . import headings, links, lists, media, page, pictures, tables, words
from .finding import SEVERITIES, Check, CheckRule, Finding, Repair, Severity, finding_json, in_reading_order
from .subject import Around, Subject, Theme

GROUPS = {
    "Headings": headings,
    "Lists": lists,
    "Links": links,
    "Pictures": pictures,
    "Tables": tables,
    "Media": media,
    "Words": words,
    "Page": page,
}
"""The folders of checks, by the names that people are shown."""

CHECKS: tuple[Check, ...] = tuple(
    Check(name, module.RULE, module.check) for name, group in GROUPS.items() for module in group.CHECKS
)

RULES: Mapping[str, CheckRule] = {check.rule.id: check.rule for check in CHECKS}
"""Every rule by its id."""

Chosen = Mapping[str, Severity | None]
"""What a site has chosen in place of a rule's own severity, by the rule's id; None switches the check off."""


def check_page(subject: Subject, chosen: Chosen | None = None) -> list[Finding]:
    """Run every check; the findings stand in reading order, the page as a whole first."""
    chosen = chosen or {}
    found: list[Finding] = []
    for check in CHECKS:
        severity = chosen.get(check.rule.id, check.rule.severity)
        if severity is not None:
            found += [replace(each, severity=severity, key=_key(each, subject)) for each in check.run(subject)]
    return in_reading_order(found)


def _key(finding: Finding, subject: Subject) -> str:
    """What a finding is known by while the page is changed elsewhere: its check, and what it is about."""
    about = finding.about
    if about is None:
        node = node_at(subject.document, finding.path)
        about = f"{text_of(node)[:80]} {node.attrs.get('item', '')}"
        if finding.span:
            about += f" {finding.sentence}"
    return hashlib.sha256(f"{finding.rule.id}\n{about}".encode("utf-8", "replace")).hexdigest()[:20]


__all__ = [
    "CHECKS",
    "GROUPS",
    "RULES",
    "SEVERITIES",
    "Around",
    "Check",
    "CheckRule",
    "Chosen",
    "Finding",
    "Repair",
    "Severity",
    "Subject",
    "Theme",
    "check_page",
    "finding_json",
]

"""A link to a document whose words do not say its kind and size.

WCAG 2.2, 2.4.4 Link Purpose (A) and 3.2.5; techniques G91 and G197 (labels). That kind and size are told is common
practice.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from ...media.labels import in_words, labelled
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import said

RULE = CheckRule(
    id="link-document-untold",
    title="A document without its kind and size",
    whom="Readers on a phone or a slow line, who do not know that a document is to come, nor how large it is.",
    source="Common practice; WCAG 2.2, 2.4.4, technique G91",
    severity="look",
    means="A document opens in another program, may have to be loaded for minutes, and cannot be read everywhere. "
    "Readers who know beforehand can choose.",
    right="Put kind and size behind the name of the document.",
    wrong_example="Boat licence form",
    right_example="Boat licence form (PDF, 212 kB)",
    together=True,
)


def check(subject: Subject) -> Iterator[Finding]:
    for link in subject.links:
        reference = link.reference
        if reference is None or reference.kind != "item" or reference.number is None or not link.text.strip():
            continue
        item = subject.resolver.item(reference.number)
        if item is None or not item.kind or subject.resolver.picture(reference.number):
            continue
        told = re.search(rf"\b{re.escape(item.kind)}\b", link.text, re.IGNORECASE)
        sized = re.search(r"\d\s?(?:[kKMG]i?B|bytes)\b", link.text)
        text = link.text.strip()
        size = in_words(item.size)
        if told and sized:
            if (right := labelled(text, item.kind, item.size)) != text:
                yield RULE.finding(
                    f"The link {said(link.text)} tells of a file that was replaced. Readers are told {size}.",
                    link.path,
                    link.span,
                    Repair(f"Say “({item.kind}, {size})”", (link.saying(right),)),
                    about=f"{link.text} {link.href}",
                )
            continue
        missing = " and ".join(
            part for part, there in ((f"its kind ({item.kind})", told), (f"its size ({size})", sized)) if not there
        )
        bare = re.sub(rf"\s*\(?{re.escape(item.kind)}\)?$", "", link.text.strip(), flags=re.IGNORECASE) or link.text
        yield RULE.finding(
            f"The link {said(link.text)} leads to a document, and does not say {missing}.",
            link.path,
            link.span,
            Repair(f"Add “({item.kind}, {size})”", (link.saying(f"{bare} ({item.kind}, {size})"),)),
            about=f"{link.text} {link.href}",
        )

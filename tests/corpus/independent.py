"""The words of documents as other libraries find them: markdown-it-py and lxml."""

from __future__ import annotations

import re
from collections import Counter

from lxml import etree, html
from markdown_it import MarkdownIt

WORD = re.compile(r"[^\W\d_]+|\d+")
"""Letters or figures; the sign of a note stands right behind a word."""
_NOTE = re.compile(r"^ {0,3}\[\^[^\]\s]+\]:", re.MULTILINE)
"""Notes are numbered by their order."""
_TASK = re.compile(r"^(\s*(?:[-*+]|\d+[.)]) )\[[xX ]\] ", re.MULTILINE)
_UNSEEN = ("script", "style", "template", "noscript", "head", "svg", "select", "iframe", "object", "video", "audio")
_INLINE = frozenset(
    """a abbr b bdi bdo cite code data del dfn em font i ins kbd label mark q s samp small span strong sub sup time tt u
    var wbr""".split()
)


def words_of_html(text: str) -> Counter[str]:
    """The words that a page shows: elements within a line part none, all others do."""
    root = html.fromstring(f"<div>{text}</div>" if "<html" not in text.lower() else text)
    for element in list(root.iter(*_UNSEEN)):
        if element.getparent() is not None:
            element.drop_tree()
    found: list[str] = []
    _gather(root, found)
    return Counter(WORD.findall("".join(found)))


def _gather(element: etree._Element, found: list[str]) -> None:
    waiting: list[etree._Element | str] = [element]
    while waiting:
        each = waiting.pop()
        if isinstance(each, str):
            found.append(each)
            continue
        between = "" if each.tag in _INLINE else "\n"
        found.append(between + (each.text or "" if isinstance(each.tag, str) else ""))
        waiting.append(between)
        for child in reversed(each):
            waiting += [child.tail or "", child]


def words_of_markdown(text: str) -> Counter[str]:
    """The words of a Markdown text, by way of the HTML that markdown-it-py makes of it."""
    without_signs = _NOTE.sub("", _TASK.sub(r"\1", text))
    rendered = MarkdownIt("commonmark").enable(["table", "strikethrough"]).render(without_signs)
    return words_of_html(rendered)

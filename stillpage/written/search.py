"""By which words texts are found (`searching`): title, description, what a page is called elsewhere, and the text."""

from __future__ import annotations

from stillpage.searching import Index, each_once
from stillpage_core.document import Node
from stillpage_core.writing.text import plain_text

from .models import Said, Written

MOST = 400_000
"""The most characters of a text that are looked through."""
WORKING = Index("written_said", "written_id", ("working",))
LIVE = Index("written_said", "written_id", ("live",))


def words_of(title: str, description: str, document: Node) -> str:
    """The words of a text as they are kept."""
    called = (document.attrs[name] or "" for name in ("label", "search_title"))
    return each_once("\n".join((title, description, *called, plain_text(document)[:MOST])))


def note_said(written: Written, title: str, description: str, document: Node, *, live: bool) -> None:
    """Keep the words of the working copy, or of the live copy."""
    said = {"live" if live else "working": words_of(title, description, document)}
    Said.objects.update_or_create(written=written, defaults=said)


def forget_said(written: Written) -> None:
    """There is no live copy any more."""
    Said.objects.filter(written=written).update(live=None)

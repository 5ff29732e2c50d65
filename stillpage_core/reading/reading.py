"""What a reader gives back: a document, and what was done on the way."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..document.node import Node, make
from ..document.normal import normal_form


@dataclass(frozen=True)
class Reading:
    """A valid document in normal form, and a sentence for each thing that was mended or left out."""

    document: Node
    messages: tuple[str, ...] = ()


def finished(blocks: Sequence[Node], messages: Sequence[str]) -> Reading:
    """A reading of these blocks; a document without any gets one empty paragraph. Equal messages are counted."""
    counted = {message: messages.count(message) for message in messages}
    told = tuple(f"{message} ({count} times)" if count > 1 else message for message, count in counted.items())
    return Reading(normal_form(make("doc", blocks or [make("paragraph")])), told)

"""The page check: one check a file, all of one signature, listed here.

To add a check, write a file with a function ``check(document, resolver)`` that yields findings, and add a line below.
"""

from __future__ import annotations

from ..document.node import Node
from ..resolving import Resolver
from . import (
    equation_unreadable,
    heading_skipped,
    item_out_of_reach,
    link_bare_address,
    link_dead,
    link_same_words,
    link_vague,
    picture_without_alt,
)
from .finding import Check, Finding, Repair, in_reading_order

CHECKS: tuple[Check, ...] = (
    heading_skipped.check,
    picture_without_alt.check,
    link_vague.check,
    link_bare_address.check,
    link_same_words.check,
    link_dead.check,
    item_out_of_reach.check,
    equation_unreadable.check,
)


def check_document(document: Node, resolver: Resolver) -> list[Finding]:
    """Run every check; the findings stand in reading order."""
    return in_reading_order([finding for check in CHECKS for finding in check(document, resolver)])


__all__ = ["CHECKS", "Finding", "Repair", "check_document"]

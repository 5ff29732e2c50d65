"""Checks of headings."""

from . import (
    heading_capitals,
    heading_empty,
    heading_forms,
    heading_long,
    heading_missing,
    heading_painted,
    heading_same_words,
    heading_skipped,
)

CHECKS = (
    heading_missing,
    heading_skipped,
    heading_empty,
    heading_long,
    heading_painted,
    heading_capitals,
    heading_same_words,
    heading_forms,
)

"""What two documents have in common, where they differ, and how two that began as one become one again."""

from .changing import changes_between
from .merging import Clash, Merged, merge
from .places import places_that_differ
from .standing import where_they_stand

__all__ = ["Clash", "Merged", "changes_between", "merge", "places_that_differ", "where_they_stand"]

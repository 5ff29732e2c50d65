"""What two documents have in common and where they differ."""

from .places import places_that_differ

__all__ = ["places_that_differ"]

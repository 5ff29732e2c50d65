"""What two documents have in common and where they differ."""

from .parts import Part, parts_of
from .places import places_that_differ

__all__ = ["Part", "parts_of", "places_that_differ"]

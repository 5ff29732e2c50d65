"""The errors of the core. Each carries a sentence that an author can act on."""

from __future__ import annotations

from collections.abc import Sequence

Path = tuple[int, ...]
"""Where a node stands: the index of each ancestor among its siblings, from the top. ``()`` is the document itself."""


class CoreError(ValueError):
    """Something given to the core cannot be used; ``str(error)`` is a sentence that says why."""


class DocumentError(CoreError):
    """A document breaks a rule of the schema.

    ``path`` is where, as in `Path`; ``sentence`` is what, without the place.
    """

    def __init__(self, path: Sequence[int | str], sentence: str) -> None:
        self.path = tuple(path)
        self.sentence = sentence
        super().__init__(f"{sentence} (at {self.pointer or 'the document itself'})")

    @property
    def pointer(self) -> str:
        """The place as a JSON Pointer into the document (RFC 6901)."""
        parts = [f"/content/{part}" if isinstance(part, int) else f"/{part}" for part in self.path]
        return "".join(parts)


class ReadingError(CoreError):
    """A file cannot be read as what its name says it is."""

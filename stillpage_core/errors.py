"""The errors of the core. Each carries a sentence that an author can act on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, ClassVar

Path = tuple[int, ...]
"""Where a node stands: the index of each ancestor among its siblings, from the top. ``()`` is the document itself."""


class CoreError(ValueError):
    """Something given to the core cannot be used; ``str(error)`` is a sentence that says why.

    ``status``, ``name`` and ``title`` are those of its problem document (RFC 9457); each class may have its own, and
    `particulars` that go along.
    """

    status: ClassVar[int] = 422
    name: ClassVar[str] = "unusable"
    title: ClassVar[str] = "This cannot be used"

    def particulars(self) -> Mapping[str, Any]:
        """What a problem document says besides."""
        return {}


class DocumentError(CoreError):
    """A document breaks a rule of the schema.

    ``path`` is where, as in `Path`; ``sentence`` is what, without the place.
    """

    name = "invalid-document"
    title = "The document is not valid"

    def __init__(self, path: Sequence[int | str], sentence: str) -> None:
        self.path = tuple(path)
        self.sentence = sentence
        super().__init__(f"{sentence} (at {self.pointer or 'the document itself'})")

    @property
    def pointer(self) -> str:
        """The place as a JSON Pointer into the document (RFC 6901)."""
        parts = [f"/content/{part}" if isinstance(part, int) else f"/{part}" for part in self.path]
        return "".join(parts)

    def particulars(self) -> Mapping[str, Any]:
        return {"pointer": self.pointer}


class ReadingError(CoreError):
    """A file cannot be read as what its name says it is."""

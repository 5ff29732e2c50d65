"""A document in memory, and the way in from JSON with every rule of the schema checked."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any, TypeVar, dataclass_transform

from ..budget import spend
from ..errors import DocumentError, Path
from ..kinds.kind import Attribute, forbidden_character
from .schema import MAIN, SCHEMA
from .upgrades import upgraded

DEEPEST = 41
"""How deep nodes may be nested. No page needs more, and recursion stays safe."""


_Class = TypeVar("_Class", bound=type)


@dataclass_transform(frozen_default=True)
def _record(made: _Class) -> _Class:
    """A dataclass that the type checker holds to be frozen. At run time it is not, since refusing changes makes a
    document of some thousand nodes four times as slow to build."""
    return dataclass(slots=True)(made)  # type: ignore[return-value]


def _hash_of(attrs: Mapping[str, Any]) -> int:
    """The attributes' share of a hash: many pictures in a row differ in nothing else."""
    if not attrs:
        return 0
    try:
        return hash(frozenset(attrs.items()))
    except TypeError:  # Lists and objects have no hash; their names must do.
        return hash(frozenset(attrs))


@_record
class Mark:
    """Something said of a run of words. Never changed in place."""

    kind: str
    attrs: Mapping[str, Any] = field(default_factory=dict)

    def __hash__(self) -> int:
        return hash((self.kind, _hash_of(self.attrs)))

    def to_json(self) -> dict[str, Any]:
        return {"type": self.kind, "attrs": dict(self.attrs)} if self.attrs else {"type": self.kind}


@_record
class Node:
    """A node of a document. Never changed in place: use `with_content` and `with_attrs`.

    ``attrs`` holds every attribute of the kind, defaults filled in. ``text`` is set for text nodes only.
    """

    kind: str
    attrs: Mapping[str, Any] = field(default_factory=dict)
    content: tuple[Node, ...] = ()
    marks: tuple[Mark, ...] = ()
    text: str = ""

    def __hash__(self) -> int:
        return hash((self.kind, _hash_of(self.attrs), self.content, self.marks, self.text))

    def with_content(self, content: Iterable[Node]) -> Node:
        return Node(self.kind, self.attrs, tuple(content), self.marks, self.text)

    def with_attrs(self, **attrs: object) -> Node:
        return Node(self.kind, {**self.attrs, **attrs}, self.content, self.marks, self.text)

    def to_json(self) -> dict[str, Any]:
        """The node as the editor loads it and the database keeps it."""
        result: dict[str, Any] = {"type": self.kind}
        if self.attrs:
            result["attrs"] = dict(self.attrs)
        if self.content:
            result["content"] = [child.to_json() for child in self.content]
        if self.marks:
            result["marks"] = [mark.to_json() for mark in self.marks]
        if self.kind == "text":
            result["text"] = self.text
        return result


def text_node(text: str, marks: Iterable[Mark] = ()) -> Node:
    """A run of words with marks, put in the schema's order."""
    return Node("text", {}, (), in_order(marks), text)


def in_order(marks: Iterable[Mark]) -> tuple[Mark, ...]:
    """Marks in the schema's order."""
    given = tuple(marks)
    return given if len(given) < 2 else tuple(sorted(given, key=lambda mark: SCHEMA.mark_rank(mark.kind)))


def make(kind: str, content: Iterable[Node] = (), **attrs: object) -> Node:
    """A node with the kind's default attributes filled in. Not checked: the way in is `document_from_json`."""
    spend()
    defaults = SCHEMA.nodes[kind].defaults
    return Node(kind, {**defaults, **attrs} if attrs else defaults, tuple(content))


def document_from_json(value: object) -> Node:
    """Read and check a whole document, of the present version of the format or an earlier one (`upgrades`).

    Raises:
        NewerFormat: when it is of a newer version.
        DocumentError: with the path of the first node that breaks a rule. Nothing is dropped or mended.
    """
    node = _node(upgraded(value) if isinstance(value, Mapping) else value, ())
    if node.kind != "doc":
        raise DocumentError((), f"A document must be of the type “doc”, not “{node.kind}”.")
    return node


def node_from_json(value: object) -> Node:
    """Read and check a node of any kind that was kept by itself. Raises `DocumentError`."""
    return _node(value, ())


def _node(value: object, path: Path) -> Node:
    spend()
    if len(path) > DEEPEST:
        raise DocumentError(path, f"The document is nested more than {DEEPEST} levels deep.")
    if not isinstance(value, Mapping):
        raise DocumentError(path, "A node must be an object.")
    name = value.get("type")
    kind = SCHEMA.nodes.get(name) if isinstance(name, str) else None
    if kind is None:
        raise DocumentError(path, f"There is no kind of node called “{str(name)[:80]}”.")
    if extra := set(value) - {"type", "attrs", "content", "marks", "text"}:
        raise DocumentError(path, f"A node has no field “{sorted(map(str, extra))[0][:80]}”.")
    marks = _marks(value.get("marks"), path)
    if kind.name == "text":
        return _text(value, marks, path)
    if "text" in value:
        raise DocumentError(path, f"A node of the type “{kind.name}” has no text of its own.")
    if marks and not (kind.inline and kind.marks):
        raise DocumentError(path, f"A node of the type “{kind.name}” bears no marks.")
    attrs = _attributes(value.get("attrs"), kind.attributes, f"“{kind.name}”", path)
    children = value.get("content", [])
    if not isinstance(children, list):
        raise DocumentError(path, "The content of a node must be a list.")
    content = tuple(_node(child, (*path, index)) for index, child in enumerate(children))
    expected = SCHEMA.contents[kind.name]
    for index, child in enumerate(content):
        if child.kind not in expected.names:
            raise DocumentError((*path, index), f"“{child.kind}” may not stand inside “{kind.name}”.")
    if not expected.allows(child.kind for child in content):
        raise DocumentError(path, f"“{kind.name}” must hold {expected.expression or 'nothing'}.")
    if kind.name == "doc" and (problem := _regions_problem([child.attrs["name"] for child in content])):
        raise DocumentError(path, problem)
    if kind.table_role == "table" and (problem := _grid_problem(content)):
        raise DocumentError(path, f"The cells of the table do not fit together: {problem}.")
    if kind.is_textblock and not kind.marks and any(child.marks for child in content):
        raise DocumentError(path, f"The words in “{kind.name}” bear no marks.")
    return Node(kind.name, attrs, content, marks)


def _regions_problem(names: list[str]) -> str | None:
    if names[0] != MAIN:
        return f"The first region of a document is “{MAIN}”, not “{names[0]}”."
    met: set[str] = set()
    for name in names:
        if name in met:
            return f"The region “{name}” stands twice in the document."
        met.add(name)
    return None


def _grid_problem(rows: tuple[Node, ...]) -> str | None:
    from .tables import grid_of  # noqa: PLC0415 - tables are made of nodes, and nodes are checked by tables

    return grid_of(rows).problem


def _text(value: Mapping[str, Any], marks: tuple[Mark, ...], path: Path) -> Node:
    text = value.get("text")
    if not isinstance(text, str) or not text:
        raise DocumentError(path, "A text node must hold at least one character.")
    if "content" in value or value.get("attrs"):
        raise DocumentError(path, "A text node has neither content nor attributes.")
    if control := forbidden_character(text):
        raise DocumentError(path, f"The text holds a control character ({control}).")
    return Node("text", text=text, marks=marks)


def _marks(value: object, path: Path) -> tuple[Mark, ...]:
    if value is None:
        return ()
    if not isinstance(value, list):
        raise DocumentError(path, "The marks of a node must be a list.")
    marks: dict[str, Mark] = {}
    for entry in value:
        name = entry.get("type") if isinstance(entry, Mapping) else None
        kind = SCHEMA.marks.get(name) if isinstance(name, str) else None
        if kind is None:
            raise DocumentError(path, f"There is no kind of mark called “{str(name)[:80]}”.")
        if kind.name in marks:
            raise DocumentError(path, f"The mark “{kind.name}” stands twice on the same words.")
        if extra := set(entry) - {"type", "attrs"}:
            raise DocumentError(path, f"A mark has no field “{sorted(map(str, extra))[0][:80]}”.")
        marks[kind.name] = Mark(
            kind.name, _attributes(entry.get("attrs"), kind.attributes, f"the mark “{kind.name}”", path)
        )
    return tuple(marks[name] for name in SCHEMA.marks if name in marks)


def _attributes(value: object, attributes: Mapping[str, Attribute], owner: str, path: Path) -> Mapping[str, Any]:
    if value is None:
        value = {}
    if not isinstance(value, Mapping):
        raise DocumentError(path, f"The attributes of {owner} must be an object.")
    if unknown := set(value) - set(attributes):
        raise DocumentError(path, f"{owner} has no attribute “{sorted(map(str, unknown))[0][:80]}”.")
    result: dict[str, Any] = {}
    for name, attribute in attributes.items():
        if name not in value:
            if attribute.required:
                raise DocumentError(path, f"{owner} needs the attribute “{name}”.")
            result[name] = attribute.default
            continue
        if problem := attribute.problem(value[name]):
            raise DocumentError(path, f"The attribute “{name}” of {owner} {problem}.")
        result[name] = value[name]
    return result


def document_of(blocks: Iterable[Node], others: Iterable[tuple[str, Iterable[Node]]] = ()) -> Node:
    """A document whose main region holds these blocks, and others, by their names, the rest. A region without any gets
    an empty paragraph."""
    regions = [(MAIN, blocks), *others]
    return make("doc", [make("region", tuple(held) or (make("paragraph"),), name=name) for name, held in regions])


def empty_document() -> Node:
    """A document with one empty paragraph, as a new page has it."""
    return document_of(())

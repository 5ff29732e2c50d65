"""What tells two texts apart without reading both: a number made of everything that a text says."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping
from typing import Any

from .schema import SCHEMA
from .upgrades import upgraded


def digest_of(title: str, description: str, document: Mapping[str, Any]) -> str:
    """40 hexadecimal digits (of SHA-256) for a title, a description and a document as it is kept (JSON).

    Attributes that have their default are left out, and so is the region where there is no other than main: a text
    that was kept before the format knew either has the number that it would have today. The document is not checked.
    """
    regions = upgraded(document)["content"]
    body = regions if len(regions) > 1 else regions[0].get("content", ())
    facts = _own(upgraded(document).get("attrs"), SCHEMA.nodes["doc"].attributes)
    parts = [title, description, ["doc", facts, "", [], [_said(each) for each in body]]]
    said = json.dumps(parts, ensure_ascii=False, separators=(",", ":"), sort_keys=True)
    return hashlib.sha256(said.encode("utf-8", "surrogatepass")).hexdigest()[:40]


def _said(node: Mapping[str, Any]) -> list[Any]:
    kind = SCHEMA.nodes.get(node["type"])
    marks = [
        [mark["type"], _own(mark.get("attrs"), SCHEMA.marks[mark["type"]].attributes)] for mark in node.get("marks", ())
    ]
    children = [_said(child) for child in node.get("content", ())]
    attrs = _own(node.get("attrs"), kind.attributes if kind else {})
    return [node["type"], attrs, node.get("text", ""), marks, children]


def _own(attrs: Mapping[str, Any] | None, known: Mapping[str, Any]) -> dict[str, Any]:
    """The attributes that are not what they would be if nothing were said."""
    return {
        name: value
        for name, value in (attrs or {}).items()
        if name not in known or known[name].required or value != known[name].default
    }

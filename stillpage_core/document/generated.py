"""What is generated from the schema: the JSON Schema, the editor's schema and the TypeScript types.

`python -m stillpage_core schema KIND` prints each; a test fails when a committed copy differs.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..kinds.kind import Attribute, Element, MarkKind, NodeKind
from .schema import MARKS, NODES, SCHEMA, VERSION

Json = dict[str, Any]


def json_schema() -> Json:
    """The format as a JSON Schema (2020-12). The order of children, which it cannot say, stands in ``description``."""
    definitions = {_title(kind.name): _node_schema(kind) for kind in NODES}
    definitions |= {_title(kind.name) + "Mark": _mark_schema(kind) for kind in MARKS}
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": f"Document, version {VERSION}",
        "$ref": "#/$defs/Doc",
        "$defs": definitions,
    }


def editor_schema() -> Json:
    """The schema as the editor builds its own from it."""
    return {
        "version": VERSION,
        "nodes": [
            {
                "name": kind.name,
                "content": kind.content,
                "group": kind.group,
                "inline": kind.inline,
                "marks": kind.marks,
                "defining": kind.defining,
                "tableRole": kind.table_role,
                "attrs": _editor_attributes(kind.attributes),
                "element": _editor_element(kind.element) if kind.element else None,
            }
            for kind in NODES
        ],
        "marks": [
            {
                "name": kind.name,
                "inclusive": kind.inclusive,
                "attrs": _editor_attributes(kind.attributes),
                "element": _editor_element(kind.element),
            }
            for kind in MARKS
        ],
    }


def typescript() -> str:
    """Types for TypeScript, one interface a kind."""
    parts = ["// Generated from the document schema by `npm run generate`. Do not edit.", ""]
    for kind in NODES:
        fields = [f'  type: "{kind.name}"']
        if kind.name == "text":
            fields += ["  text: string", "  marks?: AnyMark[]"]
        if kind.attributes:
            fields.append(f"  attrs: {_ts_attributes(kind.attributes)}")
        names = [name for name in SCHEMA.nodes if name in SCHEMA.contents[kind.name].names]
        if names:
            union = " | ".join(f"{_title(name)}Node" for name in names)
            optional = "?" if SCHEMA.contents[kind.name].allows([]) else ""
            fields.append(f"  content{optional}: ({union})[]" if len(names) > 1 else f"  content{optional}: {union}[]")
        if kind.inline and kind.marks:
            fields.append("  marks?: AnyMark[]")
        parts += [f"/** {kind.says} */", f"export interface {_title(kind.name)}Node {{", *fields, "}", ""]
    for mark in MARKS:
        fields = [f'  type: "{mark.name}"']
        if mark.attributes:
            fields.append(f"  attrs: {_ts_attributes(mark.attributes)}")
        parts += [f"/** {mark.says} */", f"export interface {_title(mark.name)}Mark {{", *fields, "}", ""]
    parts.append("export type AnyNode = " + " | ".join(f"{_title(kind.name)}Node" for kind in NODES))
    parts.append("export type AnyMark = " + " | ".join(f"{_title(mark.name)}Mark" for mark in MARKS))
    return "\n".join(parts) + "\n"


def _title(name: str) -> str:
    return "".join(part.capitalize() for part in name.split("_"))


def _node_schema(kind: NodeKind) -> Json:
    properties: Json = {"type": {"const": kind.name}}
    required = ["type"]
    if kind.name == "text":
        properties["text"] = {"type": "string", "minLength": 1}
        required.append("text")
    if kind.attributes:
        properties["attrs"] = _attributes_schema(kind.attributes)
        required += ["attrs"] if any(each.required for each in kind.attributes.values()) else []
    content = SCHEMA.contents[kind.name]
    if content.names:
        items = {"anyOf": [{"$ref": f"#/$defs/{_title(name)}"} for name in SCHEMA.nodes if name in content.names]}
        properties["content"] = {"type": "array", "items": items, "description": f"In this order: {kind.content}"}
        if content.expression.endswith("+") or not content.allows([]):
            properties["content"]["minItems"] = 1
            required.append("content")
    if kind.name == "text" or (kind.inline and kind.marks):
        marks = {"anyOf": [{"$ref": f"#/$defs/{_title(mark.name)}Mark"} for mark in MARKS]}
        properties["marks"] = {"type": "array", "items": marks}
    return {
        "description": kind.says,
        "type": "object",
        "properties": properties,
        "required": required,
        "additionalProperties": False,
    }


def _mark_schema(kind: MarkKind) -> Json:
    properties: Json = {"type": {"const": kind.name}}
    required = ["type"]
    if kind.attributes:
        properties["attrs"] = _attributes_schema(kind.attributes)
        required.append("attrs")
    return {
        "description": kind.says,
        "type": "object",
        "properties": properties,
        "required": required,
        "additionalProperties": False,
    }


def _attributes_schema(attributes: Mapping[str, Attribute]) -> Json:
    return {
        "type": "object",
        "properties": {name: _attribute_schema(attribute) for name, attribute in attributes.items()},
        "required": [name for name, attribute in attributes.items() if attribute.required],
        "additionalProperties": False,
    }


def _attribute_schema(attribute: Attribute) -> Json:
    schema: Json = {"type": [attribute.type, "null"] if attribute.nullable else attribute.type}
    if not attribute.required:
        schema["default"] = attribute.default
    least, most = ("minimum", "maximum") if attribute.type == "integer" else ("minLength", "maxLength")
    if attribute.minimum is not None:
        schema[least] = attribute.minimum
    if attribute.maximum is not None:
        schema[most] = attribute.maximum
    if attribute.pattern is not None:
        schema["pattern"] = f"^(?:{attribute.pattern})$"
    return schema


def _editor_attributes(attributes: Mapping[str, Attribute]) -> Json:
    described: Json = {}
    for name, attribute in attributes.items():
        described[name] = {"required": True} if attribute.required else {"default": attribute.default}
        if attribute.pattern is not None:
            described[name]["pattern"] = attribute.pattern
        if attribute.type == "integer":
            described[name]["range"] = [attribute.minimum, attribute.maximum]
        elif attribute.maximum is not None:
            described[name]["longest"] = attribute.maximum
    return described


def _editor_element(element: Element) -> Json:
    return {
        "tag": element.tag,
        "attributes": dict(element.attributes),
        "also": list(element.also),
        "class": element.css_class,
    }


def _ts_attributes(attributes: Mapping[str, Attribute]) -> str:
    names = {"integer": "number", "string": "string", "boolean": "boolean"}
    fields = [
        f"{name}: {names[attribute.type]}{' | null' if attribute.nullable else ''}"
        for name, attribute in attributes.items()
    ]
    return "{ " + "; ".join(fields) + " }"

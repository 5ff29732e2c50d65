"""What the API's description says beside what each operation says of itself: every answer that all of them give, as
which media type, and the core's schema of documents."""

from __future__ import annotations

from typing import Any

from stillpage import room
from stillpage_core.document.generated import json_schema

PROBLEM = "application/problem+json"
LINES = "application/x-ndjson"
_BYTES = {"schema": {"type": "string", "format": "binary"}}
_LINES = {"schema": {"type": "string", "description": "A line of JSON for each step; the last tells what came of it."}}
MEDIA: dict[tuple[str, str], dict[str, Any]] = {
    ("/api/library/fetch", "post"): {LINES: _LINES},
    ("/api/commons/take", "post"): {LINES: _LINES},
    ("/api/sites/{site_id}/import", "post"): {LINES: _LINES},
    ("/api/commons/{number}/preview", "get"): {"image/jpeg": _BYTES},
    ("/api/captions/{captions_id}/file.{ending}", "get"): dict.fromkeys(
        ("text/vtt", "application/x-subrip", "text/plain"), _BYTES
    ),
    ("/api/items/{item_id}/cut/{key}", "get"): {"image/jpeg": _BYTES, "image/png": _BYTES},
    ("/api/sites/{site_id}/export", "get"): {"application/zip": _BYTES},
    ("/api/sites/{site_id}/redirects.csv", "get"): {"text/csv": _BYTES},
    ("/api/pages/{page_id}/export/{ending}", "get"): {
        "application/vnd.openxmlformats-officedocument.wordprocessingml.document": _BYTES,
        "application/vnd.oasis.opendocument.text": _BYTES,
        "text/markdown": _BYTES,
        "text/html": _BYTES,
        "text/plain": _BYTES,
        "application/zip": _BYTES,
    },
}
"""What the operations answer that do not answer JSON."""
_MEANT = {
    400: "The request cannot be read",
    401: "Nobody is signed in",
    403: "The person may not do this, or the request does not carry the token",
    404: "There is no such thing, or not for this person",
    409: "Something was changed meanwhile",
    413: "It is more than is taken",
    414: "The address is too long",
    415: "The file is none that is taken",
    422: "What was given cannot be used",
    429: "It was asked for too often; Retry-After says when to ask again",
    500: "Something went wrong on the server",
    503: "The database cannot be reached, or is busy",
    507: "The disk is full",
}


def described(openapi: dict[str, Any], throttled: set[tuple[str, str]]) -> dict[str, Any]:
    """The description with all that. ``throttled`` are the operations (path and method) that may be asked too often."""
    for path, operations in openapi["paths"].items():
        for method, operation in operations.items():
            answers = {int(status): answer for status, answer in operation["responses"].items()}
            for status in _beyond(path, method, operation, throttled):
                answers.setdefault(status, {"description": _MEANT[status]})
            for status, answer in answers.items():
                if status >= 400:
                    answer["description"] = _MEANT[status]
                    answer["content"] = {PROBLEM: {"schema": {"$ref": "#/components/schemas/Problem"}}}
                    if status in (429, 503):
                        answer["headers"] = {"Retry-After": {"schema": {"type": "integer"}, "description": "Seconds."}}
            if (path, method) in MEDIA:
                answers[200]["content"] = MEDIA[path, method]
            operation["responses"] = {str(status): answers[status] for status in sorted(answers)}
    return _with_core_schemas(openapi)


def _beyond(path: str, method: str, operation: dict[str, Any], throttled: set[tuple[str, str]]) -> set[int]:
    """The errors that an operation may answer with by what surrounds it."""
    found = {500, 503}
    if path != "/api/session":
        found |= {401, 403}
    elif method != "get":
        found |= {403}
    if "{" in path:
        found |= {404}
    if operation.get("parameters") or "requestBody" in operation:
        found |= {422}
    if "requestBody" in operation:
        # A number in it may name something that is not there.
        found |= {400, 404, 413}
    if any(each["in"] == "query" for each in operation.get("parameters", ())):
        found |= {414}
    if method not in ("get", "head") or (method.upper(), path) in room.FILLING:
        found |= {507}
    if (path, method) in throttled:
        found |= {429}
    return found


def _with_core_schemas(openapi: dict[str, Any]) -> dict[str, Any]:
    """Put the core's own schema of documents into the description."""
    definitions = json_schema()["$defs"]

    def placed(value: Any) -> Any:
        if isinstance(value, dict):
            if "x-core" in value:
                return {"$ref": f"#/components/schemas/{value['x-core']}Node"}
            return {
                key: each.replace("#/$defs/", "#/components/schemas/") + ("" if each.endswith("Mark") else "Node")
                if key == "$ref" and isinstance(each, str) and each.startswith("#/$defs/")
                else placed(each)
                for key, each in value.items()
            }
        return [placed(each) for each in value] if isinstance(value, list) else value

    result: dict[str, Any] = placed(openapi)
    named = {name if name.endswith("Mark") else f"{name}Node": placed(each) for name, each in definitions.items()}
    result["components"]["schemas"] |= named
    return result

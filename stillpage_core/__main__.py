"""The core from a shell.

    python -m stillpage_core convert IN OUT      by file ending: .json .html .md .txt
    python -m stillpage_core check FILE [--json]
    python -m stillpage_core outline FILE
    python -m stillpage_core schema {json,editor,typescript}

Exit status: 0, or 1 when a finding blocks publishing, or 2 on bad input, with a sentence on standard error.
"""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Sequence
from pathlib import Path

from .checking import check_document
from .document import Node, document_from_json
from .document.generated import editor_schema, json_schema, typescript
from .document.naming import named_in
from .document.outline import outline
from .errors import CoreError, ReadingError
from .reading import Reading, read_html, read_markdown, read_text
from .resolving import Known, PictureTarget
from .writing import markdown, plain_text, storable_html


def _read_json(text: str) -> Reading:
    try:
        return Reading(document_from_json(json.loads(text)))
    except (json.JSONDecodeError, RecursionError) as error:
        raise ReadingError(f"This is not JSON: {error}.") from error


def _write_json(document: Node) -> str:
    return json.dumps(document.to_json(), ensure_ascii=False, indent=1) + "\n"


READERS: dict[str, Callable[[str], Reading]] = {
    ".json": _read_json,
    ".html": read_html,
    ".md": read_markdown,
    ".txt": read_text,
}
WRITERS: dict[str, Callable[[Node], str]] = {
    ".json": _write_json,
    ".html": storable_html,
    ".md": markdown,
    ".txt": plain_text,
}


def _ending(path: Path, known: Sequence[str]) -> str:
    ending = path.suffix.lower()
    if ending not in known:
        raise ReadingError(f"“{path.name}” must end in one of {', '.join(known)}.")
    return ending


def _load(path: Path) -> Reading:
    reader = READERS[_ending(path, list(READERS))]
    try:
        return reader(path.read_bytes().decode("utf-8"))
    except UnicodeDecodeError as error:
        raise ReadingError(f"“{path.name}” is not text in UTF-8.") from error
    except OSError as error:
        raise ReadingError(f"“{path.name}” cannot be read: {error.strerror}.") from error


def _convert(arguments: argparse.Namespace) -> int:
    writer = WRITERS[_ending(arguments.output, list(WRITERS))]
    reading = _load(arguments.input)
    for message in reading.messages:
        print(message, file=sys.stderr)
    try:
        arguments.output.write_text(writer(reading.document), encoding="utf-8")
    except OSError as error:
        raise ReadingError(f"“{arguments.output.name}” cannot be written: {error.strerror}.") from error
    return 0


def _check(arguments: argparse.Namespace) -> int:
    document = _load(arguments.file).document
    # A file alone does not say what the library holds: every picture is taken to be there, without alt text of its own.
    shown = {number: PictureTarget(number, f"item {number}", "") for number in named_in(document).pictures}
    findings = check_document(document, Known(pictures=shown))
    if arguments.json:
        print(json.dumps([finding.to_json() for finding in findings], ensure_ascii=False, indent=1))
    else:
        for finding in findings:
            place = ".".join(str(index + 1) for index in finding.path)
            print(f"{place}: {finding.severity}: {finding.sentence} {finding.whom} ({finding.source})")
    return int(any(finding.severity == "blocks" for finding in findings))


def _outline(arguments: argparse.Namespace) -> int:
    for entry in outline(_load(arguments.file).document):
        print(f"{'  ' * (entry.level - 2)}{entry.level} {entry.text}")
    return 0


def _schema(arguments: argparse.Namespace) -> int:
    if arguments.kind == "typescript":
        print(typescript(), end="")
    else:
        schema = json_schema() if arguments.kind == "json" else editor_schema()
        print(json.dumps(schema, indent=1, ensure_ascii=False))
    return 0


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; returns the exit status."""
    parser = argparse.ArgumentParser(prog="stillpage_core", description="Convert and check documents.")
    commands = parser.add_subparsers(required=True)
    convert = commands.add_parser("convert", help="read one format, write another")
    convert.add_argument("input", type=Path)
    convert.add_argument("output", type=Path)
    convert.set_defaults(run=_convert)
    check = commands.add_parser("check", help="list what is wrong")
    check.add_argument("file", type=Path)
    check.add_argument("--json", action="store_true", help="findings as JSON")
    check.set_defaults(run=_check)
    outlining = commands.add_parser("outline", help="list the headings")
    outlining.add_argument("file", type=Path)
    outlining.set_defaults(run=_outline)
    schema = commands.add_parser("schema", help="print what is generated from the schema")
    schema.add_argument("kind", choices=["json", "editor", "typescript"])
    schema.set_defaults(run=_schema)
    parsed = parser.parse_args(arguments)
    try:
        status: int = parsed.run(parsed)
    except CoreError as error:
        print(error, file=sys.stderr)
        return 2
    return status


if __name__ == "__main__":
    sys.exit(main())

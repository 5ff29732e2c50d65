"""The core from a shell.

    python -m stillpage_core convert IN OUT      by file ending: .json .html .md .txt .docx .odt
    python -m stillpage_core check FILE [--json]
    python -m stillpage_core outline FILE
    python -m stillpage_core listen FILE
    python -m stillpage_core captions IN [OUT]   WebVTT or SRT; OUT by file ending: .vtt .srt .txt
    python -m stillpage_core checks
    python -m stillpage_core schema {json,editor,typescript}

What was kept, mended and left out is told on standard error. Pictures go along: within DOCX and ODT, for the other
formats in a folder “pictures” beside OUT.

Exit status: 0, or 1 when a finding blocks publishing, or 2 on bad input, with a sentence on standard error.
"""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Sequence
from pathlib import Path
from urllib.parse import unquote

from .checking import CHECKS, Subject, check_page, finding_json
from .checking.showing import shown as shown_by
from .document import Node, document_from_json
from .document.generated import editor_schema, json_schema, typescript
from .document.naming import named_in
from .document.outline import outline
from .document.schema import MAIN
from .errors import CoreError, ReadingError
from .errors import Path as Place
from .formats import FORMATS, picture_path, read_file
from .media.captions import check_captions, draft, read_captions, transcript, write_srt, write_webvtt
from .media.captions.checking import mend_all
from .media.captions.writing import clock
from .media.pictures import FileError, size_of, sniff
from .reading import Arriving, Picture, Reading, with_pictures
from .reading.encoding import text_from
from .resolving import FixedResolver, PictureTarget
from .rules import shared
from .writing.carrying import Carried, PictureFile
from .writing.listening import heard, marked_html, spoken


def _read_json(data: bytes) -> Reading:
    try:
        return Reading(document_from_json(json.loads(text_from(data))))
    except (json.JSONDecodeError, RecursionError) as error:
        raise ReadingError(f"This is not JSON: {error}.") from error


def _write_json(document: Node) -> bytes:
    return (json.dumps(document.to_json(), ensure_ascii=False, indent=1) + "\n").encode()


def _load(path: Path, *, whole: bool = True) -> Reading:
    try:
        data = path.read_bytes()
    except OSError as error:
        raise ReadingError(f"“{path.name}” cannot be read: {error.strerror}.") from error
    if path.suffix.lower() == ".json":
        return _read_json(data)
    try:
        return read_file(path.name, data, Arriving(whole=whole))
    except ReadingError as error:
        raise ReadingError(f"“{path.name}”: {error}") from error


def _picture_beside(picture: Picture, page: Path, number: int) -> PictureFile | None:
    """A picture with its bytes: those it came with, or of the file that its address names beside the page."""
    data = picture.data
    beside = (page.parent / unquote(picture.address)).resolve()
    if data is None and beside.is_relative_to(page.parent.resolve()) and beside.is_file():
        data = beside.read_bytes()
    if data is None:
        return None
    try:
        form = sniff(data[:65536])
    except FileError:
        return None
    name = picture.name if picture.name.lower().endswith(form.ending) else f"picture-{number}.{form.ending}"
    width, height = size_of(data, form)
    return PictureFile(name, form.mime, data, width, height, picture.alt)


_SORTS = {"mended": "Mended", "dropped": "Left out"}


def _convert(arguments: argparse.Namespace) -> int:
    ending = arguments.output.suffix.lower().lstrip(".")
    if ending != "json" and ending not in FORMATS:
        known = ", ".join(f".{each}" for each in ("json", *FORMATS))
        raise ReadingError(f"“{arguments.output.name}” must end in one of {known}.")
    # The JSON of a document has no place for a title: it stays among the headings.
    reading = _load(arguments.input, whole=ending != "json")
    if reading.kept:
        print(f"Kept: {', '.join(reading.kept)}", file=sys.stderr)
    for message in reading.messages:
        print(f"{_SORTS[message.sort]}: {message.sentence}", file=sys.stderr)
    pictures: dict[int, PictureFile] = {}
    numbers: dict[int, int | None] = {}
    instead = {picture.number: picture.instead for picture in reading.pictures}
    for number, picture in enumerate(reading.pictures, start=1):
        file = _picture_beside(picture, arguments.input, number)
        numbers[picture.number] = number if file else None
        if file:
            pictures[number] = file
        elif not picture.instead:
            print(f"Left out: the picture “{picture.name or picture.address[:80]}”", file=sys.stderr)
    document = with_pictures(reading.document, numbers, instead)
    carried = Carried(reading.title or "", pictures)
    beside = ending == "json" or FORMATS[ending].beside
    try:
        arguments.output.write_bytes(
            _write_json(document) if ending == "json" else FORMATS[ending].write(document, carried)
        )
        for number, file in pictures.items() if beside else ():
            place = arguments.output.parent / picture_path(carried, number)
            place.parent.mkdir(exist_ok=True)
            place.write_bytes(file.data)
    except OSError as error:
        raise ReadingError(f"“{arguments.output.name}” cannot be written: {error.strerror}.") from error
    return 0


def _check(arguments: argparse.Namespace) -> int:
    document = _load(arguments.file).document
    # A file alone does not say what the library holds: every picture is taken to be there, without alt text of its own.
    shown = {number: PictureTarget(number, f"item {number}", "") for number in named_in(document).pictures}
    findings = check_page(Subject(document, FixedResolver(pictures=shown)))
    if arguments.json:
        told = [finding_json(each, [shown_by(document, repair) for repair in each.repairs]) for each in findings]
        print(json.dumps(told, ensure_ascii=False, indent=1))
    else:
        for finding in findings:
            rule = finding.rule
            print(
                f"{_place(document, finding.path)}: {finding.severity}: {finding.sentence} {rule.whom} ({rule.source})"
            )
    return int(any(finding.severity == "blocks" for finding in findings))


def _place(document: Node, path: Place) -> str:
    """Where a block stands, counted from 1; behind the name of its region where that is not main."""
    if not path:
        return "page"
    region = document.content[path[0]].attrs["name"]
    counted = ".".join(str(index + 1) for index in path[1:])
    return counted if region == MAIN else f"{region} {counted}".strip()


def _listen(arguments: argparse.Namespace) -> int:
    html = f"<body>{marked_html(_load(arguments.file).document, FixedResolver())}</body>"
    for line in spoken(heard(html)):
        print("  " * line.depth + line.says)
    return 0


def _checks(arguments: argparse.Namespace) -> int:
    print("# Every check\n\nMade by `python -m ops.generate` from the checks themselves.")
    group = ""
    for check in CHECKS:
        if check.group != group:
            group = check.group
            print(f"\n## {group}\n\n| check | finds | severity | source |\n|---|---|---|---|")
        rule = check.rule
        print(f"| `{rule.id}` | {rule.title} | {rule.severity} | {rule.source} |")
    return 0


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


def _captions(arguments: argparse.Namespace) -> int:
    try:
        data = arguments.input.read_bytes()
    except OSError as error:
        raise ReadingError(f"“{arguments.input.name}” cannot be read: {error.strerror}.") from error
    length = None if arguments.lasts is None else round(arguments.lasts * 1000)
    if arguments.input.suffix.lower() == ".txt":
        if length is None:
            raise ReadingError("Say how long the film is, in seconds, with --lasts.")
        cues = draft(text_from(data), length=length)
    else:
        reading = read_captions(data)
        cues = reading.cues
        for sentence in reading.told:
            print(sentence, file=sys.stderr)
    if arguments.mend:
        cues = mend_all(cues, length=length)
    notes = check_captions(cues, length=length)
    for note in notes:
        print(f"{clock(note.at, '.')} {note.sentence}", file=sys.stderr if arguments.output else sys.stdout)
    if arguments.output:
        ending = arguments.output.suffix.lower()
        if ending not in (".vtt", ".srt", ".txt"):
            raise ReadingError("Captions are written as .vtt or .srt, and as .txt for a transcript.")
        made = "\n\n".join(transcript(cues)) + "\n"
        if ending != ".txt":
            made = write_webvtt(cues) if ending == ".vtt" else write_srt(cues)
        arguments.output.write_text(made, encoding="utf-8")
    return 1 if any(note.severity == "mend" for note in notes) else 0


def _rules(arguments: argparse.Namespace) -> int:
    print(json.dumps(shared(), indent=1, ensure_ascii=False))
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
    listing = commands.add_parser("checks", help="list every check, as Markdown")
    listing.set_defaults(run=_checks)
    captioning = commands.add_parser("captions", help="check captions, mend them, write them in another format")
    captioning.add_argument("input", type=Path, help="WebVTT or SRT; or a transcript in .txt, of a film that --lasts")
    captioning.add_argument("output", type=Path, nargs="?", help=".vtt, .srt, or .txt for a transcript")
    captioning.add_argument("--lasts", type=float, help="how long the film is, in seconds")
    captioning.add_argument("--mend", action="store_true", help="repair what can be repaired")
    captioning.set_defaults(run=_captions)
    listening = commands.add_parser("listen", help="what a screen reader says")
    listening.add_argument("file", type=Path)
    listening.set_defaults(run=_listen)
    schema = commands.add_parser("schema", help="print what is generated from the schema")
    schema.add_argument("kind", choices=["json", "editor", "typescript"])
    schema.set_defaults(run=_schema)
    sharing = commands.add_parser("rules", help="print what the front end knows too")
    sharing.set_defaults(run=_rules)
    parsed = parser.parse_args(arguments)
    try:
        status: int = parsed.run(parsed)
    except CoreError as error:
        print(error, file=sys.stderr)
        return 2
    return status


if __name__ == "__main__":
    sys.exit(main())

"""What a PDF says of itself, and what readers would miss in it.

Run as a program with a file's name it prints the same as JSON: whoever looks at files of strangers does so in a process
of its own, within limits (`python -m stillpage_core.media.pdf FILE`).
"""

from __future__ import annotations

import json
import re
import sys
from collections.abc import Callable
from dataclasses import asdict, dataclass, fields
from pathlib import Path
from typing import Any, Literal, TypeVar

from ..errors import CoreError

Want = Literal["password", "words", "tags", "language", "title"]
"""What a PDF may lack that readers need."""
FEW = 20
"""Signs to a page below which a PDF is taken for pictures of words: less than a page number and a line (common
practice)."""
ENOUGH = 10_000
"""Signs from which on one has words, however many pages there are: of very long ones not all are kept."""
Value = TypeVar("Value")
_LONGEST = 300
_TAG = re.compile(r"[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*")


@dataclass(frozen=True)
class PdfFacts:
    """What a PDF says of itself (ISO 32000-1): its number of pages; whether it is tagged (14.8: marked, with a tree of
    its structure); its title (14.3) and language (14.9.2, BCP 47), empty where there is none; whether it is encrypted
    (7.6), is a form (12.7), or has script (12.6.4.16). ``locked`` ones open with a password alone, and say nothing
    else."""

    pages: int = 0
    tagged: bool = False
    title: str = ""
    language: str = ""
    encrypted: bool = False
    form: bool = False
    script: bool = False
    locked: bool = False

    @classmethod
    def of(cls, known: dict[str, Any]) -> PdfFacts:
        """From what was kept of them; what is missing is as it is at first."""
        names = {each.name for each in fields(cls)}
        return cls(**{name: value for name, value in known.items() if name in names})


LOCKED = "This PDF opens only with a password, so that readers cannot open it. Save it without one, and replace it."
WANTED: dict[Want, tuple[str, str]] = {
    "password": (
        "It opens only with a password, which readers do not have.",
        "Save it without a password, and replace the file.",
    ),
    "words": (
        "It holds no text: its pages may have been scanned.",
        "Have the text recognised (OCR) and save it anew, or take the document it was printed from (PDF7 of the "
        "Techniques for WCAG 2.2).",
    ),
    "tags": (
        "It has no tags: what is a heading, a list or a table is not told to who listens to it.",
        "Save it from the word processor as a tagged, accessible PDF (PDF/UA, ISO 14289-1).",
    ),
    "language": (
        "It does not say what language it is in, so that it may be read aloud in the wrong one.",
        "Set the document’s language in the word processor before saving it as a PDF (PDF16).",
    ),
    "title": (
        "It has no title of its own: its window shows the name of a file.",
        "Set the title in the document’s properties before saving it as a PDF (PDF18).",
    ),
}
"""What it means when each is missing, and what to do about it."""


def wanting_of(known: dict[str, Any]) -> tuple[Want, ...]:
    """What readers would miss, the worst first. ``known`` are facts as they are kept, with ``signs``: how many letters
    and other signs were found on all of its pages, None where its words could not be looked for. Of what was not looked
    at yet nothing is known."""
    facts = PdfFacts.of(known)
    if facts.locked:
        return ("password",)
    if not facts.pages:
        return ()
    signs = known.get("signs")
    if signs is not None and signs < min(FEW * facts.pages, ENOUGH):
        # A scan has no tags either; what would do for it does for them.
        return ("words",)
    missing: dict[Want, bool] = {"tags": not facts.tagged, "language": not facts.language, "title": not facts.title}
    return tuple(name for name, is_missing in missing.items() if is_missing)


def pdf_facts(path: Path) -> PdfFacts:
    """What a PDF says of itself.

    Raises:
        CoreError: when it cannot be read at all.
    """
    import pikepdf  # noqa: PLC0415 - nobody else who imports the core needs it

    try:
        with pikepdf.open(path) as pdf:
            root = pdf.Root
            return PdfFacts(
                pages=_told(lambda: len(pdf.pages), 0),
                tagged=_told(lambda: bool(root.MarkInfo.Marked) and "/StructTreeRoot" in root, default=False),
                title=_told(lambda: _line(pdf.docinfo.get("/Title", "")), "") or _told(lambda: _line(_named(pdf)), ""),
                language=_told(lambda: _language(str(root.Lang)), ""),
                encrypted=pdf.is_encrypted,
                form=_told(lambda: len(root.AcroForm.Fields) > 0, default=False),
                script=_told(lambda: _has_script(root), default=False),
            )
    except pikepdf.PasswordError:
        return PdfFacts(encrypted=True, locked=True)
    except (pikepdf.PdfError, RuntimeError, ValueError, RecursionError) as error:
        raise CoreError("This PDF cannot be read. It may be damaged; save it again and try once more.") from error


def _told(say: Callable[[], Value], default: Value) -> Value:
    """What a part of a file says; the default where it is not there, or is nothing like what it should be."""
    try:
        return say()
    except (AttributeError, KeyError, TypeError, ValueError, RuntimeError, RecursionError):
        return default


def _named(pdf: Any) -> Any:
    """The title that its metadata has (XMP)."""
    with pdf.open_metadata() as metadata:
        return metadata.get("dc:title", "")


def _line(value: Any) -> str:
    return " ".join("".join(sign if sign.isprintable() else " " for sign in str(value)).split())[:_LONGEST]


def _language(value: str) -> str:
    return value if len(value) <= 35 and _TAG.fullmatch(value) else ""


def _has_script(root: Any) -> bool:
    if "/Names" in root and "/JavaScript" in root.Names:
        return True
    action = root.get("/OpenAction")
    return action is not None and "/S" in action and str(action.S) == "/JavaScript"


def main() -> int:
    """Print what the file that is named says of itself, or what the ``problem`` is, as JSON."""
    try:
        said: dict[str, Any] = asdict(pdf_facts(Path(sys.argv[1])))
    except CoreError as error:
        said = {"problem": str(error)}
    print(json.dumps(said))
    return 0


if __name__ == "__main__":
    sys.exit(main())

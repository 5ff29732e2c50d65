"""How much of the corpus is lost on the way in, by format: python -m tests.corpus

Words and structure beside those that other libraries find (`independent`, `structure`); what was told is counted too.
Prints a table as docs/testing.md has it.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable

from stillpage_core.reading.front_matter import split_front_matter

from .independent import words_of_docx, words_of_html, words_of_markdown, words_of_odt
from .reading import files, read
from .structure import KINDS, Independent, of_docx, of_html, of_markdown, of_odt, of_reading
from .test_words import words_of

Words = Callable[[bytes], Counter[str]]
FORMATS: dict[str, tuple[str, Words, Callable[[bytes], Independent]]] = {
    "md": (
        "Markdown",
        lambda data: words_of_markdown(split_front_matter(data.decode(errors="replace"))[1]),
        lambda data: of_markdown(data.decode(errors="replace")),
    ),
    "html": (
        "HTML",
        lambda data: words_of_html(data.decode(errors="replace")),
        lambda data: of_html(data.decode(errors="replace")),
    ),
    "docx": ("DOCX", words_of_docx, of_docx),
    "odt": ("ODT", words_of_odt, of_odt),
}


def main() -> None:
    """Print the table."""
    print(f"| | documents | words | not kept as words | {' | '.join(f'{kind}s' for kind in KINDS)} |")
    print(f"|---|---|---|---|{'---|' * len(KINDS)}")
    for ending, (name, words, structure) in FORMATS.items():
        documents = total = lost = 0
        there: Counter[str] = Counter()
        ours: Counter[str] = Counter()
        for file in files(ending, 1):
            reading, data = read(file), file.read_bytes()
            if reading is None or b"{%" in data:
                continue
            documents += 1
            expected = words(data)
            total += expected.total()
            lost += (expected - words_of(reading)).total()
            there += structure(data).found
            ours += of_reading(reading)
        kinds = " | ".join(f"{ours[kind]:,} of {there[kind]:,}" for kind in KINDS)
        print(f"| {name} | {documents} | {total:,} | {lost:,} ({lost / max(1, total):.2%}) | {kinds} |")


if __name__ == "__main__":
    main()

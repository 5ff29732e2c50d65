"""How hard a text is to read, by the formulas of Flesch and of Kincaid. English only.

Sources: Flesch, “A new readability yardstick”, Journal of Applied Psychology 32 (1948); Kincaid, Fishburne, Rogers and
Chissom, “Derivation of new readability formulas for Navy enlisted personnel” (1975). Syllables are counted by rules of
English spelling, and by a table of the words that do not keep to them, made from the CMU Pronouncing Dictionary
(`data/syllables-en.txt`).
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache, lru_cache
from pathlib import Path

from .document.node import Node
from .document.schema import SCHEMA
from .splitting import sentences, words_of

_TABLE = Path(__file__).parent / "data" / "syllables-en.txt"
_LETTER = re.compile(r"[^\W_]")


@dataclass(frozen=True)
class Readability:
    """``ease`` is Flesch's reading ease, about 0 (very hard) to 100 (very easy); ``grade`` Kincaid's grade, in years
    at school; ``words``, ``sentences`` and ``syllables`` are what they were reckoned from."""

    ease: float
    grade: float
    words: int
    sentences: int
    syllables: int


@cache
def _exceptions() -> dict[str, int]:
    table: dict[str, int] = {}
    for line in _TABLE.read_text(encoding="ascii").splitlines():
        if line and not line.startswith("#"):
            number, words = line.split(":")
            table.update(dict.fromkeys(words.split(), int(number)))
    return table


@lru_cache(maxsize=20_000)
def syllables(word: str) -> int:
    """How many syllables an English word has, at least 1; in small letters, with a plain apostrophe."""
    known = _exceptions().get(word)
    return known if known is not None else by_rule(word)


_SILENT = re.compile(r"(?<=[^aeiouy])(?:e|ed|es)$|(?<=[aeiou])(?:ed|es)$")
_VOICED_ED = re.compile(r"[td]ed$")
_VOICED_ES = re.compile(r"(?:[sxz]|[cs]h|[cg])es$|(?<=[^aeiou])les$")
_VOICED_LE = re.compile(r"[^aeiouylr]le[sd]?$")
_PARTED = re.compile(
    r"ia(?!n$|l$|ge)|io(?!u|n)|iu|eo(?!n|u)|ua(?!l)|uo|[aeiouy]ing$|[aeou]ia|ism$|(?<=[^cgtsx])ion$|ii"
)
_GROUPS = re.compile(r"[aeiouy]+")


def by_rule(word: str) -> int:
    """The same by spelling alone: groups of vowels, silent ones taken off, parted ones added."""
    letters = word.replace("'", "").replace("’", "")
    count = len(_GROUPS.findall(letters))
    if letters.endswith("ed"):
        count -= bool(_SILENT.search(letters)) and not _VOICED_ED.search(letters) and not _VOICED_LE.search(letters)
    elif letters.endswith("es"):
        count -= bool(_SILENT.search(letters)) and not _VOICED_ES.search(letters)
    elif letters.endswith("e"):
        count -= bool(_SILENT.search(letters)) and not _VOICED_LE.search(letters)
    count += len(_PARTED.findall(letters))
    return max(1, count)


def readability(texts: list[str]) -> Readability | None:
    """Score some texts, each of which begins with a new sentence; None where there are no words."""
    words = number = spoken = 0
    for text in texts:
        found = words_of(text)
        if not found:
            continue
        words += len(found)
        spoken += sum(map(syllables, found))
        number += max(
            1, sum(text[start].isalnum() or bool(_LETTER.search(text, start, end)) for start, end in sentences(text))
        )
    if not words:
        return None
    length, weight = words / number, spoken / words
    return Readability(
        206.835 - 1.015 * length - 84.6 * weight,
        0.39 * length + 11.8 * weight - 15.59,
        words,
        number,
        spoken,
    )


def readability_of(document: Node, language: str) -> Readability | None:
    """Score the running text of a document; None where its language is not scored, or where there is none.

    Headings, tables, captions and preformatted text are no sentences, and are left out.
    """
    if language.split("-", maxsplit=1)[0].lower() != "en":
        return None
    texts: list[str] = []
    _collect(document, texts)
    return readability(texts)


_LEFT_OUT = frozenset({"heading", "table", "preformatted", "equation", "call_to_action", "quotation_source"})


def _collect(node: Node, texts: list[str]) -> None:
    if node.kind in _LEFT_OUT:
        return
    if SCHEMA.nodes[node.kind].is_textblock:
        text = "".join(child.text if child.kind == "text" else " " for child in node.content)
        if text.strip():
            texts.append(text)
        return
    for child in node.content:
        _collect(child, texts)

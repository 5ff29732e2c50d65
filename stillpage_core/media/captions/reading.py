"""Captions coming in: WebVTT and SubRip (SRT). No word is lost in silence: what is not kept, is told with its line.

WebVTT is read as its standard has a browser read it (https://www.w3.org/TR/webvtt1/#file-parsing), save that cues which
a browser would leave out for their times are kept for somebody to mend. SRT has no standard; it is read as common
players read it: blocks of a number, times and lines, parted by empty lines.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from html import unescape

from ...errors import ReadingError
from ...reading.encoding import decoded
from .cues import LATEST, LONGEST_CUE, MOST_CUES, CaptionError, Cue, one_line, plain_text

LARGEST = 4 * 1024 * 1024
"""The most bytes a file of captions may have; an hour of talk has about 100 kB."""
UNTIMED = 2_000
"""For how many milliseconds a cue is shown whose times cannot be read."""
_MOST_TOLD = 40
_NONE = (
    "There are no captions in this file. WebVTT begins with the word WEBVTT; both WebVTT and SRT have lines "
    "such as 00:00:01.000 --> 00:00:03.000 with words below them."
)

_TIME = r"(?:(\d{1,4}):)?(\d{1,2}):(\d{1,2})(?:[.,:](\d{1,3}))?"
_TIMES = re.compile(rf"\s*{_TIME}\s*-->\s*{_TIME}(?!\d)([^\n]{{0,500}})")
_SETTING = re.compile(r"(?:vertical|line|position|size|align):[\w.,%-]{1,40}")
_TAG = re.compile(r"<(/?)([a-zA-Z]{0,10})([^<>\n]{0,500})>")
_STAMP = re.compile(r"<[\d:.]{4,20}>")
_OVERRIDE = re.compile(r"\{\\[^{}\n]{0,80}\}")
_HTML = re.compile(r"</?(?:i|b|u|s|font)(?:\s[^<>\n]{0,200})?>", re.IGNORECASE)
_ENTITY = re.compile(r"&(?:amp|lt|gt|quot|nbsp|lrm|rlm|#\d{1,7}|#[xX][\da-fA-F]{1,6});")
_LANGUAGE = re.compile(r"Language:\s*([A-Za-z]{2,8}(?:-[A-Za-z0-9]{1,8}){0,4})\s*", re.IGNORECASE)


@dataclass(frozen=True)
class CaptionsRead:
    """Cues in the order of the file, its language where it names one, and what was mended or left out, in sentences."""

    cues: tuple[Cue, ...]
    language: str = ""
    told: tuple[str, ...] = ()


@dataclass
class _Telling:
    """What there is to tell: single sentences, and things that are told once with their number."""

    sentences: list[str] = field(default_factory=list)
    counted: Counter[str] = field(default_factory=Counter)

    def say(self, sentence: str) -> None:
        if len(self.sentences) <= _MOST_TOLD:
            self.sentences.append(sentence)

    def leave_out(self, mark: str) -> None:
        """A mark that captions do not have is no word to a browser; somebody may have meant it as one."""
        named = f"“{mark[:60]}” (#) was left out: captions have no such mark."
        if named not in self.counted and len(self.counted) > _MOST_TOLD:
            named = "More marks that captions do not have (#) were left out."
        self.counted[named] += 1

    def all(self) -> tuple[str, ...]:
        said = self.sentences[:_MOST_TOLD]
        if len(self.sentences) > _MOST_TOLD:
            said.append("There is more of that kind; it is not told line by line.")
        return (*said, *(words.replace("(#)", f"({count:,})") for words, count in self.counted.items()))


def read_captions(data: bytes) -> CaptionsRead:
    """Read a file of captions; its first line tells the format.

    Raises:
        CaptionError: when it is too large, has too many cues, or has no cue at all.
    """
    if len(data) > LARGEST:
        raise CaptionError(f"This file has {len(data):,} bytes; captions of one film may have {LARGEST:,}.")
    telling = _Telling()
    try:
        found = decoded(data)
    except ReadingError:
        raise CaptionError(_NONE) from None
    if found.told:
        telling.say(f"{found.told}.")
    lines = found.text.replace("\r\n", "\n").replace("\r", "\n").replace("\0", "\ufffd").split("\n")
    first = next((line for line in lines if line.strip()), "")
    if first.startswith("WEBVTT") and first[6:7].strip() == "":
        language, cues = _webvtt(lines, telling)
    else:
        language, cues = "", list(_srt(lines, telling))
    if not cues:
        raise CaptionError(_NONE)
    return CaptionsRead(tuple(cues), language, telling.all())


def _blocks(lines: list[str], start: int) -> Iterator[tuple[int, list[str]]]:
    """The runs of lines that are not empty, each with the index of its first line."""
    block: list[str] = []
    begin = start
    for index in range(start, len(lines)):
        if lines[index].strip():
            if not block:
                begin = index
            block.append(lines[index])
        elif block:
            yield begin, block
            block = []
    if block:
        yield begin, block


def _webvtt(lines: list[str], telling: _Telling) -> tuple[str, list[Cue]]:
    language, start = "", next(index for index, line in enumerate(lines) if line.strip()) + 1
    while start < len(lines) and lines[start].strip() and "-->" not in lines[start]:
        if match := _LANGUAGE.fullmatch(lines[start]):
            language = match[1]
        start += 1
    # A cue may follow the head without an empty line; its name has been taken for a line of the head then.
    cues: list[Cue] = []
    for begin, block in _blocks(lines, start):
        at = next((index for index, line in enumerate(block[:2]) if "-->" in line), None)
        if at is None:
            _no_cue(begin, block, telling)
            continue
        parts = _parted(block, at)
        for offset, name, times, text in parts:
            cues.append(_cue(cues, begin + offset, times, text, telling, webvtt=True, name=name))
            _not_too_many(cues)
    return language, [cue for cue in cues if cue.text or _empty(telling)]


def _parted(block: list[str], at: int) -> Iterator[tuple[int, str, str, list[str]]]:
    """The cues of one block: a line with an arrow begins another, even without an empty line before it."""
    name = block[0] if at == 1 else ""
    while True:
        following = next((index for index in range(at + 1, len(block)) if "-->" in block[index]), None)
        yield at, one_line(name), block[at], block[at + 1 : following]
        if following is None:
            return
        at, name = following, ""


def _no_cue(begin: int, block: list[str], telling: _Telling) -> None:
    kind = block[0].split(None, 1)[0]
    if kind in ("NOTE", "STYLE", "REGION"):
        what = {"NOTE": "comments (#)", "STYLE": "styles (#)", "REGION": "regions (#)"}[kind]
        telling.counted[f"Of the file, {what} are not kept."] += 1
    else:
        words = one_line("\n".join(block))[:200]
        telling.say(f"Line {begin + 1}: words without a time were left out, as browsers do: “{words}”.")


def _srt(lines: list[str], telling: _Telling) -> Iterator[Cue]:
    cues: list[Cue] = []
    gathered: tuple[int, str] | None = None
    text: list[str] = []

    def end() -> None:
        if gathered is not None:
            cues.append(_cue(cues, *gathered, text, telling, webvtt=False))
            _not_too_many(cues)

    for index, line in enumerate(lines):
        above = lines[index - 1].strip() if index else ""
        if "-->" in line and (_TIMES.match(line) or gathered is None or not above or above.isdigit()):
            parted = len(text) >= 2 and not text[-2].strip()
            if text and above.isdigit() and (parted or above == str(len(cues) + 2)):
                text.pop()
            end()
            gathered, text = (index, line), []
        elif gathered is not None:
            text.append(line)
        elif line.strip() and not line.strip().isdigit():
            telling.say(f"Line {index + 1}: words before the first time were left out: “{one_line(line)[:200]}”.")
    end()
    for cue in cues:
        if cue.text or _empty(telling):
            yield cue


def _not_too_many(cues: list[Cue]) -> None:
    if len(cues) > MOST_CUES:
        raise CaptionError(f"This file has more than {MOST_CUES:,} cues, which is more than one film can have.")


def _empty(telling: _Telling) -> bool:
    telling.counted["Cues without words (#) were left out."] += 1
    return False


def _cue(
    before: list[Cue], index: int, times: str, lines: list[str], telling: _Telling, *, webvtt: bool, name: str = ""
) -> Cue:
    begin, end, said = _times(times)
    if begin is None or end is None:
        begin = before[-1].end if before else 0
        end = begin + UNTIMED
        telling.say(
            f"Line {index + 1}: these are no times that can be read: “{one_line(times)[:80]}”. The words are kept."
        )
    elif end <= begin:
        telling.say(f"Line {index + 1}: this cue ends before it begins. Its words are kept; give it a time.")
    speaker, text = (_spoken if webvtt else _marked)("\n".join(lines), telling)
    text = plain_text(text)
    if len(text) > LONGEST_CUE:
        raise CaptionError(
            f"The cue at line {index + 1} has {len(text):,} characters; one cue may have {LONGEST_CUE:,}. A time may "
            "be missing below it."
        )
    settings = " ".join(_SETTING.findall(said)) if webvtt else ("line:0" if r"{\an8}" in "".join(lines) else "")
    return Cue(begin, end, text, one_line(speaker)[:100], name[:200], settings)


def _times(line: str) -> tuple[int | None, int | None, str]:
    match = _TIMES.match(line)
    if match is None:
        return None, None, ""
    moments = []
    for start in (1, 5):
        hours, minutes, seconds, part = match.groups()[start - 1 : start + 3]
        moment = (int(hours or 0) * 3600 + int(minutes) * 60 + int(seconds)) * 1000 + int((part or "0").ljust(3, "0"))
        if int(minutes) > 59 or int(seconds) > 59 or moment > LATEST:
            return None, None, ""
        moments.append(moment)
    return moments[0], moments[1], match[9]


def _spoken(text: str, telling: _Telling) -> tuple[str, str]:
    """Who speaks, and the words, of a cue's text in WebVTT. Where several speak, each name stands before its words."""
    voices = len(re.findall(r"<v[\s.]", text))
    alone = voices == 1 and re.match(r"\s*<v[\s.]", text) is not None and not text.partition("</v>")[2].strip()
    speaker = ""

    def tag(match: re.Match[str]) -> str:
        nonlocal speaker
        closing, kind, rest = match.groups()
        if kind == "v" and rest[:1] in (".", " ", "\t", "\n"):
            said = rest.partition(" ")[2] if rest.startswith(".") else rest
            who = _decoded(said).strip()
            if alone:
                speaker = who
                return ""
            return f"{who}: " if who and not closing else ""
        if kind == "v":
            return ""
        if kind in ("i", "b", "u") and not closing:
            telling.counted["Italic, bold and underlined words (#) are kept as plain words."] += 1
        elif kind == "rt":
            # Words above words are kept behind them.
            return ")" if closing else " ("
        elif kind not in ("i", "b", "u", "c", "lang", "ruby", ""):
            telling.leave_out(match[0])
        return ""

    text = _decoded(_TAG.sub(tag, _STAMP.sub("", text)))
    return speaker, text


def _marked(text: str, telling: _Telling) -> tuple[str, str]:
    """The words of a cue's text in SRT, where marks of HTML and of other formats are common, in no standard."""
    text, marks = _HTML.subn("", text)
    text, more = _OVERRIDE.subn("", text)
    if marks + more:
        telling.counted["Marks of italics, colours and places (#) are not kept; their words are."] += marks + more
    return "", _decoded(text)


def _decoded(text: str) -> str:
    return _ENTITY.sub(lambda match: unescape(match[0]), text)

"""Languages: their tags, their names, and a guess at the language of some words.

The guess goes by letters where a script belongs to few languages, and by the small words that every sentence needs
where it does not. It is silent unless it is sure: a wrong guess would have words read out in a wrong voice.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import cache, lru_cache

import langcodes

from .splitting import REMEMBERED, words_of

NAMES = {
    "ar": "Arabic",
    "bg": "Bulgarian",
    "cs": "Czech",
    "cy": "Welsh",
    "da": "Danish",
    "de": "German",
    "el": "Greek",
    "en": "English",
    "es": "Spanish",
    "fa": "Persian",
    "fr": "French",
    "ga": "Irish",
    "he": "Hebrew",
    "hi": "Hindi",
    "it": "Italian",
    "ja": "Japanese",
    "ko": "Korean",
    "nl": "Dutch",
    "pl": "Polish",
    "pt": "Portuguese",
    "ru": "Russian",
    "sv": "Swedish",
    "th": "Thai",
    "uk": "Ukrainian",
    "ur": "Urdu",
    "zh": "Chinese",
}
"""The English names of languages that the page check speaks of, by tag."""

OWN_NAMES = {
    "ar": "العربيّة",
    "bg": "Български",
    "cs": "Česky",
    "cy": "Cymraeg",
    "da": "Dansk",
    "de": "Deutsch",
    "el": "Ελληνικά",
    "en": "English",
    "es": "Español",
    "fa": "فارسی",
    "fr": "Français",
    "ga": "Gaeilge",
    "he": "עברית",
    "hi": "हिंदी",
    "it": "Italiano",
    "ja": "日本語",
    "ko": "한국어",
    "nl": "Nederlands",
    "pl": "Polski",
    "pt": "Português",
    "ru": "Русский",
    "sv": "Svenska",
    "th": "ภาษาไทย",
    "uk": "Українська",
    "ur": "اردو",
    "zh": "中文",
}
"""What these languages call themselves, by tag: so whoever speaks one finds it in a list."""

_SMALL: dict[str, str] = {
    "en": "the of and to a in is it that for was on are as with his they be at this have from or had by not but what "
    "all were when we there can an your which their if will do each how them then she many some so these would her",
    "fr": "le la les des du de et en un une est que qui dans pour pas sur au aux avec ce cette il elle nous vous sont "
    "par plus ne se son sa ses ont été mais ou où leur tous tout",
    "de": "der die das und den dem des ein eine einer eines einem ist nicht mit auf für von zu zum zur im am auch sich "
    "werden wird sind als nach bei aus wie oder wenn über haben hat kann sie wir ihre durch",
    "es": "el los las del y en un una es que por con para su sus se no lo al como más pero este esta son ha han sin "
    "sobre también todos hay desde cuando muy donde",
    "it": "il lo gli le del della dei delle di e un una è che per con non si sono da al alla nel nella come più anche "
    "ma questo questa hanno ogni tutti dal dalla loro essere",
    "nl": "de het een en van in is dat op te niet met voor zijn aan er door om ook als bij of uit naar deze worden "
    "wordt heeft kan maar over nog hun ze wij geen tot",
    "pt": "o os as da do das dos em um uma é que para com não se por mais como mas foi ao são tem seu sua ou quando "
    "muito também pelo pela isso todos nos",
    "cy": "y yr yn i o a ar mae ac am gan wedi eu ei sydd bod hyn fel cael er pan oedd nid dim neu drwy gyda pob hwn "
    "hon rhaid gallwch ein gyfer",
    "pl": "i w z na do nie się jest że to co jak po od za dla przez są oraz tak tylko może jego jej ich lub przy już "
    "które który która każdy ma",
    "sv": "och att det i en som är av för på med till den har inte om ett men var de vi kan ska från så eller när "
    "under efter sin alla",
    "da": "og at det i en som er af for på med til den har ikke om et men var de vi kan skal fra så eller når under "
    "efter sin alle blev",
}

SMALL_WORDS = {code: frozenset(words.split()) for code, words in _SMALL.items()}
_LANGUAGES = {
    word: [code for code, others in SMALL_WORDS.items() if word in others]
    for words in SMALL_WORDS.values()
    for word in words
}
"""The languages that each of the small words belongs to."""

_SCRIPTS: tuple[tuple[str, re.Pattern[str]], ...] = (
    ("el", re.compile("[\u0370-\u03ff]")),
    ("uk", re.compile("[іїєґІЇЄҐ]")),
    ("ru", re.compile("[\u0400-\u04ff]")),
    ("he", re.compile("[\u0590-\u05ff]")),
    ("ar", re.compile("[\u0600-\u06ff]")),
    ("hi", re.compile("[\u0900-\u097f]")),
    ("th", re.compile("[\u0e00-\u0e7f]")),
    ("ja", re.compile("[\u3040-\u30ff]")),
    ("ko", re.compile("[\uac00-\ud7af]")),
    ("zh", re.compile("[\u4e00-\u9fff]")),
)

_UNLIKE: dict[str, re.Pattern[str]] = {
    "ru": re.compile("[јљњђћџѓќѕўәғқңөұүһӣӯ]", re.IGNORECASE),
    "ar": re.compile("[پچژگکیےٹڈڑںڕڵێۆە]"),
    "hi": re.compile("[ळॲॠ]"),
    "he": re.compile("[ײױװ]"),
}
"""Letters of a script that its best-known language has not: another language, then."""

_WITH_FIGURES = re.compile(r"\w*\d\w*")

FEWEST = 6
"""From how many words on a language with the Latin script is guessed."""


@cache
def is_tag(code: str) -> bool:
    """Whether a language tag is right by BCP 47, and its parts are in IANA's registry."""
    return langcodes.tag_is_valid(code)


def name_of(code: str) -> str:
    """The English name of a language; the tag itself where none is known here."""
    return NAMES.get(code.split("-", maxsplit=1)[0].lower(), code)


def own_name(code: str) -> str:
    """What a language calls itself, with the rest of its tag where there is one; the tag where that is not known."""
    first, _, rest = code.partition("-")
    name = OWN_NAMES.get(first.lower(), first)
    return f"{name} ({rest})" if rest and name != first else name if not rest else code


@lru_cache(maxsize=REMEMBERED)
def guess(text: str) -> str | None:
    """The language of some words as a tag, or None where that is not sure."""
    if not text.isascii() and (code := _by_script(text)):
        return code
    if any(map(text.__contains__, "0123456789")):
        text = _WITH_FIGURES.sub(" ", text)  # “ES6” is no word of Spanish.
    words: Sequence[str] = words_of(text)
    if "'" in text or not text.isascii():
        words = [part for word in words for part in word.split("'") if not part[0].isdigit()]
    if len(words) < FEWEST:
        return None
    english = SMALL_WORDS["en"]
    if sum(map(english.__contains__, words)) * 5 >= len(words):
        return "en"
    present = [word for word in words if word in _LANGUAGES]
    if len(set(present)) < 3:
        return None
    scores = dict.fromkeys(SMALL_WORDS, 0.0)
    for word in present:
        for code in _LANGUAGES[word]:
            scores[code] += 1 / len(_LANGUAGES[word])
    (best, score), (_, second) = sorted(scores.items(), key=lambda each: -each[1])[:2]
    return best if score >= 2 and score * 6 >= len(words) and score >= 1.5 * second else None


def _by_script(text: str) -> str | None:
    letters = sum(letter.isalpha() for letter in text)
    for code, script in _SCRIPTS:
        found = len(script.findall(text))
        if code == "uk":
            if found >= 2 and found * 30 > letters:
                return code
        elif code in ("ja",):
            if found >= 2 and found * 5 > letters:
                return code
        elif found >= 2 and found * 2 > letters:
            return _of_script(code, text)
    return None


def _of_script(code: str, text: str) -> str | None:
    """The language of some words in the script of another; None where several are written so."""
    if code == "ar" and re.search("[ٹڈڑںے]", text):
        return "ur"
    if code == "ar" and re.search("[پچژگ]", text) and not re.search("[ڕڵێۆە]", text):
        return "fa"
    if code == "ru" and re.search("ъ", text, re.IGNORECASE) and not re.search("[ыэё]", text, re.IGNORECASE):
        return "bg" if len(text) > 40 and not _UNLIKE[code].search(text) else None
    return None if code in _UNLIKE and _UNLIKE[code].search(text) else code


def written_in(code: str, text: str) -> tuple[int, int] | None:
    """Where words in the script of a language begin and end in a text that has others too; None for the Latin script
    and others that are not told apart here."""
    own = {"bg": "ru", "uk": "ru", "fa": "ar", "ur": "ar"}.get(code, code)
    script = dict(_SCRIPTS).get(own)
    found = list(script.finditer(text)) if script else []
    if not found:
        return None
    start, end = found[0].start(), found[-1].end()
    before, after = any(map(str.isalpha, text[:start])), any(map(str.isalpha, text[end:]))
    return start if before else 0, end if after else len(text)

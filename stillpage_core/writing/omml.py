"""LaTeX → Office MathML (ECMA-376, part 1, 22.1), by way of MathML."""

from __future__ import annotations

from html import escape

from lxml import etree

from ..equations import EquationError, mathml

_LARGE = frozenset("∑∏∫∬∭∮⋃⋂")
_FENCES = frozenset("()[]{}|‖⟨⟩⌈⌉⌊⌋")
Elements = list[etree._Element]


def omml(latex: str) -> str:
    """An equation as an ``m:oMath`` element; words in place of one that cannot be read."""
    try:
        root = etree.fromstring(mathml(latex, display=True).encode())
    except (EquationError, etree.XMLSyntaxError):
        return f"<m:oMath>{_run(latex, words=True)}</m:oMath>"
    return f"<m:oMath>{_row(list(root))}</m:oMath>"


def _local(element: etree._Element) -> str:
    return str(element.tag).rsplit("}", 1)[-1]


def _words(element: etree._Element) -> str:
    return "".join(map(str, element.itertext())).strip()


def _run(text: str, *, plain: bool = False, words: bool = False) -> str:
    """A run of signs; plain ones are names of functions and units, which stand upright, and ``words`` no signs at
    all."""
    properties = "<m:rPr><m:nor/></m:rPr>" if words else '<m:rPr><m:sty m:val="p"/></m:rPr>' if plain else ""
    return f'<m:r>{properties}<m:t xml:space="preserve">{escape(text, quote=False)}</m:t></m:r>' if text else ""


def _row(elements: Elements) -> str:
    """Elements one after another; fences that belong together hold what is between them, and a large operator what
    follows it."""
    written: list[str] = []
    place = 0
    while place < len(elements):
        element = elements[place]
        place += 1
        if _is_fence(element, "prefix"):
            # One without its partner, as before cases, holds all that follows.
            end = _closing(elements, place)
            inside = _row(elements[place:end])
            written.append(_fenced(_words(element), "" if end is None else _words(elements[end]), inside))
            place = len(elements) if end is None else end + 1
        elif (large := _operator(element)) is not None:
            written.append(f"{large}<m:e>{_row(elements[place:])}</m:e></m:nary>")
            break
        else:
            written.append(_one(element))
    return "".join(written)


def _is_fence(element: etree._Element, form: str) -> bool:
    words = _words(element)
    seen = words in _FENCES or (not words and form == "postfix")
    return _local(element) == "mo" and element.get("form") == form and seen


def _closing(elements: Elements, place: int) -> int | None:
    depth = 0
    for index in range(place, len(elements)):
        if _is_fence(elements[index], "postfix"):
            if not depth:
                return index
            depth -= 1
        elif _is_fence(elements[index], "prefix"):
            depth += 1
    return None


def _fenced(opening: str, closing: str, inside: str) -> str:
    ends = f'<m:begChr m:val="{escape(opening)}"/><m:endChr m:val="{escape(closing)}"/>'
    return f"<m:d><m:dPr>{ends}</m:dPr><m:e>{inside}</m:e></m:d>"


def _operator(element: etree._Element) -> str | None:
    """The beginning of a sum, product or integral with its limits; None for anything else."""
    name = _local(element)
    parts = [child for child in element if isinstance(child.tag, str)]
    sign = element if name == "mo" else parts[0] if name in _SCRIPTS and parts else None
    if sign is None or _local(sign) != "mo" or _words(sign) not in _LARGE:
        return None
    limits = dict(zip(_SCRIPTS.get(name, ()), parts[1:], strict=False))
    hidden = "".join(f'<m:{part}Hide m:val="1"/>' for part in ("sub", "sup") if part not in limits)
    where = "subSup" if name.startswith("msu") else "undOvr"
    properties = f'<m:chr m:val="{escape(_words(sign))}"/><m:limLoc m:val="{where}"/>{hidden}'
    inside = "".join(
        f"<m:{part}>{_row([limits[part]]) if part in limits else ''}</m:{part}>" for part in ("sub", "sup")
    )
    return f"<m:nary><m:naryPr>{properties}</m:naryPr>{inside}"


_SCRIPTS = {
    "msub": ("sub",),
    "msup": ("sup",),
    "msubsup": ("sub", "sup"),
    "munder": ("sub",),
    "mover": ("sup",),
    "munderover": ("sub", "sup"),
}
_PLAIN_SCRIPTS = {"msub": ("sSub", "sub"), "msup": ("sSup", "sup"), "msubsup": ("sSubSup", "sub", "sup")}


def _one(element: etree._Element) -> str:
    name = _local(element)
    parts = [_row([child]) for child in element if isinstance(child.tag, str)]
    words = _words(element)
    if name in ("mi", "mn", "mo", "mtext", "ms"):
        if name in ("mtext", "ms"):
            return _run("".join(map(str, element.itertext())), words=True)
        upright = element.get("mathvariant") == "normal" or (len(words) > 1 and words.isalpha())
        return _run(words, plain=name in ("mi", "mo") and upright)
    if name == "mspace":
        return _run(_space(element.get("width") or ""), words=True)
    if name == "mfrac":
        bare = '<m:fPr><m:type m:val="noBar"/></m:fPr>' if element.get("linethickness") == "0" else ""
        return f"<m:f>{bare}<m:num>{parts[0]}</m:num><m:den>{parts[1]}</m:den></m:f>"
    if name == "msqrt":
        return f'<m:rad><m:radPr><m:degHide m:val="1"/></m:radPr><m:deg/><m:e>{_row(list(element))}</m:e></m:rad>'
    if name == "mroot":
        return f"<m:rad><m:deg>{parts[1]}</m:deg><m:e>{parts[0]}</m:e></m:rad>"
    if name in _PLAIN_SCRIPTS:
        tag, *places = _PLAIN_SCRIPTS[name]
        scripts = "".join(f"<m:{place}>{part}</m:{place}>" for place, part in zip(places, parts[1:], strict=False))
        return f"<m:{tag}><m:e>{parts[0]}</m:e>{scripts}</m:{tag}>"
    if name in ("munder", "mover", "munderover"):
        return _stacked(element, name, parts)
    if name == "mtable":
        rows = "".join(f"<m:mr>{''.join(f'<m:e>{_row(list(cell))}</m:e>' for cell in row)}</m:mr>" for row in element)
        return f"<m:m>{rows}</m:m>"
    if name in ("annotation", "annotation-xml"):
        return ""
    return _row(list(element)[:1] if name == "semantics" else list(element))


def _space(width: str) -> str:
    """The space of Unicode that is about as wide."""
    em = float(width.removesuffix("em")) if width.endswith("em") else 0.25
    return "\u2009" if em < 0.2 else "\u2005" if em < 0.5 else "\u2003" * max(1, round(em))


_LINES = frozenset("\u203e\u0305\u2015\u2500")
_LINES_BELOW = frozenset("_\u0332\u2015\u2500\u2581")
"""Signs that are a line over or under what they stand with."""


def _stacked(element: etree._Element, name: str, parts: list[str]) -> str:
    sign = _words(element[-1])
    if (name == "mover" and sign in _LINES) or (name == "munder" and sign in _LINES_BELOW):
        place = "top" if name == "mover" else "bot"
        return f'<m:bar><m:barPr><m:pos m:val="{place}"/></m:barPr><m:e>{parts[0]}</m:e></m:bar>'
    if name == "mover" and _local(element[1]) == "mo" and len(sign) == 1:
        return f'<m:acc><m:accPr><m:chr m:val="{escape(sign)}"/></m:accPr><m:e>{parts[0]}</m:e></m:acc>'
    made = parts[0]
    if name != "mover":
        made = f"<m:limLow><m:e>{made}</m:e><m:lim>{parts[1]}</m:lim></m:limLow>"
    if name != "munder":
        made = f"<m:limUpp><m:e>{made}</m:e><m:lim>{parts[-1]}</m:lim></m:limUpp>"
    return made

"""MathML (presentation) and Office MathML → LaTeX.

Office MathML is turned into MathML first (ECMA-376, part 1, 22.1), so that there is one way to LaTeX. What comes out
has been read by `equations` and may stand in a document; "" stands for an equation that has no LaTeX that may.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Callable, Sequence

from lxml import etree

from ..equations import EquationError, mathml
from .package import local

_DEEPEST = 60
_SIGNS = {
    "×": r"\times", "⋅": r"\cdot", "·": r"\cdot", "±": r"\pm", "∓": r"\mp", "÷": r"\div", "≤": r"\leq", "≥": r"\geq",
    "≠": r"\neq", "≈": r"\approx", "≡": r"\equiv", "∼": r"\sim", "∝": r"\propto", "→": r"\to", "⇒": r"\Rightarrow",
    "⇔": r"\Leftrightarrow", "∞": r"\infty", "∂": r"\partial", "∇": r"\nabla", "∈": r"\in", "∉": r"\notin",
    "⊂": r"\subset", "⊆": r"\subseteq", "∪": r"\cup", "∩": r"\cap", "∀": r"\forall", "∃": r"\exists", "∅": r"\emptyset",
    "∑": r"\sum", "∏": r"\prod", "∫": r"\int", "∬": r"\iint", "∮": r"\oint", "…": r"\ldots", "⋯": r"\cdots",
    "′": "'", "−": "-", "°": r"^{\circ}", "{": r"\{", "}": r"\}", "%": r"\%", "&": r"\&", "#": r"\#", "$": r"\$",
    "_": r"\_", "∘": r"\circ", "‖": r"\|", "⟨": r"\langle", "⟩": r"\rangle", "\\": r"\backslash",
}  # fmt: skip
_VARIANTS = {"ε": r"\varepsilon", "ϵ": r"\epsilon", "ϕ": r"\phi", "φ": r"\varphi", "ϑ": r"\vartheta", "ς": r"\varsigma"}
_CAPITALS = frozenset("gamma delta theta lambda xi pi sigma upsilon phi psi omega".split())
_GREEK = _CAPITALS | set("alpha beta zeta eta iota kappa mu nu rho tau chi".split())
_ACCENTS = {
    **dict.fromkeys("^\u02c6\u0302", r"\hat"),
    **dict.fromkeys("~\u02dc\u0303", r"\tilde"),
    **dict.fromkeys("\u00af\u0304", r"\bar"),
    **dict.fromkeys("\u203e\u0305\u2015", r"\overline"),
    **dict.fromkeys("\u2192\u20d7", r"\vec"),
    **dict.fromkeys("\u02d9\u0307", r"\dot"),
    **dict.fromkeys("\u00a8\u0308", r"\ddot"),
    "\u23de": r"\overbrace",
}
_BELOW = {"_": r"\underline", "\u0332": r"\underline", "\u23df": r"\underbrace"}
_FUNCTIONS = frozenset(
    """sin cos tan cot sec csc sinh cosh tanh log ln exp lim max min sup inf det gcd arcsin arccos arctan""".split()
)
_CASES = re.compile(r"\\left\\\{ ?\\begin\{matrix\}((?:(?!\\begin).)*)\\end\{matrix\} ?\\right\.", re.DOTALL)
_LEFT, _RIGHT = re.compile(r"\\left(?![a-z])"), re.compile(r"\\right(?![a-z])")
_UPRIGHT = re.compile(r"\\mathrm\{[A-Za-z]+\}")
_SPACES = {r"\,": 0.167, r"\:": 0.222, r"\;": 0.278, r"\quad ": 1.0, r"\qquad ": 2.0}
"""How wide spaces are, in em."""
_SPACE_SIGNS = {"\u2009": r"\,", "\u2005": r"\:", "\u2003": r"\quad "}
_MATRICES = {"()": "pmatrix", "[]": "bmatrix", "||": "vmatrix"}
_MATRIX = re.compile(r"\\begin\{matrix\}((?:(?!\\begin).)*)\\end\{matrix\}", re.DOTALL)
_PAIRS = {each: each for each in "()[]|"} | {
    "{": r"\{",
    "}": r"\}",
    "‖": r"\|",
    "⟨": r"\langle",
    "⟩": r"\rangle",
}


def latex_of(html: str) -> str:
    """The LaTeX of a ``math`` element written as HTML writes it."""
    parser = etree.XMLParser(recover=True, resolve_entities=False, no_network=True)
    try:
        root = etree.fromstring(html.encode("utf-8", "replace"), parser)
    except (etree.XMLSyntaxError, ValueError):
        return ""
    return latex_of_mathml(root) if root is not None else ""


def latex_of_mathml(root: etree._Element) -> str:
    """The LaTeX of a ``math`` element; its own annotation where it brings one (MathML 4, 6.8)."""
    for note in root.iter():
        is_tex = local(note) == "annotation" and note.get("encoding") in ("application/x-tex", "TeX", "LaTeX")
        if is_tex and (found := _proven((note.text or "").strip())):
            return found
    return _proven(_CASES.sub(r"\\begin{cases}\1\\end{cases}", _row(root, 0)))


def latex_of_omml(element: etree._Element) -> str:
    """The LaTeX of an ``oMath`` element."""
    return latex_of_mathml(_math_of(element))


def _proven(latex: str) -> str:
    tidy = re.sub(r"\s+", " ", latex).strip()
    try:
        mathml(tidy, display=False)
    except EquationError:
        return ""
    return tidy


def _row(element: etree._Element, depth: int) -> str:
    parts = [_one(child, depth + 1) for child in element] if depth < _DEEPEST else []
    children = list(element)
    for place in range(len(parts) - 2, 0, -1):
        if parts[place - 1] == "(" and parts[place + 1] == ")" and _is_stacked(children[place]):
            parts[place - 1 : place + 2] = [_binomial(children[place], depth)]
    # A fence without its partner, as before cases, gets one that is not seen.
    opened = 0
    for part in list(parts):
        opened += len(_LEFT.findall(part)) - len(_RIGHT.findall(part))
        if opened < 0:
            parts.insert(0, r"\left.")
            opened = 0
    return _joined([*parts, *[r"\right."] * opened])


def _joined(parts: Sequence[str]) -> str:
    """Parts one after another, with a space where a command would run into a letter."""
    text = ""
    for part in _enclosed(list(filter(None, parts))):
        if _UPRIGHT.fullmatch(part) and re.search(r"\\mathrm\{[A-Za-z]+\}$", text):
            text = text.removesuffix("}") + part.removeprefix(r"\mathrm{")  # One unit of several letters.
            continue
        glued = re.search(r"\\[A-Za-z]+$", text) and part[0].isalpha()
        text += f" {part}" if glued else part
    return text


def _enclosed(parts: list[str]) -> list[str]:
    """The parts with those joined that are one command in LaTeX: a matrix and the brackets round it."""
    place = 0
    while (place := place + 1) < len(parts) - 1:
        around = parts[place - 1] + parts[place + 1]
        matrix = _MATRIX.fullmatch(parts[place])
        if matrix and around in _MATRICES:
            name = _group(_MATRICES[around])
            parts[place - 1 : place + 2] = [rf"\begin{name}{matrix[1]}\end{name}"]
    return parts


def _group(latex: str) -> str:
    return f"{{{latex}}}"


def _base(latex: str) -> str:
    """What a script stands at: in braces unless it is one sign or command."""
    return latex if re.fullmatch(r"\\[A-Za-z]+|\\?.|\d+", latex) else _group(latex)


def _parts(element: etree._Element, depth: int, count: int) -> list[str]:
    found = [_one(child, depth + 1) for child in element if isinstance(child.tag, str)][:count]
    return found + [""] * (count - len(found))


def _one(element: etree._Element, depth: int) -> str:
    name = local(element)
    if depth > _DEEPEST or not name or name in ("annotation", "annotation-xml", "mphantom"):
        return ""
    words = "".join(map(str, element.itertext())).strip()
    match name:
        case "mn":
            return "".join(_sign(each) for each in words)
        case "mi":
            if element.get("mathvariant") == "normal" and len(words) == 1 and words.isascii() and words.isalpha():
                return rf"\mathrm{_group(words)}"
            return _identifier(words)
        case "mo":
            form = element.get("form") if element.get("fence") == "true" and words in _PAIRS else None
            if form in ("prefix", "postfix"):
                return f"\\{'left' if form == 'prefix' else 'right'}{_PAIRS[words]}"
            return f"\\{words} " if words in _FUNCTIONS else _joined([_sign(each) for each in words])
        case "mtext" | "ms":
            plain = re.sub(r"[{}\\$%&#_^~]", " ", words)
            spaces = "".join(_SPACE_SIGNS.get(each, r"\ ") for each in (element.text or "") if not words)
            return rf"\text{_group(plain)}" if words else spaces
        case "mspace":
            return _space(element.get("width") or "")
        case "mfrac" if _is_stacked(element):
            return r"\begin{matrix} " + r" \\ ".join(_parts(element, depth, 2)) + r" \end{matrix}"
        case "msqrt":
            return rf"\sqrt{_group(_row(element, depth))}"
        case "mtable":
            return _table(element, depth)
        case "mfenced":
            return _fenced(element, depth)
    if name in _SHAPES:
        count, shape = _SHAPES[name]
        return shape(_parts(element, depth, count))
    return _row(element, depth)


def _alone(element: etree._Element) -> etree._Element:
    """What stands by itself in a row, or in rows within rows."""
    while local(element) == "mrow" and len(element) == 1:
        element = element[0]
    return element


def _is_stacked(element: etree._Element) -> bool:
    """Whether it is a fraction without a bar."""
    found = _alone(element)
    return local(found) == "mfrac" and bool(re.fullmatch(r"0[a-z%]*", found.get("linethickness") or ""))


def _binomial(element: etree._Element, depth: int) -> str:
    return r"\binom" + "".join(map(_group, _parts(_alone(element), depth, 2)))


def _space(width: str) -> str:
    """The space nearest to a width given in em."""
    match = re.fullmatch(r"(\d*\.?\d+)em", width.strip())
    return min(_SPACES, key=lambda each: abs(_SPACES[each] - float(match[1]))) if match else r"\ "


def _scripted(base: str, below: str, above: str) -> str:
    lowered = f"_{_group(below)}" if below else ""
    raised = f"^{_group(above)}" if above and set(above) != {"'"} else above
    return f"{_base(base.strip()) if base else '{}'}{lowered}{raised}"


def _over(parts: Sequence[str]) -> str:
    base, above = parts
    accent = next((command for sign, command in _ACCENTS.items() if above in (sign, _SIGNS.get(sign))), None)
    if accent:
        return f"{accent}{_group(base)}"
    return _scripted(base, "", above) if _is_large(base) else rf"\overset{_group(above)}{_group(base)}"


def _under(parts: Sequence[str]) -> str:
    base, below = parts
    accent = next((command for sign, command in _BELOW.items() if below in (sign, _SIGNS.get(sign))), None)
    if accent:
        return f"{accent}{_group(base)}"
    return _scripted(base, below, "") if _is_large(base) else rf"\underset{_group(below)}{_group(base)}"


def _under_over(parts: Sequence[str]) -> str:
    return _scripted(*parts) if _is_large(parts[0]) else _over([_under(parts[:2]), parts[2]])


def _is_large(base: str) -> bool:
    return base.strip() in (r"\sum", r"\prod", r"\int", r"\iint", r"\oint", r"\lim", r"\max", r"\min", r"\sup", r"\inf")


_SHAPES: dict[str, tuple[int, Callable[[Sequence[str]], str]]] = {
    "mfrac": (2, lambda parts: rf"\frac{_group(parts[0])}{_group(parts[1])}"),
    "mroot": (2, lambda parts: rf"\sqrt[{parts[1]}]{_group(parts[0])}"),
    "msub": (2, lambda parts: _scripted(parts[0], parts[1], "")),
    "msup": (2, lambda parts: _scripted(parts[0], "", parts[1])),
    "msubsup": (3, lambda parts: _scripted(*parts)),
    "mover": (2, _over),
    "munder": (2, _under),
    "munderover": (3, _under_over),
}


def _sign(character: str) -> str:
    if character in _SIGNS:
        return _SIGNS[character]
    if character in _VARIANTS:
        return _VARIANTS[character]
    name = unicodedata.name(character, "")
    if match := re.fullmatch(r"GREEK (SMALL|CAPITAL) LETTER ([A-Z]+)", name):
        word = match[2].lower().replace("lamda", "lambda")
        if word in _GREEK and (match[1] == "SMALL" or word in _CAPITALS):
            return f"\\{word if match[1] == 'SMALL' else word.capitalize()}"
        return character
    # Mathematical letters (U+1D400 and on) are letters in another face.
    folded = unicodedata.normalize("NFKC", character)
    if ord(character) >= 0x1D400 and len(folded) == 1:
        return folded if folded.isascii() else _sign(folded)
    return "" if character in "\u2061\u2062\u2063\u2064\u200b" else character


def _identifier(words: str) -> str:
    if words in _FUNCTIONS:
        return f"\\{words}"
    if len(words) < 2:
        return "".join(map(_sign, words))
    letters = _joined([_sign(each) for each in words])
    return rf"\mathrm{_group(letters)}" if words.isalpha() and words.isascii() else letters


def _table(element: etree._Element, depth: int) -> str:
    rows = [
        " & ".join(_row(cell, depth + 1) for cell in row if local(cell) == "mtd")
        for row in element
        if local(row) in ("mtr", "mlabeledtr")
    ]
    return r"\begin{matrix} " + r" \\ ".join(rows) + r" \end{matrix}"


def _fenced(element: etree._Element, depth: int) -> str:
    opening = _PAIRS.get(element.get("open", "("), ".")
    closing = _PAIRS.get(element.get("close", ")"), ".")
    if (opening, closing) == ("(", ")") and len(element) == 1 and _is_stacked(element[0]):
        return _binomial(element[0], depth)
    between = _sign((element.get("separators") or ",")[:1])
    inside = between.join(_one(child, depth + 1) for child in element)
    return rf"\left{opening} {inside} \right{closing}"


# Office MathML → MathML


def _math_of(element: etree._Element) -> etree._Element:
    made = etree.Element("math")
    _into(element, made, 0)
    return made


def _into(element: etree._Element | None, made: etree._Element, depth: int) -> None:
    for child in element if element is not None and depth < _DEEPEST else ():
        _office(child, made, depth)


def _of(element: etree._Element, name: str) -> etree._Element | None:
    return next((child for child in element if local(child) == name), None)


def _property(element: etree._Element, name: str) -> str | None:
    """The value of a property, as in ``m:naryPr/m:chr/@m:val``; None where it is not given."""
    for properties in element:
        if local(properties).endswith("Pr") and (found := _of(properties, name)) is not None:
            return next((str(value) for key, value in found.attrib.items() if str(key).endswith("val")), "1")
    return None


def _add(made: etree._Element, name: str, *parts: etree._Element | None, depth: int) -> etree._Element:
    """An element whose children are rows made of these parts."""
    added = etree.SubElement(made, name)
    for part in parts:
        _into(part, etree.SubElement(added, "mrow"), depth + 1)
    return added


def _text(made: etree._Element, name: str, text: str) -> None:
    etree.SubElement(made, name).text = text


_SIMPLE = {
    "sSup": ("msup", "e", "sup"),
    "sSub": ("msub", "e", "sub"),
    "sSubSup": ("msubsup", "e", "sub", "sup"),
    "limLow": ("munder", "e", "lim"),
    "limUpp": ("mover", "e", "lim"),
    "f": ("mfrac", "num", "den"),
}


def _office(element: etree._Element, made: etree._Element, depth: int) -> None:
    name = local(element)
    if name.endswith("Pr"):
        return
    if name == "r":
        _run(element, made)
    elif name in _SIMPLE:
        tag, *parts = _SIMPLE[name]
        added = _add(made, tag, *(_of(element, part) for part in parts), depth=depth)
        if _property(element, "type") == "noBar":
            added.set("linethickness", "0")
    elif name == "rad":
        degree = _of(element, "deg")
        hidden = _property(element, "degHide") not in (None, "0", "off", "false")
        if degree is None or hidden or not len(degree):
            _add(made, "msqrt", _of(element, "e"), depth=depth)
        else:
            _add(made, "mroot", _of(element, "e"), degree, depth=depth)
    elif name == "nary":
        whole = etree.SubElement(made, "munderover")
        _text(whole, "mo", _property(element, "chr") or "∫")
        for part in ("sub", "sup"):
            _into(_of(element, part), etree.SubElement(whole, "mrow"), depth + 1)
        _into(_of(element, "e"), made, depth + 1)
    elif name == "d":
        fenced = etree.SubElement(made, "mfenced")
        for key, end in (("open", "beg"), ("close", "end")):
            given = _property(element, f"{end}Chr")
            fenced.set(key, given if given is not None else {"open": "(", "close": ")"}[key])
        fenced.set("separators", _property(element, "sepChr") or "|")
        for held in element:
            if local(held) == "e":
                _into(held, etree.SubElement(fenced, "mrow"), depth + 1)
    elif name in ("acc", "bar", "groupChr"):
        below = _property(element, "pos") == "bot" or (name == "groupChr" and _property(element, "pos") is None)
        sign = _property(element, "chr") or {"acc": "\u0302", "bar": "_" if below else "‾", "groupChr": "⏟"}[name]
        _text(_add(made, "munder" if below else "mover", _of(element, "e"), depth=depth), "mo", sign)
    elif name == "func":
        _into(_of(element, "fName"), made, depth + 1)
        _into(_of(element, "e"), made, depth + 1)
    elif name in ("m", "eqArr"):
        table = etree.SubElement(made, "mtable")
        for row in element:
            cells = list(row) if local(row) == "mr" else [row] if local(row) == "e" else []
            line = etree.SubElement(table, "mtr") if cells else table
            for each in cells:
                _into(each, etree.SubElement(line, "mtd"), depth + 1)
    else:
        _into(element, made, depth + 1)


def _run(element: etree._Element, made: etree._Element) -> None:
    text = "".join(str(each.text or "") for each in element if local(each) == "t")
    if _property(element, "nor") is not None:
        _text(made, "mtext", text)
        return
    upright = _property(element, "sty") == "p"
    if text.strip() in _FUNCTIONS:
        _text(made, "mi", text.strip())
        return
    for token in re.findall(r"\d+(?:\.\d+)?|\s+|.", text, re.DOTALL):
        if token.isspace():
            continue
        _text(made, "mn" if token[0].isdigit() else "mi" if token.isalpha() else "mo", token)
        if upright and token.isalpha():
            made[-1].set("mathvariant", "normal")

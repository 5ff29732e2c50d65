"""Equations: LaTeX read with care, and MathML made from it.

The conversion is latex2mathml's. It takes much that is wrong without a word, so the LaTeX is read here first: braces,
pairs and arguments are checked, and commands that are unknown, or that would bring styles, links or definitions into
the page, are refused with the place where they stand. What comes out is MathML Core (W3C) without any attribute that
is not on a short list.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from html import escape
from xml.etree import ElementTree

from latex2mathml import commands, symbols_parser
from latex2mathml.converter import convert

from .errors import CoreError
from .kinds.kind import FORBIDDEN

LONGEST = 2000
DEEPEST = 60

_ARGUMENTS = {
    **dict.fromkeys(
        r"\frac \dfrac \tfrac \cfrac \binom \dbinom \tbinom \overset \underset \stackrel".split(),
        2,
    ),
    **dict.fromkeys(
        r"""\sqrt \acute \bar \breve \check \dot \ddot \grave \hat \mathring \overbrace \overbracket \overleftarrow
        \overleftrightarrow \overline \overparen \overrightarrow \tilde \underbar \underbrace \underbracket
        \underleftarrow \underline \underparen \underrightarrow \underleftrightarrow \vec \widecheck \widehat
        \widetilde \xleftarrow \xrightarrow \text \textbf \textit \textrm \textsf \texttt \mathrm \mathbf \mathit
        \mathsf \mathtt \mathbb \mathcal \mathfrak \mathscr \boldsymbol \operatorname \pmod \bmod""".split(),
        1,
    ),
}
_ARGUMENTS[r"\bmod"] = 0
_VERBATIM = frozenset(r"\text \textbf \textit \textrm \textsf \texttt".split())
_PLAIN = frozenset(
    r"""\limits \nolimits \displaystyle \textstyle \scriptstyle \scriptscriptstyle \quad \qquad \, \: \; \! \> \\ \{
    \}
    \% \$ \# \& \_ \| \ldots \cdots \vdots \ddots \dots \prime \int \sum \prod \lim \sup \inf \max \min \argmax \argmin
    \big \Big \bigg \Bigg \bigl \bigr \Bigl \Bigr \biggl \biggr \Biggl \Biggr \middle""".split()
) | {"\\ "}
_ENVIRONMENTS = frozenset(
    "matrix pmatrix bmatrix Bmatrix vmatrix Vmatrix smallmatrix cases align align* aligned array".split()
)
_DELIMITER = re.compile(r"\\[A-Za-z]+|\\[{}|]|[()\[\]|/.<>]")
_TOKEN = re.compile(r"\\[A-Za-z]+\*?|\\.|\s+|.", re.DOTALL)
_ELEMENTS = frozenset(
    """math mrow mi mn mo mtext mspace ms mfrac msqrt mroot mstyle mpadded mphantom msub msup msubsup munder mover
    munderover mtable mtr mtd menclose""".split()
)
_ATTRIBUTES = frozenset(
    """accent accentunder columnalign columnlines columnspacing displaystyle fence form height largeop linethickness
    lspace mathvariant maxsize minsize movablelimits rowlines rowspacing rspace scriptlevel separator stretchy
    symmetric width depth""".split()
)


class EquationError(CoreError):
    """The LaTeX cannot be read. ``place`` is where, in characters from the start."""

    def __init__(self, sentence: str, place: int) -> None:
        self.place = place
        super().__init__(sentence)


@dataclass(frozen=True)
class _Token:
    text: str
    place: int


class _Reader:
    """Goes through the tokens once and raises at the first that cannot stand where it stands."""

    def __init__(self, latex: str) -> None:
        self.latex = latex
        self.tokens = [
            _Token(match.group(), match.start()) for match in _TOKEN.finditer(latex) if not match.group().isspace()
        ]
        self.at = 0

    def read(self) -> None:
        self.until(None, 0, columns=False)

    def peek(self) -> _Token | None:
        return self.tokens[self.at] if self.at < len(self.tokens) else None

    def until(self, end: str | None, depth: int, *, columns: bool, opened: _Token | None = None) -> None:
        """Read up to ``end`` (a brace, a command or None for the end of all)."""
        if depth > DEEPEST:
            raise EquationError("The equation is nested too deep.", opened.place if opened else 0)
        script: str | None = None
        while (token := self.peek()) is not None:
            if token.text == end:
                self.at += 1
                return
            self.at += 1
            if token.text in "^_":
                script = self.script(token, script, depth)
                continue
            if token.text not in (r"\limits", r"\nolimits", "'"):
                script = ""
            self.one(token, depth, columns=columns, end=end)
        if end is not None and opened is not None:
            raise EquationError(f"“{opened.text}” is never closed: “{end}” is missing.", opened.place)

    def script(self, token: _Token, before: str | None, depth: int) -> str:
        """A raised or lowered part, which wants something to stand there; only one of each may follow another."""
        if before and token.text in before:
            word = "raised" if token.text == "^" else "lowered"
            raise EquationError(f"Two {word} parts follow one another; braces say what belongs together.", token.place)
        self.argument(token, depth)
        return (before or "") + token.text

    def argument(self, owner: _Token, depth: int) -> None:
        token = self.peek()
        if token is None or token.text in ("}", "&", r"\\", r"\right", r"\end", "^", "_"):
            place = token.place if token else len(self.latex)
            raise EquationError(f"Something is missing after “{owner.text}”.", place)
        self.at += 1
        self.one(token, depth + 1, columns=False, end=None)

    def one(self, token: _Token, depth: int, *, columns: bool, end: str | None) -> None:
        text = token.text
        if text == "{":
            self.until("}", depth + 1, columns=False, opened=token)
        elif text == "}":
            raise EquationError("This brace closes nothing.", token.place)
        elif text == "&" and not columns:
            raise EquationError(
                "“&” parts columns, but there are none here; a plain one is written “\\&”.", token.place
            )
        elif text in ("$", "#", "%", "~"):
            raise EquationError(f"“{text}” cannot stand in an equation.", token.place)
        elif text == r"\left":
            self.delimiter(token)
            self.until(r"\right", depth + 1, columns=False, opened=token)
            self.delimiter(token)
        elif text == r"\begin":
            self.environment(token, depth)
        elif text in (r"\right", r"\end"):
            raise EquationError(f"“{text}” has no partner before it.", token.place)
        elif text.startswith("\\"):
            self.command(token, depth)

    def delimiter(self, owner: _Token) -> None:
        token = self.peek()
        if token is None or not _DELIMITER.fullmatch(token.text):
            place = token.place if token else len(self.latex)
            raise EquationError("A bracket must follow here, or a full stop for none.", place)
        self.at += 1

    def name(self, owner: _Token) -> str:
        match = re.compile(r"\s*\{([A-Za-z*]*)\}").match(self.latex, owner.place + len(owner.text))
        if not match:
            raise EquationError(f"A name in braces is missing after “{owner.text}”.", owner.place + len(owner.text))
        while (token := self.peek()) and token.place < match.end():
            self.at += 1
        return match[1]

    def environment(self, token: _Token, depth: int) -> None:
        name = self.name(token)
        if name not in _ENVIRONMENTS:
            raise EquationError(f"There is no environment “{name}” here.", token.place)
        if name == "array":
            following = self.peek()
            if following is None or not re.compile(r"\{[lcr|\s]+\}").match(self.latex, following.place):
                raise EquationError("Say how the columns stand, as in {lcr}.", token.place)
            self.at += 1
            self.until("}", depth + 1, columns=False, opened=following)
        self.until(r"\end", depth + 1, columns=True, opened=token)
        closing = self.tokens[self.at - 1]
        if self.name(closing) != name:
            raise EquationError(f"“\\begin{{{name}}}” is closed by another name.", closing.place)

    def command(self, token: _Token, depth: int) -> None:
        text = token.text
        if text in _VERBATIM:
            match = re.compile(r"\s*\{[^{}\\$#%&]*\}").match(self.latex, token.place + len(text))
            if not match:
                raise EquationError(f"Plain words in braces must follow “{text}”.", token.place)
            while (following := self.peek()) and following.place < match.end():
                self.at += 1
            return
        if text not in _ARGUMENTS and text not in _PLAIN and not _is_sign(text):
            raise EquationError(f"The command “{text}” is not known.", token.place)
        following = self.peek()
        if text == r"\sqrt" and following and following.text == "[":
            self.at += 1
            self.until("]", depth + 1, columns=False, opened=following)
        for _ in range(_ARGUMENTS.get(text, 0)):
            self.argument(token, depth)


def _is_sign(command: str) -> bool:
    """Whether the command is a sign (a letter, an operator, an arrow), or the name of a function such as sine."""
    return command in commands.FUNCTIONS or symbols_parser.convert_symbol(command) is not None


def check_equation(latex: str) -> None:
    """Raise `EquationError` where ``latex`` cannot be read."""
    if not latex.strip():
        raise EquationError("The equation is empty.", 0)
    if control := re.search(FORBIDDEN, latex):
        raise EquationError("A control character cannot stand in an equation.", control.start())
    if len(latex) > LONGEST:
        raise EquationError(f"The equation is longer than {LONGEST} characters.", LONGEST)
    _Reader(latex).read()


@lru_cache(maxsize=2048)
def mathml(latex: str, *, display: bool) -> str:
    """The ``math`` element of an equation; ``display`` for one on a line of its own.

    The LaTeX goes along as an annotation (MathML 4, 6.8), so that it can be read back.

    Raises:
        EquationError: with the place, when the LaTeX cannot be read.
    """
    check_equation(latex)
    try:
        plain = _letter_by_letter(latex)
        made = ElementTree.fromstring(_escaped(convert(plain, display="block" if display else "inline")))  # noqa: S314
    except Exception as error:  # The library has no base class for its errors.
        raise EquationError("This equation cannot be shown.", 0) from error
    inside = "".join(_written(made))
    annotation = f'<annotation encoding="application/x-tex">{escape(latex, quote=False)}</annotation>'
    kind = ' display="block"' if display else ""
    return f"<math{kind}><semantics>{inside}{annotation}</semantics></math>"


def _letter_by_letter(latex: str) -> str:
    """The library sets one upright letter aslant, and several letters of another face by an attribute that MathML Core
    (W3C, 3.2.2) does not have; a single letter of another face is a sign of its own."""
    upright = re.sub(r"\\mathrm\s*\{\s*([A-Za-z])\s*\}", r"\\mathrm{{\1}}", latex)
    return _OTHER_FACE.sub(
        lambda match: "{" + "".join(f"{match[1]}{{{each}}}" for each in match[2]) + "}",
        upright,
    )


_OTHER_FACE = re.compile(r"(\\math(?:bf|bb|cal|frak|scr|sf|tt|it))\s*\{([A-Za-z]{2,})\}")


def _escaped(xml: str) -> str:
    """The library leaves a bare “&” as it is."""
    return re.sub(r"&(?!#x?[0-9A-Fa-f]+;|[a-z]+;)", "&amp;", xml)


def _written(node: ElementTree.Element) -> Iterator[str]:
    """The inside of ``math``: known elements with known attributes, everything else looked through."""
    for child in node:
        tag = child.tag.rpartition("}")[2]
        text = escape(child.text or "", quote=False)
        if tag in _ELEMENTS:
            attributes = "".join(
                f' {name}="{escape(value)}"' for name, value in child.attrib.items() if name in _ATTRIBUTES
            )
            yield f"<{tag}{attributes}>{text}{''.join(_written(child))}</{tag}>"
        else:
            yield text + "".join(_written(child))


def equation_html(latex: str, *, display: bool) -> str:
    """The ``math`` element, or the LaTeX as code where it cannot be read: a reader never meets a gap."""
    try:
        return mathml(latex, display=display)
    except EquationError:
        return f"<code>{escape(latex, quote=False)}</code>"

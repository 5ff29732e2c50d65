"""Equations: MathML, LaTeX that goes along with it, and LaTeX that stands in the page for a script to set."""

from __future__ import annotations

import re
from typing import TYPE_CHECKING

from selectolax.lexbor import LexborNode

from ...document.node import Node, make
from ...document.schema import SCHEMA
from ...equations import EquationError, check_equation
from ..mathml import latex_of
from ..text import clean
from .tree import SPACE, Attributes
from .words import Marks

if TYPE_CHECKING:
    from .blocks import Blocks

_TYPED_EQUATION = re.compile(
    r"\s*(?:\\\((?P<line>.+?)\\\)|\\\[(?P<block>.+?)\\\]|\$\$(?P<dollars>.+?)\$\$"
    r"|\\begin\{(?:equation|displaymath)\*?\}(?P<named>.+?)\\end\{(?:equation|displaymath)\*?\})\s*",
    re.DOTALL,
)
_OF_EQUATIONS = frozenset("math mathjax arithmatex katex tex".split())


def equation(into: Blocks, node: LexborNode, tag: str, marks: Marks) -> None:
    """An equation by its LaTeX: written in an attribute, going along as an annotation (MathML 4, 6.8), or worked
    out from its MathML."""
    note = node.css_first('annotation[encoding="application/x-tex"]') if tag == "math" else None
    latex = clean((note.text() if note else node.attributes.get("data-latex")) or "")
    if tag == "math" and not note:
        latex = latex_of(node.html or "")
    if not into.reader.exact:
        latex = re.sub(r"  +", " ", latex.strip())
    if not latex or SCHEMA.nodes["formula"].attributes["latex"].problem(latex):
        into.words.text(node.text(), marks)
    else:
        set_equation(into, latex, marks, alone=tag == "div" or node.attributes.get("display") == "block")


def set_equation(into: Blocks, latex: str, marks: Marks, *, alone: bool) -> None:
    """An equation in its line, or on one of its own."""
    if alone:
        into.end_words()
        into.pieces.append(make("equation", latex=latex))
    else:
        into.words.node(Node("formula", {"latex": latex}, (), marks))


def typed_equation(node: LexborNode, tag: str, attributes: Attributes) -> tuple[str, bool] | None:
    """The LaTeX of an equation that stands in the page for a script to set, if we can read it; and whether it stands
    on a line of its own."""
    named = (attributes.get("class") or "").lower().split() if attributes else []
    if tag not in ("span", "div") or not _OF_EQUATIONS.intersection(named):
        return None
    match = _TYPED_EQUATION.fullmatch((node.text() or "")[:4000])
    if match is None:
        return None
    latex = clean(SPACE.sub(" ", str(match[match.lastgroup or 0]))).strip()
    if SCHEMA.nodes["formula"].attributes["latex"].problem(latex):
        return None
    try:
        check_equation(latex)
    except EquationError:
        return None
    return latex, match.lastgroup != "line"

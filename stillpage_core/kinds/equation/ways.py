"""How equations go out; they come in by way of `reading.html.equations`, since other people's pages have them in many
forms."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ...document.node import Node
from ...equations import equation_html
from ...writing.html import attribute
from ...writing.omml import omml
from ..ways import Ways

if TYPE_CHECKING:
    from ...writing.docx import Writer as Docx
    from ...writing.html import Published, Storable
    from ...writing.odt import Writer as Odt


def _latex(node: Node) -> str:
    return str(node.attrs["latex"])


def _storable(_: Storable, node: Node) -> str:
    return f'<div class="equation"{attribute("data-latex", _latex(node))}></div>'


def _published(_: Published, node: Node) -> str:
    region = ' role="group" aria-label="Equation" tabindex="0"'
    return f'<div class="equation"{region}>{equation_html(_latex(node), display=True)}</div>'


def _docx(writer: Docx, node: Node, style: str) -> str:
    return writer.paragraph(style, f"<m:oMathPara>{omml(_latex(node))}</m:oMathPara>")


def _odt(writer: Odt, node: Node, style: str) -> str:
    return writer.paragraph(style, writer.formula(_latex(node)))


WAYS = {
    "equation": Ways(
        storable=_storable,
        published=_published,
        markdown=lambda _, node: f"$$\n{_latex(node)}\n$$",
        text=lambda _, node: _latex(node),
        docx=_docx,
        odt=_odt,
        words=_latex,
    ),
    "formula": Ways(
        storable=lambda _, node: f'<span class="formula"{attribute("data-latex", _latex(node))}></span>',
        published=lambda _, node: f'<span class="formula">{equation_html(_latex(node), display=False)}</span>',
        docx=lambda _, node, __: omml(_latex(node)),
        odt=lambda writer, node, _: writer.formula(_latex(node)),
        words=_latex,
    ),
}

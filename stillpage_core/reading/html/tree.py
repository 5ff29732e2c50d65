"""The tree of a piece of HTML as the parser gives it: its nodes, and white space as HTML counts it."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping

from selectolax.lexbor import LexborNode

from ...document.schema import SCHEMA

LEFT_OUT = {
    "script": ("A script was left out", "{} scripts were left out"),
    "iframe": ("A framed page was left out", "{} framed pages were left out"),
    "frame": ("A framed page was left out", "{} framed pages were left out"),
    "video": ("A video was left out", "{} videos were left out"),
    "audio": ("A sound was left out", "{} sounds were left out"),
    "svg": ("A drawing (SVG) was left out", "{} drawings (SVG) were left out"),
    "canvas": ("A drawing was left out", "{} drawings were left out"),
    "object": ("An embedded object was left out", "{} embedded objects were left out"),
    "embed": ("An embedded object was left out", "{} embedded objects were left out"),
    "select": ("A field to fill in was left out", "{} fields to fill in were left out"),
    "input": ("A field to fill in was left out", "{} fields to fill in were left out"),
}

UNSEEN = frozenset(
    "head title style template noscript meta link base datalist param source track rp area col colgroup".split()
) | set(LEFT_OUT)

BLOCKS = frozenset(
    """address article aside blockquote body caption center dd details dialog dir div dl dt fieldset figcaption figure
    footer form frameset h1 h2 h3 h4 h5 h6 header hgroup hr html legend li listing main menu nav ol optgroup option p
    plaintext pre search section summary table tbody td tfoot th thead tr ul xmp""".split()
)

INLINE = frozenset(
    """a abbr acronym applet b bdi bdo big blink button cite code data del dfn em fieldset font form i image ins kbd
    label map mark marquee math meter nobr optgroup output picture progress q rb rt rtc ruby s samp slot small span
    strike strong sub sup textarea time tt u var wbr br img""".split()
)
_FOREIGN = frozenset(
    """math mi mn mo mtext mspace ms mrow mfrac msqrt mroot mstyle merror mpadded mphantom msub msup msubsup munder
    mover munderover mmultiscripts mprescripts mtable mtr mtd maction semantics annotation none svg g defs path rect
    circle ellipse line polyline polygon text tspan use symbol desc""".split()
)
KNOWN = UNSEEN | BLOCKS | INLINE | _FOREIGN
"""The elements of HTML, those it had before too (HTML Living Standard, 4 and 16.2); MathML's and SVG's."""

WHITE = " \t\n\r\f"
SPACE = re.compile(r"[ \t\n\r\f]+")
_LINE_END = re.compile(r"[\t\n\r\f]")

Attributes = Mapping[str, str | None]


def children_of(node: LexborNode) -> Iterator[LexborNode]:
    """The children of a node, text and comments too."""
    child = node.child
    while child is not None:
        yield child
        child = child.next


def is_white_alone(node: LexborNode) -> bool:
    """Whether this is white space, and the last that stands there."""
    return node.next is None and node.tag == "-text" and not (node.text_content or "").strip(WHITE)


def spaced(text: str, *, exact: bool) -> str:
    """The text with white space as HTML counts it: one space. In the storable form only a line end makes it so."""
    if text.isprintable() and "  " not in text:
        return text
    if not exact:
        return SPACE.sub(" ", text)
    if not _LINE_END.search(text):
        return text
    return SPACE.sub(lambda match: " " if _LINE_END.search(match[0]) else match[0], text)


def value_of(attributes: Attributes, kind: str, name: str) -> object:
    """An attribute as the storable form writes it (``data-`` and the name), or its default where there is none that
    may stand."""
    attribute = SCHEMA.nodes[kind].attributes[name]
    given = attributes.get(f"data-{name}")
    return attribute.default if given is None or attribute.problem(given) else given

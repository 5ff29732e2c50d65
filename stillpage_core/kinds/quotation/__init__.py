"""Words of somebody else, and where they come from."""

from ..kind import Element, NodeKind
from ..parts import PARTS

NODES = (
    NodeKind(
        "quotation",
        "words of somebody else, and where they come from",
        content="quotation_words quotation_source?",
        group="block",
        element=Element("figure", css_class="quotation"),
        defining=True,
    ),
    NodeKind("quotation_words", "what is quoted", content=f"({PARTS})+", element=Element("blockquote")),
    NodeKind(
        "quotation_source",
        "who said it, and where",
        content="inline*",
        element=Element("figcaption"),
        marks=True,
        defining=True,
    ),
)

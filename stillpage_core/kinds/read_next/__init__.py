"""Pages to read next, chosen by hand, with a line on why."""

from ... import references
from ..kind import Attribute, NodeKind

NODES = (
    NodeKind(
        "read_next",
        "pages to read next, as a list. title stands above it, None for the usual one",
        content="further*",
        group="block",
        attributes={"title": Attribute("string", default=None, nullable=True, minimum=1, maximum=200)},
    ),
    NodeKind(
        "further",
        "one of them. words are those of its link, None the title of the page; why stands below it",
        attributes={
            "href": Attribute(
                "string", default=None, nullable=True, minimum=1, maximum=references.LONGEST, pattern=references.PATTERN
            ),
            "words": Attribute("string", default=None, nullable=True, minimum=1, maximum=300),
            "why": Attribute("string", default=None, nullable=True, minimum=1, maximum=300),
        },
    ),
)
TITLE = "Read next"
"""What stands above the list where nothing else is said."""

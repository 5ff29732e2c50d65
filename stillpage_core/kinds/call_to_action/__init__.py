"""What the reader should do next: a link that stands out."""

from ... import references
from ..kind import Attribute, NodeKind

NODES = (
    NodeKind(
        "call_to_action",
        "what the reader should do next: a link that stands out. href is None until it is chosen",
        content="text*",
        group="block",
        attributes={
            "href": Attribute(
                "string", default=None, nullable=True, minimum=1, maximum=references.LONGEST, pattern=references.PATTERN
            ),
            "emphasis": Attribute("string", default="main", pattern="main|quiet"),
        },
        defining=True,
    ),
)

"""A post of a network, kept as text so that it stays when the network goes."""

from ..kind import Attribute, NodeKind

NODES = (
    NodeKind(
        "post",
        "a post of a network, an item of the media library: its words with who wrote it, when, and where it is. "
        "pictures are the numbers of its pictures in the library, with a blank between; caption stands below it",
        group="block",
        attributes={
            "item": Attribute("integer", minimum=1, maximum=10**15 - 1),
            "pictures": Attribute(
                "string",
                default=None,
                nullable=True,
                minimum=1,
                maximum=80,
                pattern="[1-9][0-9]{0,14}( [1-9][0-9]{0,14}){0,3}",
            ),
            "caption": Attribute("string", default=None, nullable=True, minimum=1, maximum=1000),
        },
    ),
)

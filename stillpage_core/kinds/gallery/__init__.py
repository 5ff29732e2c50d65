"""Many pictures of the media library side by side."""

from ..kind import Attribute, NodeKind

NODES = (
    NodeKind(
        "gallery",
        "many pictures side by side, each of which can be seen large. form says how: even tiles, all of the proportion "
        "ratio, or a wall whose rows are of one height; size says how large; title stands above",
        content="picture*",
        group="block",
        attributes={
            "title": Attribute("string", default=None, nullable=True, minimum=1, maximum=200),
            "form": Attribute("string", default="tiles", pattern="tiles|wall"),
            "size": Attribute("string", default="medium", pattern="small|medium|large"),
            "ratio": Attribute("string", default="1:1", pattern="[1-9][0-9]?:[1-9][0-9]?"),
        },
    ),
)

SETTING = ("form", "size", "ratio")
"""The attributes that the storable form writes as ``data-NAME``, where they are not as at first."""

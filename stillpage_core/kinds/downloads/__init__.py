"""Documents of the media library as a titled list to be taken away."""

from ..kind import Attribute, NodeKind

NODES = (
    NodeKind(
        "downloads",
        "documents of the media library as a list, with what each is. title stands above it; new_window opens them in "
        "a window of its own, and says so",
        content="download*",
        group="block",
        attributes={
            "title": Attribute("string", default=None, nullable=True, minimum=1, maximum=200),
            "new_window": Attribute("boolean", default=False),
        },
    ),
    NodeKind(
        "download",
        "one document of such a list. words are those of its link, None the item's title; description stands below",
        attributes={
            "item": Attribute("integer", minimum=1, maximum=10**15 - 1),
            "words": Attribute("string", default=None, nullable=True, minimum=1, maximum=300),
            "description": Attribute("string", default=None, nullable=True, minimum=1, maximum=1000),
        },
    ),
)

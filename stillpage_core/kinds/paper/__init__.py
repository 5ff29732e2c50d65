"""A document of the media library that is shown in the page."""

from ..kind import Attribute, NodeKind

MOST = 40
"""How many pages of a document are shown in a page at most."""

NODES = (
    NodeKind(
        "paper",
        f"a document of the media library, its pages shown as pictures with their words: from first to last (None the "
        f"last there is; {MOST} at most), one below the other, or turned one after another",
        group="block",
        attributes={
            "item": Attribute("integer", minimum=1, maximum=10**15 - 1),
            "caption": Attribute("string", default=None, nullable=True, minimum=1, maximum=1000),
            "first": Attribute("integer", default=1, minimum=1, maximum=9999),
            "last": Attribute("integer", default=None, nullable=True, minimum=1, maximum=9999),
            "turned": Attribute("boolean", default=False),
        },
    ),
)

SETTING = ("first", "last", "turned")
"""The attributes that the storable form writes as ``data-NAME``."""

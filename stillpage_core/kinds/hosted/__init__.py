"""Films that stand at another host, and play on the page from there once a reader presses for it."""

from ..film import STANDING
from ..kind import Attribute, NodeKind

SETTING = (*STANDING, "cover", "start", "captions", "muted", "loop")
"""The attributes that the storable form writes as ``data-NAME``."""
OPTIONS = ("start", "captions", "muted", "loop")
"""The attributes that the host's player is told, if it honours them (`media.hosting.hosts.OPTIONS`)."""

NODES = (
    NodeKind(
        "hosted",
        "a film at another host, an item of the media library. Its frame is asked for once a reader presses. width, "
        "place, space and border as of a film; cover is a picture of the library, None the one that the host has. "
        "start is in seconds; it, captions, muted and loop are for players that honour them",
        group="block",
        attributes={
            "item": Attribute("integer", minimum=1, maximum=10**15 - 1),
            "caption": Attribute("string", default=None, nullable=True, minimum=1, maximum=1000),
            "width": Attribute("integer", default=None, nullable=True, minimum=16, maximum=4000),
            "place": Attribute("string", default=None, nullable=True, pattern="start|end|centre|wide"),
            "space": Attribute("string", default=None, nullable=True, pattern="none|little|much"),
            "border": Attribute("string", default=None, nullable=True, pattern="line|frame"),
            "cover": Attribute("string", default=None, nullable=True, pattern="item-[1-9][0-9]{0,14}"),
            "start": Attribute("integer", default=None, nullable=True, minimum=1, maximum=99999),
            "captions": Attribute("boolean", default=False),
            "muted": Attribute("boolean", default=False),
            "loop": Attribute("boolean", default=False),
        },
    ),
)

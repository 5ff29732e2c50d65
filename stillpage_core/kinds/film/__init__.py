"""Films and sounds of the media library."""

from ..kind import Attribute, NodeKind

_ITEM = Attribute("integer", minimum=1, maximum=10**15 - 1)
_CAPTION = Attribute("string", default=None, nullable=True, minimum=1, maximum=1000)
_TRANSCRIPT = Attribute("string", default=None, nullable=True, pattern="below|folded")

STANDING = ("width", "place", "space", "border")
"""The attributes that say how a film stands; a picture has the same."""
SETTING = {"film": (*STANDING, "cover", "transcript"), "sound": ("transcript",)}
"""The attributes that the storable form writes as ``data-NAME``."""
PLAYED = {"film": ("loop", "autoplay"), "sound": ("loop",)}
"""The attributes that stand at the player itself."""

NODES = (
    NodeKind(
        "film",
        "a film of the media library. width is in CSS pixels, None as wide as its place. cover is the picture before "
        "it plays: a still after that part of the film (in percent) or at a moment (in milliseconds), or a picture of "
        "the library; None is the first still. autoplay is always without sound, and never for who wants things to "
        "stand still. transcript: all of it below, or behind a press; None for none",
        group="block",
        attributes={
            "item": _ITEM,
            "caption": _CAPTION,
            "width": Attribute("integer", default=None, nullable=True, minimum=16, maximum=4000),
            "place": Attribute("string", default=None, nullable=True, pattern="start|end|centre|wide"),
            "space": Attribute("string", default=None, nullable=True, pattern="none|little|much"),
            "border": Attribute("string", default=None, nullable=True, pattern="line|frame"),
            "cover": Attribute(
                "string",
                default=None,
                nullable=True,
                pattern="still-(?:10|50|90)|at-(?:0|[1-9][0-9]{0,7})|item-[1-9][0-9]{0,14}",
            ),
            "transcript": _TRANSCRIPT,
            "loop": Attribute("boolean", default=False),
            "autoplay": Attribute("boolean", default=False),
        },
    ),
    NodeKind(
        "sound",
        "a sound of the media library. Its caption is the item's title where none is given; transcript as of a film",
        group="block",
        attributes={
            "item": _ITEM,
            "caption": _CAPTION,
            "transcript": _TRANSCRIPT,
            "loop": Attribute("boolean", default=False),
        },
    ),
)

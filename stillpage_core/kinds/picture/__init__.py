"""A picture of the media library."""

from ...media.editing import EDITS, STEEPEST
from ..kind import Attribute, NodeKind

_PLACE = "(?:0|[1-9][0-9]{0,3}|10000)"
_SIDE = "(?:[1-9][0-9]{0,3}|10000)"
STANDING = ("width", "place", "space", "border")
"""The attributes that say how a picture stands."""
SETTING = (*STANDING, *EDITS)
"""The attributes that say how a picture stands, and what is made of the original; the storable form writes each as
``data-NAME``. On the live page the theme asks for the standing only."""

NODES = (
    NodeKind(
        "picture",
        "a picture of the media library. alt is None where the item's own alt text serves; caption stands below it. "
        "width is in CSS pixels, None as wide as its place; turn (quarter turns), straighten (tenths of a degree), "
        "crop (x,y,width,height), ratio and focus (x,y) say what is made of the original, in ten-thousandths of its "
        "sides; None leaves it to the item (media/editing.py)",
        group="block",
        attributes={
            "item": Attribute("integer", minimum=1, maximum=10**15 - 1),
            "alt": Attribute("string", default=None, nullable=True, minimum=1, maximum=1000),
            "decorative": Attribute("boolean", default=False),
            "caption": Attribute("string", default=None, nullable=True, minimum=1, maximum=1000),
            "width": Attribute("integer", default=None, nullable=True, minimum=16, maximum=4000),
            "place": Attribute("string", default=None, nullable=True, pattern="start|end|centre|wide"),
            "space": Attribute("string", default=None, nullable=True, pattern="none|little|much"),
            "border": Attribute("string", default=None, nullable=True, pattern="line|frame"),
            "turn": Attribute("integer", default=None, nullable=True, minimum=0, maximum=3),
            "straighten": Attribute("integer", default=None, nullable=True, minimum=-STEEPEST, maximum=STEEPEST),
            "crop": Attribute("string", default=None, nullable=True, pattern=rf"{_PLACE},{_PLACE},{_SIDE},{_SIDE}"),
            "ratio": Attribute("string", default=None, nullable=True, pattern="[1-9][0-9]?:[1-9][0-9]?"),
            "focus": Attribute("string", default=None, nullable=True, pattern=f"{_PLACE},{_PLACE}"),
        },
    ),
)

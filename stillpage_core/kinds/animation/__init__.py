"""An animation drawn of lines (Lottie), an item of the media library."""

from ..film import STANDING
from ..kind import Attribute, NodeKind

_PAIR = "[0-9a-f]{6}-[0-9a-f]{6}"

NODES = (
    NodeKind(
        "animation",
        "an animation drawn of lines. alt is what it shows, None where the item’s own serves; speed is in percent of "
        "its own; times says how often it plays, None again and again; start says what sets it going: being seen, the "
        "pointer over it, or a press; delay, in milliseconds, is before that. colours are pairs “from-to” of six "
        "hexadecimal digits each, for this use. width, place, space and border as of a film",
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
            "speed": Attribute("integer", default=100, minimum=10, maximum=400),
            "times": Attribute("integer", default=None, nullable=True, minimum=1, maximum=100),
            "start": Attribute("string", default="view", pattern="view|hover|press"),
            "delay": Attribute("integer", default=0, minimum=0, maximum=60_000),
            "colours": Attribute(
                "string", default=None, nullable=True, minimum=13, maximum=1000, pattern=f"{_PAIR}( {_PAIR})*"
            ),
        },
    ),
)

SETTING = (*STANDING, "speed", "times", "start", "delay", "colours")
"""The attributes that the storable form writes as ``data-NAME``."""

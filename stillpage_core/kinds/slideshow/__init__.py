"""Pictures of one proportion, one after another, with a few words on each."""

from ... import references
from ..kind import Attribute, NodeKind

NODES = (
    NodeKind(
        "slideshow",
        "pictures of one proportion (ratio), one after another. name is what it is called for who does not see it. "
        "Each stays for so many milliseconds and changes in so many; they move by themselves only where moves says so, "
        "and stop when told. words says where those of a slide stand: below its picture, or over it",
        content="slide*",
        group="block",
        attributes={
            "name": Attribute("string", default=None, nullable=True, minimum=1, maximum=200),
            "ratio": Attribute("string", default="3:2", pattern="[1-9][0-9]?:[1-9][0-9]?"),
            "place": Attribute("string", default=None, nullable=True, pattern="wide"),
            "words": Attribute("string", default="below", pattern="below|over"),
            "moves": Attribute("boolean", default=True),
            "stay": Attribute("integer", default=6000, minimum=2000, maximum=60_000),
            "change": Attribute("integer", default=900, minimum=0, maximum=5000),
        },
    ),
    NodeKind(
        "slide",
        "one picture of a slideshow. heading and words are its two lines; href is where it leads, None nowhere",
        content="picture?",
        attributes={
            "heading": Attribute("string", default=None, nullable=True, minimum=1, maximum=200),
            "words": Attribute("string", default=None, nullable=True, minimum=1, maximum=500),
            "href": Attribute(
                "string", default=None, nullable=True, minimum=1, maximum=references.LONGEST, pattern=references.PATTERN
            ),
        },
    ),
)

SETTING = ("ratio", "place", "words", "moves", "stay", "change")
"""The attributes that the storable form writes as ``data-NAME``."""
LONGEST_HEADING = 60
LONGEST_WORDS = 90
"""Letters that fit in two lines of a heading, and in two of words, on a phone (common practice: about 30 and 45 to a
line of 340 px)."""

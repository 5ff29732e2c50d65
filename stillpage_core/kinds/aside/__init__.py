"""Something beside the text: a note, a tip or a warning."""

from ..kind import Attribute, NodeKind
from ..parts import PARTS

LABELS = {"note": "Note", "tip": "Tip", "warning": "Warning"}
"""What stands at the head of an aside."""

NODES = (
    NodeKind(
        "aside",
        "something beside the text: a note, a tip or a warning",
        content=f"({PARTS} | equation)+",
        group="block",
        attributes={"sort": Attribute("string", default="note", pattern="note|tip|warning")},
        defining=True,
    ),
)

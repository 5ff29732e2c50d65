"""An equation, on a line of its own or within one."""

from ..kind import Attribute, NodeKind

_LATEX = Attribute("string", minimum=1, maximum=2000)

NODES = (
    NodeKind("equation", "an equation on a line of its own", group="block", attributes={"latex": _LATEX}),
    NodeKind(
        "formula", "an equation within a line", group="inline", inline=True, marks=True, attributes={"latex": _LATEX}
    ),
)

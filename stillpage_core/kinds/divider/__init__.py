"""A change of subject, shown as a line."""

from ..kind import Element, NodeKind

NODES = (NodeKind("divider", "a change of subject, shown as a line", group="block", element=Element("hr")),)

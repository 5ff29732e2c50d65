"""An equation that cannot be read, so that readers would get its LaTeX. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ..document.node import Node
from ..document.walking import walk
from ..equations import EquationError, check_equation
from ..resolving import Resolver
from .finding import Finding


def check(document: Node, resolver: Resolver) -> Iterator[Finding]:
    for path, node in walk(document):
        if node.kind not in ("equation", "formula"):
            continue
        try:
            check_equation(node.attrs["latex"])
        except EquationError as error:
            yield Finding(
                "equation-unreadable",
                f"The equation “{node.attrs['latex'][:60]}” cannot be read: {error}",
                "Readers would get the LaTeX as it was typed.",
                "Common practice",
                "blocks",
                path,
            )

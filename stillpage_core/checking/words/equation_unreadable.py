"""An equation that cannot be read, so that readers would get its LaTeX. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...equations import EquationError, check_equation
from ..finding import CheckRule, Finding
from ..subject import Subject
from ..wording import said

RULE = CheckRule(
    id="equation-unreadable",
    title="An equation that cannot be read",
    whom="Readers would get the LaTeX as it was typed.",
    source="Common practice",
    severity="blocks",
    means="The equation is written in LaTeX, and something in it is not closed or not known.",
    right="Select the equation: its particulars say where the fault is.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("equation", "formula"):
        latex = placed.node.attrs["latex"]
        try:
            check_equation(latex)
        except EquationError as error:
            yield RULE.finding(f"The equation {said(latex)} cannot be read: {error}", placed.path)

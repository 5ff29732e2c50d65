"""MathML → LaTeX."""


def latex_of(html: str) -> str:
    """placeholder"""
    return ""

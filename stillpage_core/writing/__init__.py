"""Documents going out: HTML (``html.py``), a whole public page (``page.py``), Markdown, plain text."""

from .html import published_html, storable_html
from .markdown import markdown
from .page import Link, PageParts, Site, ThemeFiles, render_around, render_page
from .policy import policy_of
from .text import plain_text

__all__ = [
    "Link",
    "PageParts",
    "Site",
    "ThemeFiles",
    "markdown",
    "plain_text",
    "policy_of",
    "published_html",
    "render_around",
    "render_page",
    "storable_html",
]

"""Documents coming in: HTML (``html.py``), Markdown, plain text. Each reader returns a `Reading`."""

from .html import read_html
from .markdown import read_markdown
from .reading import Reading
from .text import read_text

__all__ = ["Reading", "read_html", "read_markdown", "read_text"]

"""Documents coming in: HTML (``html.py``), Markdown, plain text. Each reader returns a `Reading`."""

from .html import read_html
from .markdown import read_markdown
from .reading import Arriving, Message, Picture, Reading, with_pages, with_pictures
from .text import read_plain, read_text

__all__ = [
    "Arriving",
    "Message",
    "Picture",
    "Reading",
    "read_html",
    "read_markdown",
    "read_plain",
    "read_text",
    "with_pages",
    "with_pictures",
]

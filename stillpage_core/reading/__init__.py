"""Documents coming in: HTML, Markdown, plain text, DOCX, ODT. Each reader returns a `Reading`."""

from .html import read_html
from .markdown import looks_like_markdown, read_markdown
from .reading import Arriving, Message, Picture, Reading, named_items, with_fresh_anchors, with_pages, with_pictures
from .text import read_plain, read_text

__all__ = [
    "Arriving",
    "Message",
    "Picture",
    "Reading",
    "looks_like_markdown",
    "named_items",
    "read_html",
    "read_markdown",
    "read_plain",
    "read_text",
    "with_fresh_anchors",
    "with_pages",
    "with_pictures",
]

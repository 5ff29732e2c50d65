"""The kinds of node that are more than one HTML element: a folder for each, with all that belongs to it.

- ``__init__.py`` of a folder: ``NODES``, the kind in the schema (attributes, what it holds)
- ``ways.py`` of a folder: ``WAYS``, how such nodes go out into each format and come in, and whom they name

What kinds, attributes and elements are, says ``kind.py``; what ways there are, ``ways.py``. The kinds that a document
stands on (paragraphs, headings, lists, tables, preformatted text) are laid down in `document.schema`.

To add a kind, make a folder and add its name to `KINDS`: `docs/document.md` says it in ten lines.
"""

KINDS = (
    "quotation",
    "aside",
    "divider",
    "picture",
    "equation",
    "call_to_action",
    "film",
    "hosted",
    "downloads",
    "gallery",
    "slideshow",
    "paper",
    "animation",
    "post",
    "read_next",
)
"""The folders, in the order in which the schema has the kinds: the order of menus and of the generated files."""

"""HTML → document.

HTML in the storable form (`writing.html`) gives exactly the document it was written from. Any other HTML, from a word
processor's clipboard to a page of div and span, is read for its structure: what the schema has no kind for is looked
through, and its words stay. What was only painted to look like structure is mended afterwards (`mending`).

Files in reading order:

- ``page.py``: a page, or a part of one, as blocks
- ``nesting.py``: what a piece asks of whoever builds its tree
- ``reader.py``: what holds for the whole of it; ``fragments.py``: what its links lead to
- ``styles.py``: what its styles say of the meaning of words
- ``blocks.py``: what stands in one container, element by element; ``words.py``: the words of one block
- ``textblocks.py``, ``holders.py``, ``lists.py``, ``tables.py``, ``pictures.py``, ``equations.py``, ``marks.py``: what
  each sort of element becomes
- ``tree.py``: the parser's nodes, and white space
"""

from .page import html_blocks, marks_of, read_html

__all__ = ["html_blocks", "marks_of", "read_html"]

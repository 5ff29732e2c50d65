"""The document: the structured body of a page.

Files in reading order:

- ``schema.py``: what a document stands on; the other kinds have a folder each in `stillpage_core.kinds`
- ``upgrades.py``: how documents of earlier versions of the format are read
- ``content.py``: content expressions ("block+") and how they are matched
- ``node.py``: a document in memory, and the way in from JSON with every rule checked
- ``normal.py``: the normal form that two equal documents share
- ``walking.py``: visiting nodes, their text, and positions in it
- ``outline.py``: the headings of a document as a tree
- ``naming.py``: the pages and items a document names
- ``changes.py``: small changes, as repairs make them
- ``generated.py``: JSON Schema, the editor's schema and TypeScript types made from the schema
"""

from .node import Mark, Node, document_from_json, node_from_json, text_node
from .normal import normal_form
from .schema import SCHEMA, VERSION

__all__ = ["SCHEMA", "VERSION", "Mark", "Node", "document_from_json", "node_from_json", "normal_form", "text_node"]

"""A kind of node is one folder: here one is added to a copy of the core, as `docs/document.md` says, and works."""

import json
import shutil
import subprocess
import sys
import tempfile
from dataclasses import replace
from pathlib import Path
from unittest import TestCase
from unittest.mock import patch

import stillpage_core
from stillpage_core.document.node import document_of, make, text_node
from stillpage_core.document.schema import SCHEMA
from stillpage_core.kinds import KINDS
from stillpage_core.kinds.ways import all_ways, ways_of
from stillpage_core.writing import policy_of

NODE = '''"""A gauge at the water: the level it shows comes from whoever looks after it."""

from ..kind import Attribute, NodeKind

NODES = (
    NodeKind(
        "gauge",
        "a water gauge, by its name, and the frame that shows it",
        group="block",
        attributes={
            "name": Attribute("string", minimum=1, maximum=80),
            "href": Attribute("string", default=None, nullable=True, maximum=200),
        },
    ),
)
'''
WAYS = '''"""How a gauge goes out and comes in."""

from html import escape

from ...document.node import make
from ..ways import Ways


def _html(_, node):
    href = f' data-href="{escape(node.attrs["href"])}"' if node.attrs["href"] else ""
    return f'<div class="gauge"{href}>{escape(node.attrs["name"])}</div>'


def _read(into, element, marks, depth):
    into.pieces.append(make("gauge", name=element.text(), href=element.attributes.get("data-href")))
    return True


WAYS = {
    "gauge": Ways(
        storable=_html,
        published=lambda writer, node: f"<p>{escape(node.attrs['name'])}: {writer.address(node.attrs['href'])}</p>",
        read={"div.gauge": _read},
        names=lambda names, node: names.link(node.attrs["href"]),
        loads=lambda node, known: [("frame-src", "https://levels.example")],
        words=lambda node: node.attrs["name"],
    )
}
'''
USED = """
import json, sys
from stillpage_core.document import document_from_json
from stillpage_core.document.naming import named_in
from stillpage_core.document.schema import SCHEMA
from stillpage_core.reading import read_html, read_markdown
from stillpage_core.reading.docx import read_docx
from stillpage_core.reading.odt import read_odt
from stillpage_core.resolving import FixedResolver, PageTarget
from stillpage_core.writing import markdown, plain_text, policy_of, published_html, storable_html
from stillpage_core.writing.carrying import Carried
from stillpage_core.writing.docx import docx
from stillpage_core.writing.odt import odt

document = document_from_json(json.load(sys.stdin))
known = FixedResolver(pages={3: PageTarget(3, "Levels", "/levels")})
print(json.dumps({
    "html": read_html(storable_html(document)).document == document,
    "markdown": read_markdown(markdown(document)).document == document,
    "published": published_html(document, known),
    "text": plain_text(document),
    "docx": plain_text(read_docx(docx(document, Carried())).document),
    "odt": plain_text(read_odt(odt(document, Carried())).document),
    "pages": sorted(named_in(document).pages),
    "policy": policy_of(document),
}))
"""


class AddingOne(TestCase):
    def test_a_folder_and_a_name_are_enough(self):
        with tempfile.TemporaryDirectory() as folder:
            core = Path(folder, "stillpage_core")
            shutil.copytree(Path(stillpage_core.__file__).parent, core, ignore=shutil.ignore_patterns("__pycache__"))
            (core / "kinds" / "gauge").mkdir()
            (core / "kinds" / "gauge" / "__init__.py").write_text(NODE)
            (core / "kinds" / "gauge" / "ways.py").write_text(WAYS)
            listed = core / "kinds" / "__init__.py"
            listed.write_text(listed.read_text().replace("KINDS = (", 'KINDS = ("gauge", '))
            paragraph = {"type": "paragraph", "content": [{"type": "text", "text": "How high it stands:"}]}
            gauge = {"type": "gauge", "attrs": {"name": "Lock 4 & weir", "href": "page:3"}}
            document = json.dumps({"type": "doc", "content": [paragraph, gauge, paragraph]})

            def run(*arguments, given=None):
                command = [sys.executable, *arguments]
                done = subprocess.run(command, cwd=folder, input=given, capture_output=True, text=True, check=False)
                self.assertEqual(done.returncode, 0, done.stderr[-2000:])
                return json.loads(done.stdout)

            found = run("-c", USED, given=document)
            schema = run("-m", "stillpage_core", "schema", "editor")
        self.assertTrue(found["html"] and found["markdown"])
        self.assertIn("<p>Lock 4 &amp; weir: /levels</p>", found["published"])
        words = "How high it stands:\n\nLock 4 & weir\n\nHow high it stands:\n"
        self.assertEqual((found["text"], found["docx"], found["odt"]), (words, words, words))
        self.assertEqual(found["pages"], [3])
        self.assertIn("; frame-src https://levels.example", found["policy"])
        self.assertIn("gauge", [kind["name"] for kind in schema["nodes"]])


class Registered(TestCase):
    def test_every_folder_gives_its_kinds_and_their_ways(self):
        self.assertEqual(len(KINDS), len(set(KINDS)))
        for name, ways in all_ways().items():
            self.assertIn(name, SCHEMA.nodes)
            self.assertTrue(ways.storable or SCHEMA.nodes[name].element, f"{name} has no HTML")

    def test_every_kind_without_an_element_has_a_way_of_its_own(self):
        bare = [kind.name for kind in SCHEMA.nodes.values() if kind.element is None]
        self.assertEqual({name for name in bare if not ways_of(name).storable}, {"doc", "region", "table", "text"})


class Policies(TestCase):
    def test_a_page_of_words_and_pictures_loads_nothing_that_not_every_page_does(self):
        document = document_of([make("paragraph", [text_node("x")]), make("picture", item=1)])
        self.assertEqual(policy_of(document), policy_of())
        self.assertNotIn("script-src", policy_of())

    def test_nothing_is_loaded_in_a_way_that_no_page_may(self):
        document = document_of([make("divider")])
        for said in (
            ("script-src", "'unsafe-inline'"),
            ("frame-src", "*"),
            ("frame-src", "https://a.example; script-src *"),
            ("object-src", "'self'"),
            ("connect-src", "*"),
        ):
            ways = {"divider": replace(ways_of("divider"), loads=lambda *_, said=said: [said])}
            with patch("stillpage_core.kinds.ways.all_ways", lambda ways=ways: ways), self.assertRaises(ValueError):
                policy_of(document)

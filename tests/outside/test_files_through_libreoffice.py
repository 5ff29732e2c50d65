"""What goes out as DOCX and ODT, opened by LibreOffice (Debian's writer) and judged by what that makes of it."""

import subprocess
import tempfile
from pathlib import Path
from unittest import TestCase
from zipfile import ZipFile

from lxml import etree

from stillpage_core.document.walking import text_of, walk
from stillpage_core.formats import FORMATS, read_file
from stillpage_core.writing.carrying import Carried, PictureFile

from ..api.base import image_bytes
from ..core.documents import (
    EMPHASIS,
    PLAIN_MARKS,
    STRONG,
    bulleted,
    cell,
    document,
    equation,
    every_kind,
    formula,
    heading,
    item,
    link,
    numbered,
    paragraph,
    picture,
    preformatted,
    quotation,
    table,
    words,
)
from ..core.round_trips import SAMPLES, settled

ODF = {
    "office": "urn:oasis:names:tc:opendocument:xmlns:office:1.0",
    "text": "urn:oasis:names:tc:opendocument:xmlns:text:1.0",
    "table": "urn:oasis:names:tc:opendocument:xmlns:table:1.0",
    "draw": "urn:oasis:names:tc:opendocument:xmlns:drawing:1.0",
    "svg": "urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0",
    "xlink": "http://www.w3.org/1999/xlink",
}
WORD = {
    "w": "http://schemas.openxmlformats.org/wordprocessingml/2006/main",
    "wp": "http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing",
    "r": "http://schemas.openxmlformats.org/officeDocument/2006/relationships",
}
W = f"{{{WORD['w']}}}"

EQUATIONS = (
    r"Q = \frac{a}{b}",
    r"x^{2} + y_{1}",
    r"\sqrt{2}",
    r"\sqrt[3]{x}",
    r"\sum_{i = 1}^{n} i^{2}",
    r"\alpha + \beta \leq \gamma",
    r"\left(\frac{a}{b}\right)",
    r"\text{flow} = v A",
    r"a \neq b",
    r"a \times b",
    r"h_{1}^{2}",
)
"""Those that LibreOffice keeps as they are. Of some others (limits of integrals, hats) it loses parts by itself when it
makes a DOCX of an ODT."""
KEPT = (
    "calls to action",
    "how a picture stands",
    "asides",
    "paragraphs in the middle",
    "text styles",
    "tones",
    "abbreviations",
    "preformatted text",
)
GATES = PictureFile("gates.png", "image/png", image_bytes((240, 160), "PNG"), 240, 160, "Closed lock gates")
CARRIED = Carried("Towpath walks", {1: GATES})


def page():
    return document(
        heading(2, "Before you set out"),
        paragraph("The towpath is ", words("open", STRONG), ", ", words("always", EMPHASIS), "."),
        heading(3, "What to bring"),
        bulleted(
            item(paragraph("A coat"), numbered(item(paragraph("of wool"), bulleted(item(paragraph("lined")))))),
            item(paragraph("A map")),
        ),
        numbered(item(paragraph("Close the gate")), item(paragraph("Open the paddle")), start=3),
        table(
            [cell("Lock", header=True), cell("Rise", header=True)],
            [cell("Lock 4"), cell("2.1 m")],
            [cell("The rest", across=2)],
            caption="Rise of the locks",
        ),
        paragraph("See ", words("the locks", link("https://varrow.example/locks?a=1&b=2")), "."),
        picture(1, "Two gates, shut", caption="The gates of Lock 4"),
        quotation(paragraph("They shut the gates."), source="A warden"),
        paragraph("Of ", formula("h^2"), " metres", words("1", link("#dry"), PLAIN_MARKS[2]), "."),
        equation(r"Q = \frac{a}{b}"),
        preformatted("open  paddle", "  wait"),
        numbered(item(paragraph("Measured in the dry summer."), anchor="dry")),
    )


class Exported(TestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        (cls.folder / "a.docx").write_bytes(FORMATS["docx"].write(page(), CARRIED))
        (cls.folder / "b.odt").write_bytes(FORMATS["odt"].write(page(), CARRIED))
        (cls.folder / "all.docx").write_bytes(FORMATS["docx"].write(every_kind(), CARRIED))
        (cls.folder / "everything.odt").write_bytes(FORMATS["odt"].write(every_kind(), CARRIED))
        cls.convert("fodt", "a.docx")
        equations = document(*map(equation, EQUATIONS))
        (cls.folder / "sums.docx").write_bytes(FORMATS["docx"].write(equations, CARRIED))
        (cls.folder / "signs.odt").write_bytes(FORMATS["odt"].write(equations, CARRIED))
        named = document(*(block for name in KEPT for block in SAMPLES[name]), paragraph("End."))
        (cls.folder / "named.docx").write_bytes(FORMATS["docx"].write(named, Carried(pictures=CARRIED.pictures)))
        (cls.folder / "called.odt").write_bytes(FORMATS["odt"].write(named, Carried(pictures=CARRIED.pictures)))
        cls.named = settled(named)
        cls.convert("docx", "b.odt", "everything.odt", "signs.odt", "called.odt")
        cls.convert("odt", "all.docx", "sums.docx", "named.docx")
        cls.flat = etree.parse(cls.folder / "a.fodt").find("office:body/office:text", ODF)
        with ZipFile(cls.folder / "b.docx") as package:
            cls.body = etree.fromstring(package.read("word/document.xml")).find("w:body", WORD)
            cls.numbering = etree.fromstring(package.read("word/numbering.xml"))
            cls.styles = etree.fromstring(package.read("word/styles.xml"))
            cls.related = package.read("word/_rels/document.xml.rels").decode()

    @classmethod
    def convert(cls, to, *names):
        done = subprocess.run(
            [
                "soffice",
                f"-env:UserInstallation=file://{cls.folder}/profile",
                "--headless",
                "--convert-to",
                to,
                "--outdir",
                str(cls.folder),
                *(str(cls.folder / name) for name in names),
            ],
            capture_output=True,
            text=True,
            check=False,
        )
        if done.returncode or done.stdout.count("->") != len(names):
            raise AssertionError(done.stdout + done.stderr)

    def odf(self, path):
        return self.flat.xpath(path, namespaces=ODF)

    def word(self, path):
        return self.body.xpath(path, namespaces=WORD)

    def said(self, element):
        return " ".join("".join(element.itertext()).split())

    def test_docx_keeps_headings_with_their_levels(self):
        found = [(int(each.get(f"{{{ODF['text']}}}outline-level")), self.said(each)) for each in self.odf(".//text:h")]
        self.assertEqual(found, [(1, "Before you set out"), (2, "What to bring")])
        self.assertIn("Towpath walks", self.said(self.flat))

    def test_docx_keeps_the_levels_of_lists(self):
        depths = {
            self.said(each): len(each.xpath("ancestor::text:list", namespaces=ODF))
            for each in self.odf(".//text:list-item/text:p")
        }
        for said, depth in (("A coat", 1), ("of wool", 2), ("lined", 3), ("A map", 1), ("Open the paddle", 1)):
            self.assertEqual(depths[said], depth, depths)
        (third,) = self.odf(".//text:list-item[text:p='Close the gate']")
        begins = third.get(f"{{{ODF['text']}}}start-value") or self.level_start(third)
        self.assertEqual(begins, "3")

    def level_start(self, entry):
        style = entry.getparent().get(f"{{{ODF['text']}}}style-name")
        found = entry.getroottree().xpath(
            f"//text:list-style[@style:name='{style}']/text:list-level-style-number[@text:level='1']/@text:start-value",
            namespaces=ODF | {"style": "urn:oasis:names:tc:opendocument:xmlns:style:1.0"},
        )
        return found[0] if found else None

    def test_docx_keeps_table_headers_and_joined_cells(self):
        (heads,) = self.odf(".//table:table-header-rows")
        self.assertEqual(self.said(heads), "Lock Rise")
        self.assertEqual(self.odf(".//table:table-cell[contains(., 'The rest')]/@table:number-columns-spanned"), ["2"])

    def test_docx_keeps_links_alt_texts_captions_and_notes(self):
        self.assertIn("https://varrow.example/locks?a=1&b=2", self.odf(".//text:a/@xlink:href"))
        self.assertEqual(self.said(self.odf(".//draw:frame[draw:image]/svg:desc")[0]), "Two gates, shut")
        self.assertIn("The gates of Lock 4", self.said(self.flat))
        (note,) = self.odf(".//text:note/text:note-body")
        self.assertEqual(self.said(note), "Measured in the dry summer.")

    def test_odt_keeps_headings_with_their_levels(self):
        found = []
        for each in self.word(".//w:p"):
            style = each.find("w:pPr/w:pStyle", WORD)
            name = style.get(f"{W}val") if style is not None else ""
            if name.startswith("Heading"):
                found.append((name, self.said(each)))
        self.assertEqual(found, [("Heading1", "Before you set out"), ("Heading2", "What to bring")])

    def test_odt_keeps_the_levels_of_lists(self):
        levels = {
            self.said(each.getparent().getparent().getparent()): each.get(f"{W}val")
            for each in self.word(".//w:p/w:pPr/w:numPr/w:ilvl")
        }
        for said, level in (("A coat", "0"), ("of wool", "1"), ("lined", "2"), ("A map", "0")):
            self.assertEqual(levels.get(said), level, levels)

    def test_odt_keeps_table_headers_links_alt_texts_and_notes(self):
        (head,) = self.word(".//w:tr[w:trPr/w:tblHeader]")
        self.assertEqual(self.said(head), "LockRise")
        self.assertIn("https://varrow.example/locks?a=1&amp;b=2", self.related)
        self.assertIn("Two gates, shut", self.word(".//wp:docPr/@descr"))
        self.assertEqual(len(self.word(".//w:footnoteReference")), 1)

    def test_what_names_of_styles_say_comes_back_the_same(self):
        for name in ("named.odt", "called.docx"):
            read = read_file(name, (self.folder / name).read_bytes()).document
            self.assertEqual(settled(read), self.named, name)

    def test_equations_come_back_the_same(self):
        for name in ("sums.odt", "signs.docx"):
            read = read_file(name, (self.folder / name).read_bytes()).document
            found = [node.attrs["latex"].replace(" ", "") for _, node in walk(read) if node.kind == "equation"]
            self.assertEqual(found, [latex.replace(" ", "") for latex in EQUATIONS], name)

    def test_what_libreoffice_wrote_again_is_read_again_with_all_words(self):
        for name in ("all.odt", "everything.docx"):
            found = text_of(read_file(name, (self.folder / name).read_bytes()).document).split()
            for _, node in walk(every_kind()):
                if node.kind == "text":
                    for word in node.text.split():
                        self.assertTrue(any(word in each for each in found), f"{name}: “{word}” is gone")

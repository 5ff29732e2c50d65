"""Markdown is read as the CommonMark specification says: all 652 examples of version 0.31.2 (npm: commonmark-spec)."""

import html
import re
from pathlib import Path
from unittest import TestCase
from urllib.parse import quote

from lxml import etree
from lxml import html as parser

from stillpage_core.reading import Arriving, read_markdown
from stillpage_core.writing import storable_html

SPEC = Path(__file__).parents[2] / "web" / "node_modules" / "commonmark-spec" / "spec.txt"
EXAMPLE = re.compile(r"^`{32} example\n(.*?)^\.\n(.*?)^`{32}$|^#{1,6} +([^\n]*)$", re.MULTILINE | re.DOTALL)
OUT = "https://spec.example/"

LEFT_OUT = {
    "HTML blocks": "raw HTML is read as what it means and never passed on",
    "Raw HTML": "raw HTML is read as what it means and never passed on",
}
"""Sections whose examples show what the document has no place for."""
OTHERWISE = dict.fromkeys((201, 344, 475, 491, 494, 524, 536), LEFT_OUT["Raw HTML"])
OTHERWISE |= dict.fromkeys((34, 144), "no language has this name; a language is told by letters, digits and + # . -")
OTHERWISE[265] = "the numbers of a list begin below a million"
"""Examples that are read otherwise, with the reason."""


def examples():
    section, number = "", 0
    for markdown, expected, heading in EXAMPLE.findall(SPEC.read_text().partition("<!-- END TESTS -->")[0]):
        if heading:
            section = heading
        else:
            number += 1
            yield number, section, markdown.replace("→", "\t"), expected.replace("→", "\t")


MARKS = {"em", "strong", "code", "del", "s"}


class Said:
    """What a piece of HTML says: blocks and runs of words, whatever the writer's habits.

    Levels of headings count from the page's title, which is outside the document; whether the items of a list hold
    paragraphs or bare words is a matter of space; a picture stands as a block of its own; an emphasis within the same
    emphasis says nothing more; a tab is four spaces. What may not stand in an item or a quotation (headings, code,
    dividers, quotations) says its words there, and no more.
    """

    def __init__(self, source, pictures=None):
        root = parser.fragment_fromstring(source, create_parent="body") if source.strip() else etree.Element("body")
        self.lower = any(True for _ in root.iter("h1"))
        self.pictures = pictures
        self.tokens = []
        self.held = 0
        self.block(root)

    def block(self, node):
        self.words(node.text, ())
        for child in node:
            self.one(child, ())
            self.words(child.tail, ())
        self.close()

    def one(self, node, marks):
        tag = node.tag
        if not isinstance(tag, str):  # A comment says nothing.
            return
        if tag in MARKS:
            self.inline(node, (*marks, tag) if tag not in marks else marks)
        elif tag == "a":
            self.inline(node, (*marks, ("a", node.get("href"), " ".join((node.get("title") or "").split()))))
        elif tag == "img":
            self.close()
            self.tokens.append(("picture", self.source(node.get("src")), " ".join((node.get("alt") or "").split())))
            if title := node.get("title"):  # It stands below the picture, where everybody can read it.
                self.words(title, ())
                self.close()
        elif tag == "br":
            self.words("\n", marks, exact=True)
        elif tag == "hr":
            self.close()
            self.tokens += [] if self.held else [("divider",)]
        elif tag == "pre":
            self.close()
            code = node.find("code")
            named = (code if code is not None else node).get("class") or node.get("data-language") or ""
            lines = "".join((each.text or "") if each.tag != "br" else "\n" + (each.tail or "") for each in node.iter())
            lines = lines.removesuffix("\n").replace("\t", "    ")
            if self.held:
                self.words(lines, (), exact=True)
                self.close()
            else:
                self.tokens.append(("preformatted", named.removeprefix("language-"), lines))
        elif tag in ("figure", "span"):
            self.inline(node, marks)
        else:
            self.close()
            level = re.fullmatch(r"h(\d)", tag)
            name = f"h{min(6, int(level[1]) + self.lower)}" if level else tag
            bare = name in ("p", "div", "article", "figcaption") or (self.held and (level or tag == "blockquote"))
            self.held += tag in ("li", "blockquote")
            self.tokens += [] if bare else [("open", name, node.get("start") if node.get("start") != "1" else None)]
            self.block(node)
            self.tokens += [] if bare else [("close", name)]
            self.held -= tag in ("li", "blockquote")

    def source(self, address):
        return self.pictures[address] if self.pictures is not None else address

    def inline(self, node, marks):
        self.words(node.text, marks)
        for child in node:
            self.one(child, marks)
            self.words(child.tail, marks)

    def words(self, text, marks, *, exact=False):
        text = (text or "") if exact else re.sub(r"[ \t\r\n]+", " ", text or "")
        if not text:
            return
        last = self.tokens[-1] if self.tokens else ("",)
        if last[0] == "words" and last[2] == frozenset(marks):
            self.tokens[-1] = ("words", last[1] + text, last[2])
        else:
            self.tokens.append(("words", text, frozenset(marks)))

    def close(self):
        """Space at the edges of a line is none."""
        while self.tokens and self.tokens[-1][0] == "words" and not self.tokens[-1][1].strip():
            self.tokens.pop()
        self.tokens.append(("line",))

    def said(self):
        parts, start = [], True
        for token in self.tokens:
            if token[0] == "words":
                text = re.sub(r" +", " ", re.sub(r" *\n *", "\n", token[1]))
                text = text.lstrip() if start else text
                parts += [("words", text, token[2])] if text else []
                start = start and not text
            else:
                if parts and parts[-1][0] == "words":
                    parts[-1] = ("words", parts[-1][1].rstrip(), parts[-1][2])
                start = True
                if token[0] != "line" or (parts and parts[-1][0] == "words"):
                    parts.append(token)
        return parts


def link(address):
    """Addresses of the examples lead to nowhere of ours; here each leads somewhere, and back."""
    return None if re.match(r"(?:https?|mailto):", address) else OUT + quote(address, safe="")


class CommonMark(TestCase):
    maxDiff = None

    def test_every_example_is_read_as_specified(self):
        wrong, count = [], 0
        for number, section, markdown, specified in examples():
            count += 1
            if section in LEFT_OUT:
                continue
            reading = read_markdown(markdown, Arriving(link=link))
            pictures = {f"item:{each.number}": each.address for each in reading.pictures}
            expected = re.sub(
                r'(<a href=")([^"]*)', lambda found: found[1] + html.escape(leads(html.unescape(found[2]))), specified
            )
            ours, theirs = Said(storable_html(reading.document), pictures).said(), Said(expected).said()
            if (ours != theirs) != (number in OTHERWISE):
                wrong.append((number, section, markdown, expected, storable_html(reading.document), ours, theirs))
        self.assertEqual(count, 652)
        told = "\n\n".join("\n".join(map(str, each)) for each in wrong)
        self.assertEqual(len(wrong), 0, f"{len(wrong)} examples:\n{told}")


def leads(address):
    return link(address) or address

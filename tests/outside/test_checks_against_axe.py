"""The page check against axe-core: whatever axe-core reports of the content of a rendered page is found by the page
check before it is published.

What axe-core cannot know, and the page check finds beyond it: painted headings and typed lists as a matter of course,
lists broken in two, forms of headings, words of links that say nothing, addresses as words, what links lead to, alt
texts that name files or repeat the caption, layout tables, unmarked languages, capitals, space made of empty
paragraphs, reading grade, titles and descriptions over the whole site, weight.
"""

import re

from django.conf import settings
from hypothesis import HealthCheck, Phase, given
from hypothesis import settings as how

from stillpage.sites.themes import theme_of
from stillpage_core.checking import Around, Subject, check_page
from stillpage_core.document.node import Mark
from stillpage_core.writing import Link, PageParts, Site, ThemeFiles, render_page
from stillpage_core.writing.html import published_html

from ..browser.base import AXE_CORE, BrowserTest
from ..core import many
from ..core.checks.base import KNOWN
from ..core.checks.test_repairs import FAULTY
from ..core.documents import DOCUMENTS, aside, cell, document, every_kind, heading, link, paragraph, table, words

FOUND_BY = {
    "color-contrast": {"contrast-too-low"},
    "empty-heading": {"heading-empty"},
    "empty-table-header": {"table-header-empty"},
    "heading-order": {"heading-skipped"},
    "identical-links-same-purpose": {"link-same-words", "link-vague"},
    "image-alt": {"picture-without-alt"},
    "image-redundant-alt": {"picture-alt-twice"},
    "link-name": {"link-empty", "call-without-destination"},
    "valid-lang": {"language-unknown"},
}
"""By which checks the findings of axe-core's rules are found; every other rule must have none."""

MIST = Mark("tone", {"name": "mist"})
CORPUS = [
    *(document(block) for block in FAULTY),
    document(*FAULTY),
    every_kind(),
    document(paragraph(words("pale", MIST)), aside("tip", paragraph(words("pale", MIST)))),
    document(paragraph(words("écluse", Mark("language", {"code": "zz"})))),
    document(paragraph("a", words(" ", link("https://a.example/")), "b")),
    document(heading(2, "a"), heading(5, "b"), heading(3, "c")),
    document(table([cell(header=True), cell("b", header=True)], [cell("c", header=True), cell("d")])),
]
RUN = """([html, contrast]) => {
  const text = document.querySelector(".regions")
  text.innerHTML = html
  const off = axe.getRules(["experimental", "wcag2aaa"]).map(({ruleId}) => [ruleId, {enabled: false}])
  const rules = {...Object.fromEntries(off), "color-contrast": {enabled: contrast},
                 "identical-links-same-purpose": {enabled: true}}
  const content = "structure text-alternatives name-role-value tables language semantics color"
  const runOnly = content.split(" ").map((each) => `cat.${each}`)
  return axe.run(text, {resultTypes: ["violations"], runOnly, rules}).then(
    (found) => found.violations.map((each) => each.id))
}"""


class AgainstAxe(BrowserTest):
    def make_site(self):
        self.seen = set()

    def begin(self, page):
        """A page with the theme and an empty text, and axe-core in it."""
        style = (settings.ROOT / "theme" / "page.css").read_text(encoding="utf-8")
        site = Site("Varrow Canal Trust", "http://canal.localhost", "en", "canal", (Link("Visit", "/visit"),), "Foot.")
        html = render_page(site, PageParts("A title", "", "http://canal.localhost/a", ""), ThemeFiles())
        style = re.sub(r"url\([^)]*\)", "none", style)
        page.set_content(html.replace("</head>", f"<style>{style}</style></head>"))
        page.add_script_tag(content=AXE_CORE)

    def hold(self, page, node, *, contrast):
        ours = {each.check for each in check_page(Subject(node, KNOWN, Around(theme=theme_of("canal"))))}
        for rule in page.evaluate(RUN, [published_html(node, KNOWN), contrast]):
            self.seen.add(rule)
            self.assertTrue(FOUND_BY.get(rule, set()) & ours, f"{rule} is not among {sorted(ours)}: {node}")

    def test_whatever_axe_finds_in_faulty_and_in_random_documents_is_found_before(self):
        with self.window(user=None) as page:
            self.begin(page)
            for node in CORPUS:
                self.hold(page, node, contrast=True)
            # That the corpus makes axe-core speak at all: without it the test could not fail.
            self.assertLessEqual(
                {"heading-order", "empty-heading", "valid-lang", "color-contrast", "empty-table-header", "link-name"},
                self.seen,
            )

            @how(
                max_examples=many(500),
                phases=[Phase.generate],
                suppress_health_check=list(HealthCheck),
                deadline=None,
            )
            @given(DOCUMENTS)
            def hold(node):
                self.hold(page, node, contrast=False)

            hold()

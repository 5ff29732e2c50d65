"""Tables, quotations, asides and the rest: in HTML, in Markdown, and where they must not stand."""

from unittest import TestCase

from stillpage_core.document import document_from_json
from stillpage_core.document.fitting import fitted
from stillpage_core.document.node import make
from stillpage_core.document.tables import grid_of, squared
from stillpage_core.errors import DocumentError
from stillpage_core.reading import read_html, read_markdown
from stillpage_core.resolving import FixedResolver, ItemTarget, PageTarget
from stillpage_core.writing import markdown, plain_text, published_html

from .documents import (
    aside,
    body,
    bulleted,
    call_to_action,
    cell,
    divider,
    document,
    equation,
    formula,
    heading,
    item,
    link,
    paragraph,
    picture,
    preformatted,
    quotation,
    table,
    words,
)

KNOWN = FixedResolver(
    pages={1: PageTarget(1, "Visit", "/visit"), 2: PageTarget(2, "Hidden", None)},
    items={7: ItemTarget(7, "Boat licence form", "/media/ab/form.pdf", "PDF", 2048)},
)


def html(*blocks):
    return published_html(document(*blocks), KNOWN)


class Grids(TestCase):
    def row(self, *cells):
        return make("table_row", cells)

    def test_cells_take_the_first_free_place_as_html_lays_them_out(self):
        # The example of a cell that reaches down two rows, HTML Living Standard, 4.9.12.1.
        rows = [self.row(cell("A", down=2), cell("B")), self.row(cell("C"))]
        places = [(place.row, place.column) for place in grid_of(rows).places]
        self.assertEqual(places, [(0, 0), (0, 1), (1, 1)])
        self.assertIsNone(grid_of(rows).problem)

    def test_what_does_not_fit_together_is_told(self):
        for rows, said in (
            ([self.row(cell("a"), cell("b")), self.row(cell("c"))], "row 2 has fewer cells"),
            ([self.row(cell("a", down=2))], "below the last row"),
            ([self.row(cell("a"), cell("b", down=2)), self.row(cell("c", across=2))], "share a place"),
            ([self.row()], "no cells"),
        ):
            self.assertIn(said, grid_of(rows).problem)
            with self.assertRaises(DocumentError) as caught:
                document_from_json(document(make("table", [make("table_grid", rows)])).to_json())
            self.assertIn(said, str(caught.exception))

    def test_squaring_mends_all_of_it_and_keeps_the_words(self):
        rows = [self.row(cell("a"), cell("b", down=9)), self.row(cell("c", across=2)), self.row()]
        mended = squared(rows)
        self.assertIsNone(grid_of(mended).problem)
        self.assertEqual("".join(plain_text(document(make("table", [make("table_grid", mended)]))).split()), "abc")


class Published(TestCase):
    def test_headers_say_what_they_are_the_header_of(self):
        # HTML Living Standard, 4.9.12.2: scope tells the cells that a header is for. WCAG 2.2, 1.3.1, technique H63.
        rows = [[cell("Lock", header=True), cell("Rise", header=True)], [cell("Lock 4", header=True), cell("2 m")]]
        found = html(table(*rows, caption="Locks"))
        self.assertIn('<caption>Locks</caption><tbody><tr><th scope="col"><p>Lock</p></th><th scope="col">', found)
        self.assertIn('<tr><th scope="row"><p>Lock 4</p></th><td>', found)
        self.assertIn('role="region" aria-label="Table: Locks" tabindex="0"', found)
        self.assertIn('<th scope="row">', html(table([cell("Only", header=True), cell("one row")])))

    def test_a_call_to_action_leads_to_a_page_a_document_or_nowhere_yet(self):
        self.assertIn('<a href="/visit">Come</a>', html(call_to_action("Come", "page:1")))
        self.assertIn('<a href="/media/ab/form.pdf">Form</a>', html(call_to_action("Form", "item:7")))
        self.assertIn("<a>Hidden</a>", html(call_to_action("Hidden", "page:2")))

    def test_a_new_window_is_told_in_words(self):
        found = html(paragraph(words("Tides", link("https://a.example/", new_window=True, title="Of the sea"))))
        self.assertIn('href="https://a.example/" title="Of the sea" target="_blank" rel="noopener"', found)
        self.assertIn('Tides<span class="unseen"> (opens in a new window)</span></a>', found)

    def test_a_heading_that_was_linked_to_keeps_its_address_when_it_is_renamed(self):
        found = html(heading(2, "Renamed", anchor="short-walks"), heading(2, "Short walks"))
        self.assertIn('<h2 id="short-walks">Renamed</h2><h2 id="short-walks-2">', found)

    def test_an_equation_that_cannot_be_read_is_shown_as_it_was_typed(self):
        self.assertIn("<code>\\frac{a &lt;</code>", html(paragraph(formula(r"\frac{a <"))))


class Markdown(TestCase):
    def test_what_it_can_say_of_structure_comes_back(self):
        node = document(
            quotation(paragraph("They shut the gates."), paragraph("And waited."), source="The diary"),
            quotation(bulleted(item(paragraph("one")))),
            aside("tip", paragraph("Bring a torch."), equation("x^2")),
            table([cell("Lock", header=True), cell("Rise | fall", header=True)], [cell("4"), cell("2 m")]),
            table([cell("a", across=2)], [cell("b"), cell("c")], caption="Merged"),
            paragraph("Head ", formula(r"\sqrt{h}"), " costs $5 and 6$."),
            equation(r"Q = \mu A"),
            call_to_action("Get a licence", "page:1", "quiet"),
            paragraph(words("titled", link("https://a.example/", title='So "to say"'))),
        )
        self.assertEqual(read_markdown(markdown(node)).document, node)

    def test_plain_text_says_it_too(self):
        node = document(
            quotation(paragraph("Slowly."), source="A warden"),
            aside("warning", paragraph("Deep water.")),
            table([cell("Lock", header=True), cell("Rise", header=True)], [cell("4"), cell("2 m")], caption="Locks"),
        )
        said = "Slowly.\n— A warden\n\nWarning\nDeep water.\n\nLocks\nLock\tRise\n4\t2 m\n"
        self.assertEqual(plain_text(node), said)


class OtherHtml(TestCase):
    def test_a_table_of_another_program_is_squared(self):
        found = read_html(
            "<table><caption>Rise</caption><thead><tr><th>Lock<th>Rise</thead>"
            "<tr><td colspan=9 rowspan=9>4<tr><td><h3>5</h3><table><tr><td>deep</table></table>"
        ).document
        document_from_json(found.to_json())
        self.assertEqual(body(found)[0].kind, "table")
        self.assertIn("deep", plain_text(found))

    def test_a_quotation_with_words_straight_within_is_one_paragraph(self):
        found = read_html("<blockquote>It <em>never</em> hurries.<footer>A warden</footer></blockquote>").document
        quoted, source = body(found)[0].content
        self.assertEqual(plain_text(document(*quoted.content)), "It never hurries.\n")
        self.assertEqual(source.content[0].text, "A warden")

    def test_what_looks_like_ours_but_holds_more_loses_no_word(self):
        found = read_html(
            '<div class="aside">Before <div class="aside-text"><p>within</p></div> after</div>'
            '<p class="call">Please <a href="page:1">come</a> soon</p>'
            "<ul><li>a</li><div><ul><li>b</li></ul><hr><h2>c</h2></div></ul>"
        ).document
        document_from_json(found.to_json())
        self.assertEqual([block.kind for block in body(found)], ["aside", "paragraph", "bulleted_list"])
        said = plain_text(found).replace("- ", "").split()
        self.assertEqual(said, ["Note", "Before", "within", "after", "Please", "come", "soon", "a", "b", "c"])

    def test_language_abbreviation_and_mathml_are_read(self):
        found = read_html(
            '<p><span lang="fr">écluse</span> <abbr title="Varrow Canal Trust">VCT</abbr> <abbr>x</abbr>'
            '<math><semantics><mi>x</mi><annotation encoding="application/x-tex">x</annotation></semantics></math></p>'
        ).document
        first, _, second, third, last = body(found)[0].content
        self.assertEqual(first.marks[0].attrs, {"code": "fr"})
        self.assertEqual(second.marks[0].attrs, {"expansion": "Varrow Canal Trust"})
        self.assertEqual((third.text, third.marks), (" x", ()))
        self.assertEqual((last.kind, last.attrs["latex"]), ("formula", "x"))


class Fitting(TestCase):
    def test_what_may_not_stand_within_keeps_its_words(self):
        blocks = [
            heading(2, "Heading"),
            divider(),
            preformatted("code"),
            equation("x"),
            quotation(paragraph("said"), source="by"),
            table([cell("cell")]),
            picture(1),
        ]
        for kind in ("list_item", "quotation_words", "table_cell", "aside"):
            inside = fitted(kind, blocks)
            parents = {"list_item": bulleted(make("list_item", inside)), "aside": make("aside", inside, sort="note")}
            parents["quotation_words"] = make("quotation", [make("quotation_words", inside)])
            parents["table_cell"] = table([make("table_cell", inside, colspan=1, rowspan=1)])
            node = document(parents[kind])
            self.assertEqual(document_from_json(node.to_json()), node)
            self.assertEqual(
                [word for word in plain_text(node).replace("— ", "").split() if word not in ("-", "Note")],
                ["Heading", "code", "x", "said", "by", "cell"],
            )

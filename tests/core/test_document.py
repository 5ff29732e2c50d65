"""The document: validation, normal form, outline, changes."""

import json
from unittest import TestCase

import jsonschema
from hypothesis import given, settings

from stillpage_core.document import VERSION, document_from_json, normal_form
from stillpage_core.document.changes import ReplaceText, SetAttributes, apply
from stillpage_core.document.content import compile_content
from stillpage_core.document.digest import digest_of
from stillpage_core.document.generated import json_schema
from stillpage_core.document.naming import named_in
from stillpage_core.document.node import make
from stillpage_core.document.outline import Entry, outline
from stillpage_core.document.walking import runs_with, text_of
from stillpage_core.errors import DocumentError
from stillpage_core.kinds.picture import SETTING as PICTURE_SETTING
from stillpage_core.references import parse_reference

from . import many
from .documents import (
    DOCUMENTS,
    STRONG,
    body,
    bulleted,
    document,
    every_kind,
    heading,
    item,
    link,
    paragraph,
    picture,
    region,
    words,
)


def json_of(*blocks):
    return {"type": "doc", "attrs": {"version": VERSION}, "content": [{"type": "region", "content": list(blocks)}]}


PARAGRAPH = {"type": "paragraph", "content": [{"type": "text", "text": "hello"}]}
VALIDATOR = jsonschema.Draft202012Validator(json_schema())


class ReadingJson(TestCase):
    @given(DOCUMENTS)
    def test_any_valid_document_comes_back_from_json_unchanged(self, node):
        self.assertEqual(document_from_json(json.loads(json.dumps(node.to_json()))), node)

    @settings(max_examples=many(36))  # The validator tries every kind for every node, which takes it long.
    @given(DOCUMENTS)
    def test_the_published_json_schema_takes_every_valid_document(self, node):
        VALIDATOR.validate(node.to_json())

    def test_defaults_are_filled_in(self):
        node = document_from_json(json_of({"type": "picture", "attrs": {"item": 3}}))
        unsaid = dict.fromkeys(("alt", "caption", *PICTURE_SETTING))
        self.assertEqual(body(node)[0].attrs, {"item": 3, "decorative": False, **unsaid})

    def refused(self, value, path, words):
        with self.assertRaises(DocumentError) as caught:
            document_from_json(value)
        self.assertEqual(caught.exception.path, path)
        self.assertIn(words, str(caught.exception))

    def test_an_unknown_node_is_refused_with_its_path(self):
        self.refused(json_of(PARAGRAPH, {"type": "marquee"}), (0, 1), "no kind of node called “marquee”")

    def test_an_unknown_mark_is_refused_with_its_path(self):
        text = {"type": "text", "text": "x", "marks": [{"type": "blink"}]}
        self.refused(json_of({"type": "paragraph", "content": [text]}), (0, 0, 0), "no kind of mark called “blink”")

    def test_a_javascript_address_is_refused(self):
        for href in ("javascript:alert(1)", " javascript:x", "data:text/html,x", "JAVASCRIPT:x", "https://a b", "/a"):
            text = {"type": "text", "text": "x", "marks": [{"type": "link", "attrs": {"href": href}}]}
            self.refused(json_of({"type": "paragraph", "content": [text]}), (0, 0, 0), "is not of the form")

    def test_what_may_not_stand_inside_is_refused(self):
        nested = {"type": "paragraph", "content": [PARAGRAPH]}
        self.refused(json_of(nested), (0, 0, 0), "“paragraph” may not stand inside “paragraph”")
        self.refused({"type": "paragraph"}, (), "must be of the type “doc”")

    def test_children_out_of_order_are_refused(self):
        wrong = {"type": "list_item", "content": [{"type": "bulleted_list", "content": [{"type": "list_item"}]}]}
        self.refused(json_of({"type": "bulleted_list", "content": [wrong]}), (0, 0, 0, 0, 0), "must hold")
        self.refused(json_of(), (0,), "must hold block+")
        self.refused({"type": "doc", "attrs": {"version": VERSION}}, (), "must hold region+")

    def test_regions_begin_with_main_and_none_stands_twice(self):
        def of(*names):
            regions = [{"type": "region", "attrs": {"name": name}, "content": [PARAGRAPH]} for name in names]
            return {"type": "doc", "attrs": {"version": VERSION}, "content": regions}

        self.assertEqual(
            [each.attrs["name"] for each in document_from_json(of("main", "b-2", "a")).content][1:], ["b-2", "a"]
        )
        self.refused(of("side", "main"), (), "The first region of a document is “main”, not “side”")
        self.refused(of("main", "side", "side"), (), "The region “side” stands twice")
        for name in ("Main", "a b", "", "2", "x" * 41):
            self.refused(of("main", name), (1,), "attribute “name”")
        self.refused(of("main") | {"content": [PARAGRAPH]}, (0,), "“paragraph” may not stand inside “doc”")
        inner = {"type": "region", "attrs": {"name": "main"}, "content": of("side")["content"]}
        self.refused(of("main") | {"content": [inner]}, (0, 0), "“region” may not stand inside “region”")

    def test_wrong_attributes_are_refused(self):
        for attrs, said in (
            ({}, "needs the attribute “level”"),
            ({"level": 1}, "less than 2"),
            ({"level": 7}, "more than 6"),
            ({"level": "2"}, "whole number"),
            ({"level": True}, "whole number"),
            ({"level": 2, "colour": "red"}, "no attribute “colour”"),
        ):
            self.refused(json_of({"type": "heading", "attrs": attrs}), (0, 0), said)

    def test_control_characters_and_lone_surrogates_are_refused(self):
        for text in ("a\x00b", "a\nb", "\ud800"):
            self.refused(
                json_of({"type": "paragraph", "content": [{"type": "text", "text": text}]}), (0, 0, 0), "control"
            )

    def test_values_that_are_no_nodes_are_refused(self):
        for value in (None, [], "doc", 3, {"type": ["doc"]}, {"type": "doc", "content": {}}, {"type": "doc", "x": 1}):
            with self.assertRaises(DocumentError):
                document_from_json(value)

    def test_a_document_nested_without_end_is_refused_and_not_a_crash(self):
        node = {"type": "paragraph"}
        for _ in range(400):
            node = {
                "type": "bulleted_list",
                "content": [{"type": "list_item", "content": [{"type": "paragraph"}, node]}],
            }
        with self.assertRaisesRegex(DocumentError, "levels deep"):
            document_from_json(json_of(node))

    def test_the_place_is_a_json_pointer(self):
        error = DocumentError((2, 0, 1), "Something.")
        self.assertEqual(error.pointer, "/content/2/content/0/content/1")  # RFC 6901


class Content(TestCase):
    def test_expressions_mean_what_they_say(self):
        content = compile_content("a (b | c)* d?", {}, {"a", "b", "c", "d"})
        for children, allowed in (
            ("a", True),
            ("abcb", True),
            ("acd", True),
            ("b", False),
            ("add", False),
            ("", False),
        ):
            self.assertEqual(content.allows(children), allowed, children)

    def test_groups_stand_for_their_members_and_unknown_names_are_an_error(self):
        self.assertTrue(compile_content("block+", {"block": ["p", "h"]}, {"p", "h"}).allows(["h", "p"]))
        with self.assertRaises(ValueError):
            compile_content("q+", {}, {"p"})


class NormalForm(TestCase):
    def test_runs_are_joined_and_marks_put_in_order(self):
        tangled = make("paragraph", [words("a"), words("b"), words("c", STRONG, link("page:1"))])
        normal = body(normal_form(document(tangled)))[0]
        self.assertEqual(
            [(run.text, [mark.kind for mark in run.marks]) for run in normal.content],
            [("ab", []), ("c", ["link", "strong"])],
        )

    @given(DOCUMENTS)
    def test_it_is_the_same_when_made_twice(self, node):
        self.assertEqual(normal_form(node), node)


class Looking(TestCase):
    def test_the_outline_lists_headings_in_order_with_their_paths(self):
        node = document(heading(2, "One"), paragraph("x"), heading(3, "Two", make("line_break"), "lines"))
        self.assertEqual(outline(node), [Entry(2, "One", (0, 0)), Entry(3, "Two lines", (0, 2))])

    def test_text_parts_blocks_and_breaks_by_line_ends(self):
        node = document(paragraph("a", make("line_break"), "b"), bulleted(item(paragraph("c"))))
        self.assertEqual(text_of(node), "a\nb\nc")

    def test_everything_named_is_found(self):
        named = named_in(document(paragraph(words("x", link("page:4#y")), words("z", link("item:5"))), picture(6)))
        self.assertEqual((named.pages, named.items, named.pictures), ({4}, {5}, {6}))

    def test_a_link_with_strong_words_in_it_is_one_run_and_positions_count_utf16(self):
        compass = "\U0001f9ed"
        node = document(paragraph(compass, words("read ", link("page:1")), words("more", link("page:1"), STRONG), "."))
        (run,) = runs_with(node, "link")
        self.assertEqual((run.text, run.start, run.end), ("read more", 2, 11))

    def test_two_links_side_by_side_are_two_runs(self):
        node = document(paragraph(words("a", link("page:1")), words("b", link("page:2"))))
        self.assertEqual([run.text for run in runs_with(node, "link")], ["a", "b"])

    def test_addresses_are_taken_apart(self):
        self.assertEqual(parse_reference("page:12#a").fragment, "a")
        self.assertEqual(parse_reference("https://a.example").kind, "outside")
        self.assertEqual(parse_reference("tel:+44-100").kind, "telephone")
        self.assertIsNone(parse_reference("javascript:1"))
        self.assertIsNone(parse_reference("https://" + "a" * 3000))


class Changes(TestCase):
    def test_attributes_are_set_at_a_path(self):
        changed = apply(document(paragraph(), heading(5, "x")), [SetAttributes((0, 1), {"level": 2})])
        self.assertEqual(body(changed)[1].attrs["level"], 2)

    def test_words_are_replaced_and_keep_the_marks_of_the_first(self):
        node = document(
            paragraph("\U0001f9ed see ", words("he", link("page:1")), words("re", link("page:1"), STRONG), "!")
        )
        changed = apply(node, [ReplaceText((0, 0), 7, 11, "the walks")])
        self.assertEqual(changed, document(paragraph("\U0001f9ed see ", words("the walks", link("page:1")), "!")))

    def test_every_kind_of_node_and_mark_stands_in_the_test_document(self):
        from stillpage_core.document import SCHEMA
        from stillpage_core.document.walking import walk

        nodes = [node for _, node in walk(every_kind())]
        self.assertEqual({node.kind for node in nodes}, set(SCHEMA.nodes))
        self.assertEqual({mark.kind for node in nodes for mark in node.marks}, set(SCHEMA.marks))


class Digests(TestCase):
    @settings(max_examples=80, deadline=None)
    @given(DOCUMENTS, DOCUMENTS)
    def test_two_texts_have_one_digest_just_when_they_say_the_same(self, one, other):
        first, second = (digest_of("Walks", "", document_from_json(each.to_json()).to_json()) for each in (one, other))
        self.assertEqual(first == second, one == other)
        self.assertNotEqual(first, digest_of("Walks.", "", one.to_json()))
        self.assertNotEqual(digest_of("ab", "c", one.to_json()), digest_of("a", "bc", one.to_json()))

    def test_what_the_format_did_not_know_yet_counts_as_its_default(self):
        new = document(paragraph("a"), heading(2, "b")).to_json()
        old = json.loads(json.dumps(new))
        blocks = old["content"][0]["content"]
        for block in blocks:
            del block["attrs"]["align"]
        self.assertEqual(digest_of("", "", old), digest_of("", "", new))
        first = {"type": "doc", "attrs": {"version": 1}, "content": blocks}
        self.assertEqual(digest_of("", "", first), digest_of("", "", new))
        blocks[0]["attrs"]["align"] = "end"
        self.assertNotEqual(digest_of("", "", old), digest_of("", "", new))
        self.assertEqual(digest_of("", "", first), digest_of("", "", old))
        elsewhere = document(paragraph("a"), region("side", heading(2, "b"))).to_json()
        self.assertNotEqual(digest_of("", "", elsewhere), digest_of("", "", new))

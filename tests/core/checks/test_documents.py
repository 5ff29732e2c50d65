"""Checks of documents that a page leads to. What each lacks is found out when it comes into the library."""

from ..documents import download, downloads, link, paragraph, words
from .base import CheckTest


def leading_to(item):
    return paragraph("Read ", words("the paper", link(f"item:{item}")), ".")


class Unread(CheckTest):
    check = "document-unread"

    def test_pdf7_one_that_was_scanned_holds_no_words(self):
        finding = self.assertFound(leading_to(10))
        self.assertEqual((finding.path, finding.span, finding.severity), ((0, 0), (5, 14), "mend"))
        self.assertIn("no text", finding.sentence)
        self.assertFound(downloads(download(7), download(10)))

    def test_one_that_opens_with_a_password_is_for_nobody(self):
        self.assertIn("password", self.assertFound(downloads(download(12))).sentence)

    def test_one_with_words_is_right_whatever_else_it_lacks(self):
        self.assertRight(leading_to(7), downloads(download(11)), leading_to(99))


class Untagged(CheckTest):
    check = "document-untagged"

    def test_pdf9_pdf16_pdf18_what_it_lacks_is_named(self):
        self.assertIn("without tags, a language and a title of its own.", self.assertFound(leading_to(11)).sentence)
        self.assertIn("without a language.", self.assertFound(downloads(download(13))).sentence)

    def test_of_a_scan_and_of_what_is_whole_nothing_is_said(self):
        self.assertRight(leading_to(7), leading_to(10), downloads(download(12)))

    def test_each_place_that_leads_to_it_is_told(self):
        self.assertFound(leading_to(11), leading_to(11), times=2)

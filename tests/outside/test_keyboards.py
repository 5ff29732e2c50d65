"""The table of layouts, by which it is tested that no key of ours swallows a sign, is that of xkeyboard-config."""

import json
from unittest import TestCase

from .keyboards import TABLE, table


class Layouts(TestCase):
    maxDiff = None

    def test_the_table_of_the_components_tests_is_what_this_machine_has(self):
        self.assertEqual(json.loads(TABLE.read_text()), table())

    def test_it_holds_what_was_swallowed_once(self):
        """Signs that chords of letters and digits with Alt and Shift kept from authors on a Mac, or with AltGr."""
        found = table()
        typed = {
            sign for layouts in found.values() for keys in layouts.values() for each in keys.values() for sign in each
        }
        self.assertLessEqual(set("ŚĆŃĘÓŁŹ€ŒÇØ[|"), typed)

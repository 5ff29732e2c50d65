"""The runner of these tests: no failure may be lost between its processes, or hold them up."""

import pickle
import sys
from unittest import TestCase

from ..runner import Result


class Unreadable(AssertionError):
    """Can be sent, and not read again: what is read is made from the arguments kept, of which there is one."""

    def __init__(self, one, other):
        super().__init__(one)


class WhatCannotBeSent(TestCase):
    def test_a_failure_of_any_kind_arrives_with_its_words(self):
        result = Result()
        result.startTest(self)
        for tell in (result.addError, result.addFailure, lambda test, err: result.addSubTest(test, test, err)):
            try:
                try:
                    raise Unreadable("The gates", "are open")
                except Unreadable:
                    raise AssertionError("The second.") from None  # It keeps the first as what went before.
            except AssertionError:
                tell(self, sys.exc_info())
        events = pickle.loads(pickle.dumps(result.events))
        told = [each[-1][1] for each in events if each[0].startswith("add")]
        self.assertEqual(len(told), 3)
        for each in told:
            self.assertIn("The second.", str(each))

"""Django's test runner, beginning with what takes longest: no process is left with it alone at the end.

A failure is told whatever was raised: what cannot be sent from one process to another goes as its words.
"""

from __future__ import annotations

import pickle
import traceback
from typing import Any

from django.test.runner import DiscoverRunner, ParallelTestSuite, RemoteTestResult, RemoteTestRunner

_SECONDS = {
    "tests.ops.test_benchmarks": 400,
    "tests.ops.test_running_copy": 40,
    "tests.faults.test_running": 60,
    "tests.faults.test_backup": 25,
    "tests.faults": 5,
    "tests.security.test_described": 60,
    "tests.security.test_other_sites": 20,
    "tests.outside": 20,
    "tests.browser": 8,
    "tests.core": 0.6,
    "tests.api": 0.7,
}
"""About how long a test of each folder, or of a module that differs from the others, takes on two cores."""


class Result(RemoteTestResult):
    """Where an exception cannot be read by the process that gathers the results, that process would wait for ever."""

    def addError(self, test: Any, err: Any) -> None:
        super().addError(test, _sendable(err))

    def addFailure(self, test: Any, err: Any) -> None:
        super().addFailure(test, _sendable(err))

    def addSubTest(self, test: Any, subtest: Any, err: Any) -> None:
        super().addSubTest(test, subtest, err and _sendable(err))


def _sendable(err: Any) -> Any:
    try:
        pickle.loads(pickle.dumps(err))
    except Exception:
        return AssertionError, AssertionError("".join(traceback.format_exception(*err))), None
    return err


class _Sent(RemoteTestRunner):
    resultclass = Result


class _Suite(ParallelTestSuite):
    runner_class = _Sent


class Runner(DiscoverRunner):
    """Sorts the classes of tests that are given to several processes."""

    parallel_test_suite = _Suite

    def build_suite(self, *args: Any, **options: Any) -> Any:
        suite = super().build_suite(*args, **options)
        if isinstance(suite, ParallelTestSuite):
            suite.subsuites.sort(key=lambda each: -_length(each))
        return suite


def _length(suite: Any) -> float:
    tests = list(suite)
    parts = tests[0].id().split(".") if tests else [""]
    known = (_SECONDS.get(".".join(parts[:depth])) for depth in (3, 2))
    return len(tests) * next((each for each in known if each is not None), 1)

"""Django's test runner, beginning with what takes longest: no process is left with it alone at the end."""

from __future__ import annotations

from typing import Any

from django.test.runner import DiscoverRunner, ParallelTestSuite

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


class Runner(DiscoverRunner):
    """Sorts the classes of tests that are given to several processes."""

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

"""Django's test runner, beginning with what takes longest: no process is left with it alone at the end."""

from __future__ import annotations

from typing import Any

from django.test.runner import DiscoverRunner, ParallelTestSuite

_SECONDS = {"tests.ops": 10, "tests.outside": 20, "tests.browser": 8, "tests.core": 0.6, "tests.api": 0.7}
"""About how long a test of each folder takes on two cores."""


class Runner(DiscoverRunner):
    """Sorts the classes of tests that are given to several processes."""

    def build_suite(self, *args: Any, **options: Any) -> Any:
        suite = super().build_suite(*args, **options)
        if isinstance(suite, ParallelTestSuite):
            suite.subsuites.sort(key=lambda each: -_length(each))
        return suite


def _length(suite: Any) -> float:
    tests = list(suite)
    folder = ".".join(tests[0].id().split(".")[:2]) if tests else ""
    return len(tests) * _SECONDS.get(folder, 1)

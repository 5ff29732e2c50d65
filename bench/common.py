"""What the benchmarks share: a copy of the application of their own, small runs, and aims."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from contextlib import contextmanager

from ops.trial import Copy

SMALL = "--small" in sys.argv
"""Whether it is only tried that the benchmark runs; its numbers mean nothing then."""
ARGUMENTS = [each for each in sys.argv[1:] if each != "--small"]


@contextmanager
def a_copy(**env: str) -> Iterator[Copy]:
    """A copy of the application with the demo, beside whatever runs already; it goes without a trace."""
    copy = Copy(STILLPAGE_LIMITS="off", **env)
    try:
        yield copy.start()
    finally:
        copy.close()


def aim(what: str, value: float, *, least: float | None = None, most: float | None = None) -> None:
    """Print an aim, and whether it is met."""
    bound = f"at least {least:g}" if least is not None else f"at most {most:g}"
    met = value >= least if least is not None else most is not None and value <= most
    print(f"aim: {what} {bound}; it is {value:.3g}: {'met' if met else 'NOT MET'}", flush=True)

"""Tests of the core alone. No database, no server."""

import os

from hypothesis import settings

LONG = os.environ.get("STILLPAGE_LONG_TESTS") == "1"

# The same examples in every run, so that what fails was changed; other ones in each long run, which looks for more.
settings.register_profile("steady", deadline=None, derandomize=not LONG, max_examples=100 if LONG else 50)
settings.load_profile("steady")


def many(examples: int) -> int:
    """How many random examples a slow test takes: all of them when long tests are asked for, else a sixth."""
    return examples if LONG else examples // 6

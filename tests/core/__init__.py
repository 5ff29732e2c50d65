"""Tests of the core alone. No database, no server."""

import os

from hypothesis import settings

settings.register_profile("steady", deadline=None)
settings.load_profile("steady")

LONG = os.environ.get("STILLPAGE_LONG_TESTS") == "1"


def many(examples: int) -> int:
    """How many random examples a slow test takes: all of them when long tests are asked for, else a sixth."""
    return examples if LONG else examples // 6

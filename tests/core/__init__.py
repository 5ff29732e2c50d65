"""Tests of the core alone. No database, no server."""

from hypothesis import settings

settings.register_profile("steady", deadline=None)
settings.load_profile("steady")

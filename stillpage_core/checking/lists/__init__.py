"""Checks of lists."""

from . import list_as_breaks, list_broken, list_of_one, list_typed

CHECKS = (list_typed, list_of_one, list_broken, list_as_breaks)

"""Checks of pictures."""

from . import (
    picture_alt_file_name,
    picture_alt_long,
    picture_alt_opening,
    picture_alt_twice,
    picture_decorative_worded,
    picture_enlarged,
    picture_gone,
    picture_heavy,
    picture_of_words,
    picture_without_alt,
)

CHECKS = (
    picture_gone,
    picture_without_alt,
    picture_alt_file_name,
    picture_alt_opening,
    picture_alt_long,
    picture_alt_twice,
    picture_decorative_worded,
    picture_enlarged,
    picture_heavy,
    picture_of_words,
)

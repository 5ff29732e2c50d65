"""Checks of the words themselves: their language, their look, how they read, and the space between them."""

from . import (
    breaks_as_space,
    contrast_too_low,
    equation_unreadable,
    hard_to_read,
    language_unknown,
    language_unmarked,
    paint_unknown,
    paragraph_empty,
    paragraph_long,
    sentence_long,
    spaces_in_rows,
    strong_throughout,
    underlined,
    word_doubled,
    words_in_capitals,
)

CHECKS = (
    language_unknown,
    language_unmarked,
    contrast_too_low,
    paint_unknown,
    words_in_capitals,
    underlined,
    strong_throughout,
    paragraph_long,
    sentence_long,
    hard_to_read,
    paragraph_empty,
    spaces_in_rows,
    breaks_as_space,
    word_doubled,
    equation_unreadable,
)

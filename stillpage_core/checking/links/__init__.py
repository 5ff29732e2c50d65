"""Checks of links, and of calls to action, which are links that stand out."""

from . import (
    call_without_destination,
    link_bare_address,
    link_dead,
    link_document_untold,
    link_empty,
    link_failed_outside,
    link_neighbours,
    link_new_window,
    link_out_of_reach,
    link_same_words,
    link_vague,
    read_next_empty,
)

CHECKS = (
    link_vague,
    link_bare_address,
    link_empty,
    link_same_words,
    link_neighbours,
    link_new_window,
    link_dead,
    link_out_of_reach,
    link_document_untold,
    link_failed_outside,
    call_without_destination,
    read_next_empty,
)

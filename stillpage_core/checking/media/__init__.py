"""Checks of items of the media library, and of what moves or sounds.

A kind of embed brings its checks as files here: `Subject.nodes` gives its nodes by kind, and the resolver its items.
"""

from . import (
    captions_unchecked,
    captions_wanting,
    document_unread,
    document_untagged,
    download_gone,
    downloads_empty,
    film_gone,
    film_heavy,
    film_large,
    film_not_ready,
    film_starts,
    film_untitled,
    film_without_captions,
    hosted_gone,
    hosted_uncaptioned,
    item_binned,
    item_elsewhere,
    item_signed_in,
    moves_by_itself,
    sound_without_transcript,
)

CHECKS = (
    item_binned,
    item_elsewhere,
    item_signed_in,
    moves_by_itself,
    film_gone,
    film_not_ready,
    film_without_captions,
    captions_unchecked,
    captions_wanting,
    sound_without_transcript,
    film_starts,
    film_heavy,
    film_large,
    film_untitled,
    hosted_gone,
    hosted_uncaptioned,
    download_gone,
    document_unread,
    document_untagged,
    downloads_empty,
)

"""Checks of items of the media library, and of what moves or sounds.

A kind of embed brings its checks as files here: `Subject.nodes` gives its nodes by kind, and the resolver its items.
"""

from . import item_binned, item_elsewhere, item_signed_in, moves_by_itself

CHECKS = (item_binned, item_elsewhere, item_signed_in, moves_by_itself)

"""Addresses and the tree of pages."""

from .addresses import RESERVED, AddressError, check_slug, page_path, slug_from_title

__all__ = ["RESERVED", "AddressError", "check_slug", "page_path", "slug_from_title"]

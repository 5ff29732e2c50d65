"""Checks of the page as a whole: its title, description, address and weight."""

from . import (
    address_unfit,
    copied_name,
    description_cut,
    description_double,
    description_missing,
    page_heavy,
    title_double,
    title_missing,
    title_wide,
)

CHECKS = (
    title_missing,
    title_double,
    title_wide,
    description_missing,
    description_double,
    description_cut,
    address_unfit,
    copied_name,
    page_heavy,
)

"""Checks of tables."""

from . import table_cell_unnamed, table_for_layout, table_header_empty, table_without_caption, table_without_header

CHECKS = (table_without_header, table_cell_unnamed, table_header_empty, table_for_layout, table_without_caption)

"""What the kinds share."""

PARTS = "paragraph | bulleted_list | numbered_list | picture | preformatted"
"""What may stand within a block that holds others."""

"""What the kinds share."""

PARTS = "paragraph | bulleted_list | numbered_list | picture | preformatted | film | sound | hosted"
"""What may stand within a block that holds others."""

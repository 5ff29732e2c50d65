"""What the kinds share."""

PARTS = " | ".join(
    "paragraph bulleted_list numbered_list picture preformatted film sound hosted animation paper post".split()
)
"""What may stand within a block that holds others."""

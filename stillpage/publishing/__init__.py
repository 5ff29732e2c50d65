"""Live copies: making them, and serving them to readers."""

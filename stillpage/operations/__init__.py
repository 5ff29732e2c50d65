"""Commands for bringing an installation up and looking after it."""

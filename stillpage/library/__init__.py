"""The media library: items, their files, and how files come in and go out."""

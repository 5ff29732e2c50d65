"""Pages, their place in the Contents, and their working copies."""

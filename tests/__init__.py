"""The tests. ``core`` needs no database; ``api`` speaks HTTP to Django's test client; ``browser`` drives Chromium;
``outside`` holds what we made against references that others made.
"""

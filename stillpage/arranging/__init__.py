"""Arranging a site's pages: placing, naming, showing, copying, putting into the bin, and undoing each of these.

Nothing here renders: whatever of the live pages is touched is marked, and made anew by and by
(`publishing.freshness`). Nothing here asks who may: the API does.
"""

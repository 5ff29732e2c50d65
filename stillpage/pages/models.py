"""Pages: where they stand in the tree of their site, and their addresses."""

from __future__ import annotations

from django.db import models

from stillpage.sites.models import Site
from stillpage.written.models import Written

EXACT = "utf8mb4_bin"
"""The collation of addresses: two that differ in any character are two."""


class Page(Written):
    """A page: something written that has an address. Here is kept its place: its site, its parent, its position among
    its siblings and its address.

    ``path`` is kept beside ``slug`` so that a page is found by its address in one step; `tree` keeps them in accord.
    The site's first page has an empty slug and the path "/".
    """

    written = models.OneToOneField(
        Written, on_delete=models.CASCADE, parent_link=True, primary_key=True, db_column="id", related_name="page"
    )
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="pages")
    parent = models.ForeignKey("self", on_delete=models.PROTECT, null=True, blank=True, related_name="children")
    position = models.PositiveIntegerField()
    slug = models.CharField(max_length=80, blank=True, db_collation=EXACT)
    path = models.CharField(max_length=500, db_collation=EXACT)
    in_navigation = models.BooleanField(default=True)

    class Meta:
        ordering = ["position", "pk"]
        constraints = [models.UniqueConstraint(fields=["site", "path"], name="one_page_an_address")]

    def __str__(self) -> str:
        return f"{self.site.host}{self.path}"


LIGHT = ("working_copy__document", "live_copy__document", "live_copy__html", "live_copy__html_gzip")
"""What need not be loaded of a page to tell its title and its state."""


def page_of(written: Written) -> Page | None:
    """The page that something written is; None where it is of another sort."""
    return written if isinstance(written, Page) else getattr(written, "page", None)

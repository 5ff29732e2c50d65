"""Pages: where they stand in the tree of their site, their addresses, and where addresses lead that they had."""

from __future__ import annotations

import secrets
from typing import Any, ClassVar

from django.conf import settings
from django.db import models

from stillpage.sites.models import Site
from stillpage.written.models import Version, Written

EXACT = "utf8mb4_bin"
"""The collation of addresses: two that differ in any character are two."""


class InTree(models.Manager["Page"]):
    """The pages that stand in a tree: those in the bin are none of them."""

    def get_queryset(self) -> models.QuerySet[Page]:
        return super().get_queryset().filter(binned_at__isnull=True)


class Page(Written):
    """A page: something written that has an address. Here is kept its place: its site, its parent, its position among
    its siblings and its address.

    ``path`` is kept beside ``slug`` so that a page is found by its address in one step; `tree` keeps them in accord.
    The site's first page has an empty slug and the path "/". While ``slug_follows``, the address part is made anew
    when the title changes; that ends with the first publishing.

    An entry with ``elsewhere`` is a link to another address: it has a name and a place, and no text that readers see.

    ``objects`` are the pages of the trees. A page in the bin keeps its parent and position; its path is none that
    anybody can ask for, so its address is free. It came there with all that stood under ``binned_with``; ``was_live``
    is what readers had of it.
    """

    written = models.OneToOneField(
        Written, on_delete=models.CASCADE, parent_link=True, primary_key=True, db_column="id", related_name="page"
    )
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="pages")
    parent = models.ForeignKey("self", on_delete=models.PROTECT, null=True, blank=True, related_name="children")
    position = models.PositiveIntegerField()
    slug = models.CharField(max_length=80, blank=True, db_collation=EXACT)
    path = models.CharField(max_length=500, db_collation=EXACT)
    slug_follows = models.BooleanField(default=False)
    in_navigation = models.BooleanField(default=True)
    hidden = models.BooleanField(default=False, help_text="Live for whoever has its address, and told to nobody.")
    elsewhere = models.CharField(max_length=2000, blank=True, help_text="Of an entry that is a link: where it leads.")
    copied_title = models.CharField(max_length=200, blank=True, help_text="The title of the page it was copied from.")
    binned_at = models.DateTimeField(null=True)
    binned_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    binned_with = models.ForeignKey("self", on_delete=models.SET_NULL, null=True, related_name="binned")
    was_live = models.ForeignKey(Version, on_delete=models.SET_NULL, null=True, related_name="+")
    was_live_since = models.DateTimeField(null=True)
    was_live_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")

    objects: ClassVar[models.Manager[Page]] = InTree()
    every = models.Manager["Page"]()

    class Meta:
        base_manager_name = "every"
        ordering = ["position", "pk"]
        constraints = [models.UniqueConstraint(fields=["site", "path"], name="one_page_an_address")]
        indexes = [
            models.Index(fields=["site", "parent", "position"], name="page_place"),
            models.Index(fields=["site", "binned_at"], name="page_bin"),
        ]

    def __str__(self) -> str:
        return f"{self.site.host}{self.path}"


class Redirect(models.Model):
    """An address that leads on: to a page, wherever that is by now, or to an address elsewhere; never to an address of
    a site, so there can be no chain and no loop. One that leads to neither says that what was there is gone for good.
    """

    class Why(models.TextChoices):
        MOVED = "moved", "The page was moved"
        RENAMED = "renamed", "The page’s address was changed"
        GONE = "gone", "It is gone for good"
        BY_HAND = "by hand", "Made by hand"

    site = models.ForeignKey(Site, on_delete=models.CASCADE, related_name="redirects")
    path = models.CharField(max_length=500, db_collation=EXACT)
    page = models.ForeignKey(Page, on_delete=models.SET_NULL, null=True, blank=True, related_name="redirects")
    address = models.CharField(max_length=2000, blank=True)
    why = models.CharField(max_length=10, choices=Why.choices)
    made_at = models.DateTimeField(auto_now_add=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    used_on = models.DateField(null=True)

    class Meta:
        ordering = ["path"]
        constraints = [models.UniqueConstraint(fields=["site", "path"], name="one_redirect_an_address")]

    def __str__(self) -> str:
        return f"{self.site.host}{self.path}"


class TreeAct(models.Model):
    """Something that was done to pages of a tree, so that it can be undone. ``before`` is what is needed for that: of
    each page that was chosen, in order, its number and the facts that were others (`arranging.undoing`)."""

    class Sort(models.TextChoices):
        ADDED = "added"
        PLACED = "placed"
        SHOWN = "shown"
        BINNED = "binned"
        RESTORED = "restored"

    site = models.ForeignKey(Site, on_delete=models.CASCADE, related_name="acts")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True, db_index=True)
    sort = models.CharField(max_length=10, choices=Sort.choices)
    sentence = models.CharField(max_length=300)
    before: Any = models.JSONField(default=list)
    undone = models.BooleanField(default=False)

    class Meta:
        ordering = ["-at", "-id"]


def new_token() -> str:
    """What nobody can guess: 192 bits at random."""
    return secrets.token_urlsafe(24)


class Preview(models.Model):
    """An address at which whoever has it reads a page's working copy, ``until`` a day, or until it is ended."""

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="previews")
    token = models.CharField(max_length=40, unique=True, default=new_token, db_collation=EXACT)
    until = models.DateField()
    made_at = models.DateTimeField(auto_now_add=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    ended_at = models.DateTimeField(null=True)
    visits = models.PositiveIntegerField(default=0)
    seen_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-made_at", "-id"]


LIGHT = ("working_copy__document", "live_copy__document", "live_copy__html", "live_copy__html_gzip")
"""What need not be loaded of a page to tell its title and its state."""


def page_of(written: Written) -> Page | None:
    """The page that something written is; None where it is of another sort."""
    return written if isinstance(written, Page) else getattr(written, "page", None)

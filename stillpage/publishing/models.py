"""What readers get."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from stillpage.pages.models import EXACT, Page
from stillpage.people.models import Session
from stillpage.sites.models import Site
from stillpage.written.models import Text, Version, Written


class Rendered(models.Model):
    """A page as bytes, ready to be sent. ``address`` is the host and the path together; ``frame`` is the number of its
    site's frame (`Site.frame`) that it was rendered in, 0 before it ever was."""

    frame = models.PositiveIntegerField(default=0)
    address = models.CharField(max_length=700, unique=True, null=True, db_collation=EXACT)
    html = models.BinaryField()
    html_gzip = models.BinaryField()
    etag = models.CharField(max_length=40)
    policy = models.CharField(
        max_length=1000, blank=True, help_text="What a browser may load on it; empty for what every page may."
    )
    rendered_at = models.DateTimeField()

    class Meta:
        abstract = True


class LiveCopy(Text, Rendered):
    """What was published: the text, and, of what has an address, what was rendered from it for readers. Of anything
    else ``site`` and ``address`` are none, and there are no bytes; it shows in what uses it.

    What was rendered may be older than the text, or than what the text names; `freshness` tells, and mends it. Its
    bytes from ``text_from`` to ``text_to`` are the text, the others what stands around.
    """

    written = models.OneToOneField(Written, on_delete=models.PROTECT, primary_key=True, related_name="live_copy")
    site = models.ForeignKey(Site, on_delete=models.PROTECT, null=True, related_name="live_copies")
    label = models.CharField(max_length=200, blank=True, help_text="What links around other pages call it.")
    head = models.JSONField(default=dict, help_text="What its head tells machines, as it was found when rendered.")
    first_at = models.DateTimeField(null=True, help_text="When it was published for the first time.")
    text_from = models.PositiveIntegerField(default=0)
    text_to = models.PositiveIntegerField(default=0)
    published_at = models.DateTimeField()
    published_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    kept = models.ForeignKey(
        Version, on_delete=models.PROTECT, null=True, related_name="+", help_text="The version that readers see."
    )

    class Meta:
        indexes = [
            models.Index(fields=["site", "frame"], name="live_frame"),
            models.Index(fields=["site", "-first_at"], name="live_newest"),
        ]


class Change(models.Model):
    """Something that live copies are made from has changed, and which of them is not marked yet (`freshness.spread`).

    ``number`` is an item's whose files or words are others; that of something written whose address is, or that went
    live or was withdrawn; a page's of which something is shown around others: its title, its place in the tree; a
    page's that has another address, and all under it; or a site's of which what stands around all pages is another.
    """

    class Sort(models.TextChoices):
        ITEM = "item"
        WRITTEN = "page"
        AROUND = "around"
        BRANCH = "branch"
        SITE = "site"

    sort = models.CharField(max_length=10, choices=Sort.choices)
    number = models.BigIntegerField()


class OutOfDate(models.Model):
    """A live copy is to be rendered anew: its ``text`` too, or only what stands around it.

    Marks are only ever added, and taken away by who renders, those that were there before anything was read; so none
    is lost that comes while something is rendered.
    """

    page = models.ForeignKey(Page, on_delete=models.CASCADE, db_constraint=False, related_name="+")
    text = models.BooleanField()


class NotFoundPage(Rendered):
    """What a site answers when there is nothing at an address. ``address`` is the host alone."""

    site = models.OneToOneField(Site, on_delete=models.CASCADE, primary_key=True, related_name="not_found_page")


class ReaderPass(models.Model):
    """A ticket of a reader for a public site, or, once it is ``taken``, the pass that their browser carries there;
    ``digest`` is the SHA-256 of either. It goes with the session that it was given for."""

    digest = models.CharField(max_length=64, unique=True)
    session = models.ForeignKey(Session, on_delete=models.CASCADE, related_name="passes")
    site = models.ForeignKey(Site, on_delete=models.CASCADE, related_name="+")
    taken = models.BooleanField(default=False)
    made_at = models.DateTimeField(auto_now_add=True)


class LastCheck(models.Model):
    """What the page check found the last time that a page was checked, by whoever wrote on it or for the site's table.
    Of a text with another ``digest`` than the working copy's it says what was found before the page changed."""

    page = models.OneToOneField(Page, on_delete=models.CASCADE, primary_key=True, related_name="last_check")
    site = models.ForeignKey(Site, on_delete=models.CASCADE, related_name="+")
    digest = models.CharField(max_length=40)
    blocks = models.PositiveIntegerField()
    mend = models.PositiveIntegerField()
    look = models.PositiveIntegerField()
    rank = models.PositiveIntegerField(help_text="The higher, the more there is to do.")
    first = models.CharField(max_length=300, blank=True, help_text="What is found first of what weighs most.")
    checked_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["site", "rank"], name="check_rank")]

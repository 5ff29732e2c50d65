"""What readers get."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from stillpage.pages.models import EXACT, KeptText, Page, Text
from stillpage.people.models import Session
from stillpage.sites.models import Site


class Rendered(models.Model):
    """A page as bytes, ready to be sent. ``address`` is the host and the path together."""

    address = models.CharField(max_length=700, unique=True, db_collation=EXACT)
    html = models.BinaryField()
    html_gzip = models.BinaryField()
    etag = models.CharField(max_length=40)
    rendered_at = models.DateTimeField()

    class Meta:
        abstract = True


class LiveCopy(Text, Rendered):
    """The page as readers see it: the text that was published, and what was rendered from it."""

    page = models.OneToOneField(Page, on_delete=models.PROTECT, primary_key=True, related_name="live_copy")
    published_at = models.DateTimeField()
    published_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    kept = models.ForeignKey(
        KeptText, on_delete=models.PROTECT, null=True, related_name="+", help_text="The version that readers see."
    )


class LiveLink(models.Model):
    """A link from a live copy to a page, so that it is rendered anew when that page's address or state changes."""

    source = models.ForeignKey(LiveCopy, on_delete=models.CASCADE, related_name="links")
    target = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="linked_from")


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

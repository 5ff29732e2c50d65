"""A public site."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class Site(models.Model):
    """A public website: a name, a host of its own, a theme and (in `pages`) a tree of pages."""

    name = models.CharField(max_length=120, unique=True)
    host = models.CharField(max_length=200, unique=True, help_text="The host readers ask for, without a port.")
    theme = models.CharField(max_length=40, help_text="The theme's name, a value of data-theme in theme/page.css.")
    language = models.CharField(max_length=20, default="en", help_text="BCP 47 language tag of the site's text.")
    footer = models.CharField(max_length=500, blank=True)
    severities = models.JSONField(
        default=dict, blank=True, help_text="By check: “blocks”, “mend”, “look” or null (off), in place of its own."
    )
    page_budget = models.PositiveIntegerField(default=1500, help_text="What a page may weigh, in kB.")
    hardest_grade = models.PositiveSmallIntegerField(
        default=12, help_text="How many years at school a text may ask for."
    )
    authors_may_publish = models.BooleanField(
        default=True, help_text="Whether authors put their own pages live, or approvers do."
    )

    description = models.CharField(max_length=500, blank=True)
    picture = models.ForeignKey("library.Item", on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    closed_at = models.DateTimeField(
        null=True, blank=True, help_text="Since when readers get nothing of it; all of it is kept."
    )

    frame = models.PositiveIntegerField(
        default=1, help_text="Counts the changes of what stands around every page of the site."
    )

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name

    @property
    def origin(self) -> str:
        """The site's address without a path, as RFC 6454 has it."""
        port = f":{settings.PUBLIC_PORT}" if settings.PUBLIC_PORT else ""
        return f"{settings.PUBLIC_SCHEME}://{self.host}{port}"

"""Hosts of films and posts, and where items of the library stand that are films or posts elsewhere."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import models
from django.utils import timezone

from stillpage.library.models import Item
from stillpage_core.media.hosting import FilmHost


class Host(models.Model):
    """A host that films may be shown from (`media.hosting.FilmHost`). One that was taken away stays, so that it can be
    brought back, and so that what was shown from there is known."""

    name = models.CharField(max_length=80)
    addresses: Any = models.JSONField(default=list)
    endpoint = models.CharField(max_length=2000)
    frames = models.CharField(max_length=255)
    options: Any = models.JSONField(default=dict)
    added_at = models.DateTimeField(default=timezone.now)
    added_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    removed_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name

    @property
    def known(self) -> FilmHost:
        """What the core knows of it."""
        return FilmHost(self.name, tuple(self.addresses), self.endpoint, self.frames, self.options)


class Hosting(models.Model):
    """Where an item stands that is a film or a post elsewhere: what its host said when it was last asked.

    ``width`` and ``height`` are its proportions; ``cover_address`` is where the item's own file, its cover, came from.
    Of a post, ``words`` are its paragraphs, a line each, ``posted_at`` when it was written, ``pictures`` the numbers of
    its pictures in the library: as they were when it was brought in, for a post is kept as it was read.
    ``failures`` counts the answers in a row that were none, ``fault`` says how the last one went.
    """

    class State(models.TextChoices):
        UNASKED = "unasked", "Not asked yet"
        RIGHT = "right", "Answers"
        GONE = "gone", "Gone"
        SILENT = "silent", "Does not answer"

    item = models.OneToOneField(Item, on_delete=models.CASCADE, primary_key=True, related_name="hosting")
    host = models.ForeignKey(Host, on_delete=models.PROTECT, related_name="films")
    address = models.CharField(max_length=2000)
    digest = models.CharField(max_length=64, unique=True, help_text="SHA-256 of the address.")
    frame = models.CharField(max_length=2000, blank=True)
    author = models.CharField(max_length=200, blank=True)
    author_address = models.CharField(max_length=2000, blank=True)
    width = models.PositiveIntegerField(default=16)
    height = models.PositiveIntegerField(default=9)
    words = models.TextField(blank=True)
    posted_at = models.DateTimeField(null=True, blank=True)
    pictures: Any = models.JSONField(default=list)
    cover_address = models.CharField(max_length=2000, blank=True)
    state = models.CharField(max_length=20, choices=State.choices, default=State.UNASKED)
    fault = models.CharField(max_length=300, blank=True)
    failures = models.PositiveIntegerField(default=0)
    asked_at = models.DateTimeField(null=True, blank=True)
    next_at = models.DateTimeField(db_index=True)

    def __str__(self) -> str:
        return self.address

    @property
    def gone(self) -> str:
        """Why it cannot be had, once that is sure: what is gone at once, what is silent once it has been a while."""
        sure = self.state == self.State.GONE or (self.state == self.State.SILENT and self.failures >= 3)
        return self.fault if sure else ""

"""Items of the media library and their files."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class Item(models.Model):
    """One thing of the library.

    ``alt`` is what stands for a picture where it cannot be seen; ``description`` is for who looks for it here;
    ``credit`` says whose it is, ``licence`` under what terms it may be shown.
    """

    class Kind(models.TextChoices):
        PICTURE = "picture", "Picture"
        DOCUMENT = "document", "Document"

    kind = models.CharField(max_length=20, choices=Kind.choices)
    title = models.CharField(max_length=200)
    alt = models.CharField(max_length=1000, blank=True)
    description = models.CharField(max_length=2000, blank=True)
    credit = models.CharField(max_length=200, blank=True)
    licence = models.CharField(max_length=200, blank=True)
    added_at = models.DateTimeField()
    added_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")

    class Meta:
        ordering = ["-added_at", "-id"]
        indexes = [models.Index(fields=["kind", "-added_at"])]

    def __str__(self) -> str:
        return self.title


class File(models.Model):
    """A file of an item: the original as it came, or one made from it.

    ``width`` and ``height`` are 0 for a file that is no picture. ``name`` is its place in the storage and holds the
    hash of its bytes, so a file under one name never changes.
    """

    item = models.ForeignKey(Item, on_delete=models.CASCADE, related_name="files")
    name = models.CharField(max_length=200, unique=True)
    mime = models.CharField(max_length=100)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    size = models.PositiveBigIntegerField(help_text="In bytes.")
    sha256 = models.CharField(max_length=64, db_index=True)
    original = models.BooleanField()

    class Meta:
        ordering = ["-original", "width"]

    def __str__(self) -> str:
        return self.name

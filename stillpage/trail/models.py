"""Entries of the audit trail."""

from __future__ import annotations

from typing import Any

from django.db import models


class Unchangeable(Exception):
    """An entry of the trail is added and then stays as it is."""


class Entry(models.Model):
    """Something that was done. People and sites stand here by number and name, not as keys to other rows: an entry
    outlives whom it is about. The database's user for the application may add rows and read them, no more."""

    at = models.DateTimeField(auto_now_add=True, db_index=True)
    act = models.CharField(max_length=40, db_index=True, help_text="One of `noting.ACTS`.")
    sentence = models.CharField(max_length=500)
    person = models.PositiveBigIntegerField(null=True, db_index=True)
    name = models.CharField(max_length=320, blank=True, help_text="The person's, or what was given as one.")
    site = models.PositiveBigIntegerField(null=True, db_index=True)
    address = models.CharField(max_length=45, blank=True)
    agent = models.CharField(max_length=300, blank=True)
    facts: Any = models.JSONField(default=dict)

    class Meta:
        ordering = ["-id"]

    def save(self, *args: Any, **options: Any) -> None:
        if self.pk is not None:
            raise Unchangeable
        super().save(*args, **options)

    def delete(self, *args: Any, **options: Any) -> Any:
        raise Unchangeable

"""Outside addresses that pages lead to, and what came of testing them."""

from __future__ import annotations

from django.db import models


class Address(models.Model):
    """An address somewhere else. ``failures`` counts the tests in a row that went wrong; ``fault`` says in a sentence
    how the last one did. ``moved_to`` is where it leads for good."""

    class State(models.TextChoices):
        UNTESTED = "untested", "Not tested yet"
        RIGHT = "right", "Answers"
        UNSURE = "unsure", "Does not tell programs"
        GONE = "gone", "Gone"
        SILENT = "silent", "Does not answer"

    digest = models.CharField(max_length=64, unique=True, help_text="SHA-256 of the address.")
    address = models.CharField(max_length=2000)
    host = models.CharField(max_length=255, db_index=True)
    state = models.CharField(max_length=20, choices=State.choices, default=State.UNTESTED)
    status = models.PositiveSmallIntegerField(null=True, help_text="Of HTTP, where there was an answer.")
    fault = models.CharField(max_length=300, blank=True)
    failures = models.PositiveIntegerField(default=0)
    moved_to = models.CharField(max_length=2000, blank=True)
    tested_at = models.DateTimeField(null=True)
    next_test_at = models.DateTimeField(db_index=True)

    def __str__(self) -> str:
        return self.address

    @property
    def failed(self) -> bool:
        """Whether authors are told: what is gone at once, what is silent once it has been for some tests."""
        return self.state == self.State.GONE or (self.state == self.State.SILENT and self.failures >= 3)

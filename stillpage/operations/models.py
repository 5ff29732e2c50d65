"""What this installation is."""

from __future__ import annotations

from django.db import models


class Installation(models.Model):
    """One row: whether the database holds the demo, whose passwords everybody can read."""

    demo = models.BooleanField(default=False)
    begun_at = models.DateTimeField(auto_now_add=True)
    rendered_by = models.CharField(max_length=40, blank=True, help_text="The program that live pages were rendered by.")


def is_demo() -> bool:
    """Whether this is the demo."""
    return Installation.objects.filter(demo=True).exists()

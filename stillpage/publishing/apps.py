"""Publishing as Django starts it: live pages follow the library."""

from __future__ import annotations

from django.apps import AppConfig


class PublishingConfig(AppConfig):
    name = "stillpage.publishing"

    def ready(self) -> None:
        from stillpage.library.signals import when_items_change  # noqa: PLC0415 - models are there only now

        from .freshness import tell_items  # noqa: PLC0415

        when_items_change(tell_items)

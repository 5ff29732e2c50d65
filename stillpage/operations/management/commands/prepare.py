"""Bring the database up to date, and put the demo data into an empty one."""

from __future__ import annotations

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from demo.load import load_demo
from stillpage.publishing.models import NotFoundPage
from stillpage.publishing.publish import render_site
from stillpage.publishing.rendering import stylesheets
from stillpage.sites.models import Site


class Command(BaseCommand):
    help = "Migrate; load the demo data when there is no site yet; render pages anew when the theme has changed."

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("migrate", verbosity=0, interactive=False)
        if not Site.objects.exists():
            load_demo()
            return
        for site in Site.objects.all():
            shown = NotFoundPage.objects.filter(site=site).first()
            if shown is None or not all(address.encode() in bytes(shown.html) for address in stylesheets()):
                render_site(site)

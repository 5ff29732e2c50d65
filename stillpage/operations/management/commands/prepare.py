"""Bring the database up to date; for trying out, put the demo data into an empty one."""

from __future__ import annotations

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from stillpage.operations.models import Installation
from stillpage.operations.rights import grant_to
from stillpage.people.models import Person
from stillpage.publishing.freshness import renew
from stillpage.publishing.rendering import maker
from stillpage.sites.models import Site


class Command(BaseCommand):
    help = "Migrate, and render pages anew when the theme has changed. To be called as the database's owner."

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--demo", action="store_true", help="load the demo data when the database is empty")
        parser.add_argument("--for-user", default="", help="the database's user for the application, given its rights")

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("migrate", verbosity=0, interactive=False)
        if options["demo"] and not Site.objects.exists() and not Person.objects.exists():
            from demo.load import load_demo  # noqa: PLC0415 - an installation need not have the demo at all

            load_demo()
            Installation.objects.update(rendered_by=maker())
        else:
            Installation.objects.get_or_create(pk=1, defaults={"demo": self._was_demo()})
            self._renew()
        if options["for_user"]:
            grant_to(options["for_user"])

    def _was_demo(self) -> bool:
        """Whether a database from before there was such a mark was filled by the demo."""
        return Person.objects.filter(email__endswith="@example.invalid").exists()

    def _renew(self) -> None:
        """Have live pages rendered anew, in the background, when it was another program that rendered them."""
        if Installation.objects.filter(rendered_by=maker()).exists():
            return
        for site in Site.objects.all():
            renew(site)
        Installation.objects.update(rendered_by=maker())

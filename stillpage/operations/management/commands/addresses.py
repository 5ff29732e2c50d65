"""Print the addresses of the public sites, and the demo accounts."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from stillpage.operations.models import is_demo
from stillpage.sites.models import Site


class Command(BaseCommand):
    help = "Print where the public sites are, and which demo accounts there are."

    def handle(self, *args: Any, **options: Any) -> None:
        for site in Site.objects.all():
            self.stdout.write(f"  {site.name:<20} {site.origin}/")
        if not is_demo():
            return
        from demo.people import ACCOUNTS, PASSWORD  # noqa: PLC0415 - an installation need not have the demo at all

        self.stdout.write(f"\n  Demo accounts, all with the password “{PASSWORD}”:")
        for account in ACCOUNTS:
            self.stdout.write(f"  {account.username:<20} {account.name}, {account.says}")

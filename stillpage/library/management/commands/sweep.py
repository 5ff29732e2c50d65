"""Look whether the library's files and the database agree: python manage.py sweep [--mend]."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from stillpage.library.sweeping import sweep


class Command(BaseCommand):
    help = "Tell of files that no item knows and of items whose files are missing; with --mend, put it right."

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--mend", action="store_true", help="set aside, make anew, or say where the item stands")

    def handle(self, *args: Any, **options: Any) -> None:
        found = sweep(mend=options["mend"])
        for sentence in found.sentences(mended=options["mend"]):
            self.stdout.write(sentence)
        if not (found.unknown or found.lost or found.left):
            self.stdout.write("Every file is known, and every file that is known is there.")

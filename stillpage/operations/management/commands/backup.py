"""Write one file that holds everything: python manage.py backup FILE."""

from __future__ import annotations

import time
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from stillpage.operations.backup import BackupError, backup


class Command(BaseCommand):
    help = "Back up the database and the originals into one file, while the application runs."

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("file", type=Path, help="where to write it; what is there already is replaced")

    def handle(self, *args: Any, **options: Any) -> None:
        place: Path = options["file"].absolute()
        begun = time.monotonic()
        try:
            about = backup(place, lambda line: self.stderr.write(f"· {line}"))
        except (BackupError, OSError) as error:
            raise CommandError(str(error)) from error
        self.stdout.write(
            f"{place}: {about['originals']} originals and the database, {place.stat().st_size / 1e6:.1f} MB, "
            f"in {time.monotonic() - begun:.0f} s. Try it now and then: ./restore --check {place}"
        )

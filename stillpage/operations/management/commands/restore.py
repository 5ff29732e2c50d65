"""Bring a backup back into an empty installation: python manage.py restore FILE."""

from __future__ import annotations

import time
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError
from django.db.models import F

from stillpage.library import tasks
from stillpage.library.models import Item
from stillpage.operations.backup import BackupError
from stillpage.operations.restoring import check, restore
from stillpage.operations.rights import grant_to


class Command(BaseCommand):
    help = "Bring a backup back into an empty installation. To be called as the database's owner."

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--check", action="store_true", help="only read it to its end, and compare every sum")
        parser.add_argument("--identity", default="", help="the file with the key of an encrypted backup")
        parser.add_argument("--for-user", default="", help="the database's user for the application, given its rights")

    def handle(self, *args: Any, **options: Any) -> None:
        begun = time.monotonic()
        place: Path = options["file"].absolute()
        try:
            if options["check"]:
                about = check(place, options["identity"])
                self.stdout.write(f"The backup of {about['made_at']} is whole: {about['originals']} originals.")
                return
            about = restore(place, options["identity"], lambda line: self.stderr.write(f"· {line}"))
        except (BackupError, OSError) as error:
            raise CommandError(str(error)) from error
        if options["for_user"]:
            grant_to(options["for_user"])
        pictures = (
            Item.objects.filter(kind__in=(Item.Kind.PICTURE, Item.Kind.HOSTED))
            .order_by("-used_on", "pk")
            .values_list("pk", flat=True)
        )
        for number in pictures:
            tasks.make_files.enqueue(number)
        for number in Item.objects.filter(kind=Item.Kind.ANIMATION).values_list("pk", flat=True):
            tasks.draw_stills.enqueue(number)
        # The worker looks for these by itself.
        moving = Item.objects.filter(kind__in=(Item.Kind.FILM, Item.Kind.SOUND))
        films = moving.update(wanted=F("wanted") + 1, tries=0)
        self.stdout.write(
            f"The backup of {about['made_at']} is back, in {time.monotonic() - begun:.0f} s. Everybody signs in anew; "
            f"the smaller files of {len(pictures)} pictures are made again in the background, the most used first"
            f"{f', and those of {films} films and sounds' if films else ''}."
        )

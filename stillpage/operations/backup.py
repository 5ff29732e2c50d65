"""One file that holds an installation: its database, and the originals of its library. What can be made again is left
out, and so is what is only of the moment, as who is signed in.

The file is a tar archive (POSIX.1-2001, “pax”): ``about.json`` first, the originals, the database as SQL, and the
SHA-256 of each at the end. With `settings.BACKUP_RECIPIENT` it is encrypted by age (age-encryption.org/v1).
"""

from __future__ import annotations

import gzip
import hashlib
import io
import json
import os
import shutil
import subprocess
import tarfile
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import datetime
from pathlib import Path
from typing import IO, Any, cast

from django.conf import settings
from django.core.files.storage import default_storage
from django.db import connection
from django.db.migrations.recorder import MigrationRecorder
from django.utils import timezone

from stillpage.library.models import File

FORMAT = 1
ABOUT, DATABASE, SUMS = "about.json", "database.sql.gz", "checksums.json"
ORIGINALS = "originals/"
PASSING = (
    "people_session",
    "people_attempts",
    "people_counter",
    "publishing_readerpass",
    "written_writing",
    "django_tasks_database_dbtaskresult",
)
"""Tables whose rows are of the moment, or let somebody in."""
PIECE = 1024 * 1024
ENCRYPTED = b"age-encryption.org/"

Tell = Callable[[str], None]


class BackupError(Exception):
    """A backup cannot be made or read; the sentence says why."""


def program(*names: str) -> str:
    """The first of these programs that there is. Raises `BackupError` when there is none."""
    for name in names:
        if found := shutil.which(name):
            return found
    raise BackupError(f"The program {names[0]} is missing. Install it, then try again.")


def database_options() -> tuple[list[str], dict[str, str]]:
    """How MariaDB's own programs reach our database: options, and the environment with the password."""
    given = connection.settings_dict
    options = [f"--socket={given['HOST']}", f"--user={given['USER']}", "--default-character-set=utf8mb4"]
    return options, {**os.environ, "MYSQL_PWD": str(given["PASSWORD"])}


def backup(place: Path, tell: Tell = lambda _: None) -> dict[str, Any]:
    """Write everything into one file while the application goes on; gives what is told about it.

    The file is at ``place`` whole or not at all. The originals come before the database, so that every original that
    the database knows is there.

    Raises:
        BackupError: when there is too little room, or a program is missing or fails.
    """
    size = sum(File.objects.filter(original=True).values_list("size", flat=True))
    free = shutil.disk_usage(place.parent).free
    if free < size + settings.RESERVE:
        raise BackupError(f"{place.parent} has {free // PIECE} MB left, and about {size // PIECE} MB are needed.")
    about = _about(size)
    with _written(place) as out, tarfile.open(fileobj=out, mode="w|", format=tarfile.PAX_FORMAT) as archive:
        pack = _Pack(archive, tell)
        pack.add(ABOUT, json.dumps(about, indent=1).encode())
        pack.originals()
        pack.database()
        pack.originals()
        sums = json.dumps(pack.sums).encode()
        pack.add(SUMS, sums)
    return about


def _about(size: int) -> dict[str, Any]:
    return {
        "format": FORMAT,
        "made_at": timezone.now().isoformat(),
        "originals": File.objects.filter(original=True).count(),
        "bytes": size,
        "migrations": migrations(),
        "settings": {
            name: value
            for name, value in os.environ.items()
            if name.startswith("STILLPAGE_") and not any(word in name for word in ("KEY", "PASSWORD", "BROKER"))
        },
    }


def migrations() -> dict[str, list[str]]:
    """The migrations that the database has been through, by app."""
    found: dict[str, list[str]] = {}
    for app, name in sorted(MigrationRecorder(connection).applied_migrations()):
        found.setdefault(app, []).append(name)
    return found


class _Pack:
    """An archive that is being written, and the sums of what is in it."""

    def __init__(self, archive: tarfile.TarFile, tell: Tell) -> None:
        self.archive = archive
        self.tell = tell
        self.sums: dict[str, str] = {}
        self.bytes = 0

    def add(self, name: str, data: bytes) -> None:
        self.add_file(name, io.BytesIO(data), len(data))

    def add_file(self, name: str, content: IO[bytes], size: int) -> None:
        entry = tarfile.TarInfo(name)
        entry.size = size
        entry.mtime = int(timezone.now().timestamp())
        summed = _Summed(content)
        self.archive.addfile(entry, cast("IO[bytes]", summed))
        self.sums[name] = summed.digest.hexdigest()
        self.bytes += size

    def originals(self) -> None:
        """Every original that is not there yet."""
        rows = File.objects.filter(original=True).order_by("pk")
        for count, (name, size) in enumerate(rows.values_list("name", "size").iterator(500), 1):
            if ORIGINALS + name in self.sums:
                continue
            if count % 100 == 0:
                self.tell(f"{count} originals, {self.bytes // PIECE} MB")
            try:
                with default_storage.open(name) as stored:
                    self.add_file(ORIGINALS + name, cast("IO[bytes]", stored), size)
            except FileNotFoundError:
                if File.objects.filter(name=name).exists():
                    self.tell(f"The file {name} is missing on the server; the backup is without it.")

    def database(self) -> None:
        self.tell("The database")
        with tempfile.TemporaryFile(dir=settings.VAR) as packed:
            with gzip.GzipFile(fileobj=packed, mode="wb", compresslevel=3) as out:
                _dump(cast(IO[bytes], out))
            size = packed.tell()
            packed.seek(0)
            self.add_file(DATABASE, packed, size)


def _dump(out: IO[bytes]) -> None:
    options, environment = database_options()
    name = str(connection.settings_dict["NAME"])
    command = [
        program("mariadb-dump", "mysqldump"),
        *options,
        "--single-transaction",
        "--skip-lock-tables",
        "--no-tablespaces",
        "--quick",
        "--hex-blob",
        *(f"--ignore-table-data={name}.{table}" for table in PASSING),
        name,
    ]
    with subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, env=environment) as dump:  # noqa: S603
        assert dump.stdout is not None
        assert dump.stderr is not None
        shutil.copyfileobj(dump.stdout, out, PIECE)
        said = dump.stderr.read().decode(errors="replace")
    if dump.returncode != 0:
        raise BackupError(f"The database could not be read: {said.strip()}")


class _Summed:
    """A file that is read once, and summed while it is."""

    def __init__(self, file: IO[bytes]) -> None:
        self.file = file
        self.digest = hashlib.sha256()

    def read(self, size: int = -1) -> bytes:
        data = self.file.read(size)
        self.digest.update(data)
        return data


@contextmanager
def _written(place: Path) -> Iterator[IO[bytes]]:
    """A file that is at its place once it is whole and on the disk for good."""
    beside = place.with_name(f".{place.name}.being-written")
    try:
        with beside.open("wb") as out:
            beside.chmod(0o600)
            if settings.BACKUP_RECIPIENT:
                with _encrypted(out) as plain:
                    yield plain
            else:
                yield out
            out.flush()
            os.fsync(out.fileno())
        beside.rename(place)
    finally:
        beside.unlink(missing_ok=True)


@contextmanager
def _encrypted(out: IO[bytes]) -> Iterator[IO[bytes]]:
    command = [program("age"), "--encrypt", "--recipient", settings.BACKUP_RECIPIENT]
    with subprocess.Popen(command, stdin=subprocess.PIPE, stdout=out, stderr=subprocess.PIPE) as age:  # noqa: S603
        assert age.stdin is not None
        assert age.stderr is not None
        yield age.stdin
        age.stdin.close()
        said = age.stderr.read().decode(errors="replace").strip()
    if age.returncode != 0:
        raise BackupError(f"The backup could not be encrypted: {said}")


def nightly(now: datetime, tell: Tell = lambda _: None) -> Path | None:
    """Make the backup of this night, if one is wanted and there is none; gives its place.

    `settings.BACKUP_FOLDER` says where, `settings.BACKUP_HOUR` from when on. Of the earlier ones, the newest
    `settings.BACKUPS_KEPT` stay, and none that is older than `settings.BACKUP_DAYS`.
    """
    if not settings.BACKUP_FOLDER or now.hour < settings.BACKUP_HOUR:
        return None
    folder = Path(settings.BACKUP_FOLDER)
    place = folder / f"still-page-{now:%Y-%m-%d}.backup"
    if place.exists():
        return None
    folder.mkdir(parents=True, exist_ok=True)
    backup(place, tell)
    _forget_old(folder, now)
    return place


def _forget_old(folder: Path, now: datetime) -> None:
    made = sorted(folder.glob("still-page-????-??-??.backup"), reverse=True)
    before = now.timestamp() - settings.BACKUP_DAYS * 86_400
    for count, each in enumerate(made):
        if count and (count >= settings.BACKUPS_KEPT or each.stat().st_mtime < before):
            each.unlink()

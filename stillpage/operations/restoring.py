"""Bringing back what a backup holds, into an installation that has nothing yet."""

from __future__ import annotations

import gzip
import hashlib
import json
import os
import shutil
import subprocess
import tarfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO, Any, cast

from django.conf import settings
from django.core.files.base import File as StoredFile
from django.core.files.storage import default_storage
from django.core.management import call_command
from django.db import connection
from django.db.migrations.loader import MigrationLoader

from .backup import (
    ABOUT,
    DATABASE,
    ENCRYPTED,
    FORMAT,
    ORIGINALS,
    PIECE,
    SUMS,
    BackupError,
    Tell,
    database_options,
    program,
)

_NEWER = "This backup was made by a newer version of Still Page. Install that, then try again."


def check(place: Path, identity: str = "") -> dict[str, Any]:
    """Read a backup from its beginning to its end, and compare every sum; gives what is told about it.

    ``identity`` is the file with the key, where the backup is encrypted.

    Raises:
        BackupError: when it is none, is damaged or cut short, or comes from a newer version.
    """
    sums: dict[str, str] = {}
    about: dict[str, Any] = {}
    told: dict[str, str] | None = None
    try:
        with _opened(place, identity) as archive:
            for entry in archive:
                content = archive.extractfile(entry)
                if content is None or entry.name.startswith("/") or ".." in Path(entry.name).parts:
                    raise BackupError(f"{place} holds “{entry.name}”, which no backup of ours does.")
                if entry.name == SUMS:
                    told = json.loads(content.read())
                    continue
                digest = hashlib.sha256()
                kept = b""
                while piece := content.read(PIECE):
                    digest.update(piece)
                    kept += piece if entry.name == ABOUT else b""
                if entry.name == ABOUT:
                    about = json.loads(kept)
                sums[entry.name] = digest.hexdigest()
    except (tarfile.TarError, ValueError, EOFError) as error:
        raise BackupError(f"{place} is no backup, or is damaged: {error}.") from error
    if told is None:
        raise BackupError(f"{place} ends before its end: it was cut short. Nothing was changed.")
    if told != sums or DATABASE not in sums:
        wrong = sorted(name for name in {*told, *sums} if told.get(name) != sums.get(name))
        parts = ", ".join(wrong[:3]) or DATABASE
        raise BackupError(f"{place} is damaged: {parts} is not what it was. Nothing was changed.")
    fits(about)
    return about


def fits(about: dict[str, Any]) -> None:
    """Raise `BackupError` when a backup comes from a newer version."""
    if about.get("format") != FORMAT:
        raise BackupError(_NEWER)
    known = MigrationLoader(None, ignore_no_migrations=True).disk_migrations or {}
    for app, names in about["migrations"].items():
        for name in names:
            if (app, name) not in known:
                raise BackupError(f"{_NEWER} It knows {app} {name}.")


def restore(place: Path, identity: str = "", tell: Tell = lambda _: None) -> dict[str, Any]:
    """Bring a backup back, and bring its database up to this version. It is checked before anything is touched.

    Raises:
        BackupError: when the installation is not empty, or as `check` does.
    """
    _require_empty()
    tell("Checking the backup")
    about = check(place, identity)
    count = 0
    with _opened(place, identity) as archive:
        for entry in archive:
            content = archive.extractfile(entry)
            assert content is not None
            if entry.name.startswith(ORIGINALS):
                default_storage.save(entry.name.removeprefix(ORIGINALS), StoredFile(cast("IO[Any]", content)))
                count += 1
                if count % 100 == 0:
                    tell(f"{count} of {about['originals']} originals")
            elif entry.name == DATABASE:
                tell("The database")
                _load(content)
    tell("Bringing the database up to date")
    connection.close()
    call_command("migrate", verbosity=0, interactive=False)
    return about


def _require_empty() -> None:
    with connection.cursor() as cursor:
        if connection.introspection.table_names(cursor):
            raise BackupError("This installation has data already. A backup comes back into an empty one only.")
    folder = Path(settings.MEDIA_ROOT)
    if folder.exists() and any(folder.iterdir()):
        raise BackupError(f"{folder} holds files already. A backup comes back into an empty installation only.")


def _load(content: IO[bytes]) -> None:
    options, environment = database_options()
    command = [program("mariadb", "mysql"), *options, str(connection.settings_dict["NAME"])]
    with subprocess.Popen(  # noqa: S603
        command, stdin=subprocess.PIPE, stderr=subprocess.PIPE, env=environment
    ) as client:
        assert client.stdin is not None
        assert client.stderr is not None
        try:
            with gzip.GzipFile(fileobj=content) as sql:
                shutil.copyfileobj(sql, client.stdin, PIECE)
            client.stdin.close()
        except BrokenPipeError:
            pass  # What went wrong, it says itself.
        said = client.stderr.read().decode(errors="replace").strip()
    if client.returncode != 0:
        raise BackupError(f"The database could not be brought back: {said}")


@contextmanager
def _opened(place: Path, identity: str) -> Iterator[tarfile.TarFile]:
    """The archive in a file, read once from its beginning to its end."""
    try:
        with place.open("rb") as file:
            encrypted = os.pread(file.fileno(), len(ENCRYPTED), 0) == ENCRYPTED
            if not encrypted:
                with tarfile.open(fileobj=file, mode="r|") as archive:
                    yield archive
                return
            if not identity:
                raise BackupError("This backup is encrypted. Say where its key is: --identity FILE.")
            command = [program("age"), "--decrypt", "--identity", identity]
            with subprocess.Popen(  # noqa: S603
                command, stdin=file, stdout=subprocess.PIPE, stderr=subprocess.PIPE
            ) as age:
                assert age.stdout is not None
                assert age.stderr is not None
                try:
                    with tarfile.open(fileobj=age.stdout, mode="r|") as archive:
                        yield archive
                except tarfile.TarError as error:
                    said = age.stderr.read().decode(errors="replace").strip()
                    raise BackupError(f"The backup could not be decrypted: {said or error}") from error
    except FileNotFoundError as error:
        raise BackupError(f"There is no file {place}.") from error

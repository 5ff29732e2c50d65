"""Where the library's files are kept on a disk."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any
from uuid import uuid4

from django.core.files.storage import FileSystemStorage

BESIDE = ".being-written-"
"""How the name of a file begins that is not whole yet."""


class WholeFiles(FileSystemStorage):
    """A folder in which a file is there whole or not at all: it is written beside its place, then put there at once.

    An original is on the disk for good before anybody is told of it; what is made of one can be made again.
    """

    def _save(self, name: str, content: Any) -> str:
        place = Path(self.path(name))
        place.parent.mkdir(parents=True, exist_ok=True)
        beside = place.with_name(f"{BESIDE}{uuid4().hex}")
        try:
            with beside.open("xb") as out:
                for chunk in content.chunks():
                    out.write(chunk)
                if place.name.startswith("original."):
                    out.flush()
                    os.fsync(out.fileno())
            if self.file_permissions_mode is not None:
                beside.chmod(self.file_permissions_mode)
            beside.rename(place)
        except BaseException:
            beside.unlink(missing_ok=True)
            raise
        return name

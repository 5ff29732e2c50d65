"""`./restore FILE`: set up whatever is missing, and bring a backup back into our empty data folder."""

from __future__ import annotations

import argparse
import os
import shutil
import subprocess
import sys
from pathlib import Path

from . import install
from .common import PYTHON, ROOT, Stop, check_room, guarded, say, var
from .mariadb import APPLICATION, Database, application_password
from .start import UNFINISHED, number, secret_key


def main() -> int:
    """Bring the database up, have it filled, and stop it again."""
    parser = argparse.ArgumentParser(prog="./restore", description="Bring a backup back into an empty installation.")
    parser.add_argument("file", type=Path)
    parser.add_argument("--identity", default="", help="the file with the key of an encrypted backup")
    arguments = parser.parse_args()
    here = Path(os.environ.get("STILLPAGE_CALLED_FROM", "."))
    file, folder = here / arguments.file, var()
    if not file.is_file():
        raise Stop(f"There is no file {file}.")
    check_room(folder, 500 + file.stat().st_size // 1024 // 1024)
    unfinished = folder / UNFINISHED
    if unfinished.exists():
        say("Removing what a restore that broke off has left")
        for name in ("mariadb", "media"):
            shutil.rmtree(folder / name, ignore_errors=True)
    elif (folder / "mariadb").exists() or (folder / "media").exists():
        raise Stop(f"{folder} holds an installation already. Set STILLPAGE_VAR to another folder, or move it away.")
    install.packages()
    install.python_environment()
    secret_key(folder)
    unfinished.touch()
    database = Database(folder / "mariadb", number("STILLPAGE_DB_PORT", 8406))
    os.environ |= {"STILLPAGE_VAR": str(folder), "STILLPAGE_DB_SOCKET": str(database.socket)}
    try:
        database.start()
        database.create(PYTHON, os.environ.get("STILLPAGE_DB_NAME", "stillpage"), application_password(folder))
        identity = ["--identity", here / arguments.identity] if arguments.identity else []
        command = [PYTHON, "manage.py", "restore", file, *identity, "--for-user", APPLICATION]
        if subprocess.run(command, cwd=ROOT, check=False).returncode != 0:
            raise Stop("The backup did not come back; the lines above say why.")
        unfinished.unlink()
    finally:
        database.stop()
    say("Done. ./start brings it up.")
    return 0


if __name__ == "__main__":
    sys.exit(guarded(main))

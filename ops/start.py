"""`./start`: set up what is missing, then run everything until Ctrl-C."""

from __future__ import annotations

import argparse
import os
import secrets
import shutil
import signal
import subprocess
import sys
import time
import urllib.error
import urllib.request
from pathlib import Path

from . import install
from .common import PYTHON, ROOT, Stop, check_room, guarded, run, say, var, wait_until
from .mariadb import Database
from .processes import Child, port_is_free


def _number(name: str, default: int) -> int:
    value = os.environ.get(name, str(default))
    if not value.isdigit() or not 0 < int(value) < 65536:
        raise Stop(f"{name} must be a port number, not “{value}”.")
    return int(value)


def _interrupt(*_: object) -> None:
    raise KeyboardInterrupt


def _helper(command: Command) -> Child:
    """A process beside the server; the worker, which makes files of pictures, gives way to it."""
    return Child(command, gives_way="work" in command)


def main() -> int:
    """Set up, start, print the addresses, and wait."""
    parser = argparse.ArgumentParser(prog="./start", description="Bring up Still Page on this machine.")
    parser.add_argument("--fresh", action="store_true", help="begin again from the demo data; everything else is gone")
    arguments = parser.parse_args()
    port, database_port = _number("STILLPAGE_PORT", 8400), _number("STILLPAGE_DB_PORT", 8406)
    commons_port = _number("STILLPAGE_COMMONS_PORT", 8411)
    folder = var()
    check_room(folder, 500)
    ports = ((port, "STILLPAGE_PORT"), (database_port, "STILLPAGE_DB_PORT"), (commons_port, "STILLPAGE_COMMONS_PORT"))
    for number, name in ports:
        if not port_is_free(number):
            raise Stop(f"Port {number} is in use; perhaps Still Page runs already. Set {name} to a free one.")
    signal.signal(signal.SIGTERM, _interrupt)
    if arguments.fresh:
        say("Removing the data of earlier runs")
        for name in ("mariadb", "media", "uploads"):
            shutil.rmtree(folder / name, ignore_errors=True)
    install.packages()
    install.libraries()
    _secret_key(folder)
    database = Database(folder / "mariadb", database_port)
    server: Child | None = None
    helpers: list[Child] = []
    commands: list[Command] = [
        [PYTHON, "manage.py", "work"],
        [PYTHON, "-m", "standins.commons", str(commons_port)],
    ]
    os.environ |= {
        "STILLPAGE_VAR": str(folder),
        "STILLPAGE_DB_SOCKET": str(database.socket),
        "STILLPAGE_PORT": str(port),
    }
    if "STILLPAGE_COMMONS" not in os.environ:
        os.environ["STILLPAGE_COMMONS"] = f"http://127.0.0.1:{commons_port}"
        os.environ["STILLPAGE_OUTSIDE_ALLOWED"] = f"127.0.0.1:{commons_port}"
    try:
        database.start()
        database.create(PYTHON, os.environ.get("STILLPAGE_DB_NAME", "stillpage"))
        install.static_files(folder)
        say("Bringing the database up to date")
        run([PYTHON, "manage.py", "prepare"], "Bringing the database up to date")
        say(f"Starting the application on 127.0.0.1:{port}")
        server = Child([PYTHON, "-m", "gunicorn", "--config", ROOT / "ops" / "gunicorn_conf.py", "stillpage.wsgi"])
        wait_until(lambda: _answers(port, server), 60, "The application did not answer.")
        helpers = [_helper(command) for command in commands]
        _welcome(port)
        _look_after(server, database, helpers, commands)
        raise Stop("The application ended by itself; the lines above say why.")
    finally:
        say("Stopping")
        for child in (server, *helpers):
            if child is not None:
                child.stop()
        database.stop()


Command = list[str | Path]


def _look_after(server: Child, database: Database, helpers: list[Child], commands: list[Command]) -> None:
    """Until the application ends: bring up again whatever else ends by itself."""
    while server.running:
        if not database.running:
            say("MariaDB ended by itself; bringing it up again")
            database.start()
        for place, command in enumerate(commands):
            if not helpers[place].running:
                say("A helper ended by itself; bringing it up again")
                helpers[place] = _helper(command)
                time.sleep(1)
        time.sleep(0.5)


def _secret_key(folder: Path) -> None:
    file = folder / "secret-key"
    if "STILLPAGE_SECRET_KEY" not in os.environ and not file.exists():
        with os.fdopen(os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as out:
            out.write(secrets.token_urlsafe(50))


def _answers(port: int, server: Child | None) -> bool:
    if server is not None and not server.running:
        raise Stop("The application ended while starting; the lines above say why.")
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/session", timeout=2) as answer:
            return bool(answer.status == 200)
    except (urllib.error.URLError, OSError):
        return False


def _welcome(port: int) -> None:
    lines = subprocess.run([PYTHON, "manage.py", "addresses"], cwd=ROOT, capture_output=True, text=True, check=True)
    print(f"\n  Authoring            http://localhost:{port}/")
    print(f"  A commons (stand-in) {os.environ['STILLPAGE_COMMONS']}/")
    print(f"{lines.stdout}\n  Ctrl-C stops everything.", flush=True)


if __name__ == "__main__":
    sys.exit(guarded(main))

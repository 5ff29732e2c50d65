"""`./start`: set up whatever is missing, bring everything up, and wait for Ctrl-C.

For trying out on one machine, with the demo's data and its known passwords; with `--empty`, without them. How it is run
in earnest, says `docs/running.md`.
"""

from __future__ import annotations

import argparse
import http.client
import os
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Callable, Iterable
from pathlib import Path

from . import install
from .common import PYTHON, ROOT, WEB, Stop, check_room, guarded, run, say, var, wait_until
from .front import Front, Settings, groups, socket_of
from .mariadb import APPLICATION, Database, application_password
from .processes import Child, port_is_free


def number(name: str, default: int) -> int:
    value = os.environ.get(name, str(default))
    if not value.isdigit() or not 0 < int(value) < 65536:
        raise Stop(f"{name} must be a port number, not “{value}”.")
    return int(value)


def _interrupt(*_: object) -> None:
    raise KeyboardInterrupt


def _arguments() -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="./start", description="Bring up Still Page on this machine, to try it out.")
    parser.add_argument(
        "--fresh", action="store_true", help="begin again from nothing; everything that is there is gone"
    )
    parser.add_argument(
        "--empty", action="store_true", help="without the demo: asks for a first administrator and a first site"
    )
    parser.add_argument(
        "--dev",
        action="store_true",
        help="for who works on the code: server and interface follow the files as they change; no front server",
    )
    return parser.parse_args()


def main() -> int:
    """Set up, start, print the addresses, and wait."""
    arguments = _arguments()
    port, database_port = number("STILLPAGE_PORT", 8400), number("STILLPAGE_DB_PORT", 8406)
    stand_ins = {name: number(f"STILLPAGE_{name.upper()}_PORT", port) for name, port in STAND_INS.items()}
    folder = var()
    check_room(folder, 500)
    ports = ((port, "STILLPAGE_PORT"), (database_port, "STILLPAGE_DB_PORT"))
    _require_free([*ports, *((port, f"STILLPAGE_{name.upper()}_PORT") for name, port in stand_ins.items())])
    signal.signal(signal.SIGTERM, _interrupt)
    signal.signal(signal.SIGINT, _interrupt)  # Who starts this in the background may have had it ignored.
    if arguments.fresh:
        _remove_data(folder)
    if (folder / UNFINISHED).exists():
        raise Stop("A backup was being brought back and is not whole. Run ./restore again, or ./start --fresh.")
    fronted = os.environ.get("STILLPAGE_FRONT", "nginx") != "none" and not arguments.dev
    install.packages(front=fronted)
    node = install.libraries()
    secret_key(folder)
    database = Database(folder / "mariadb", database_port)
    parts: list[Part] = []
    os.environ |= {
        "STILLPAGE_VAR": str(folder),
        "STILLPAGE_DB_SOCKET": str(database.socket),
        "STILLPAGE_PORT": str(port),
        "STILLPAGE_FRONT": "nginx" if fronted else "none",
        "STILLPAGE_DEV": "1" if arguments.dev else "0",
    }
    _point_to_stand_ins(stand_ins)
    try:
        database.start()
        if not arguments.dev:
            install.static_files(folder)
        say(f"Starting the application on 127.0.0.1:{port}")
        password = application_password(folder)
        os.environ |= {"STILLPAGE_DB_USER": APPLICATION, "STILLPAGE_DB_PASSWORD": password}
        parts = _parts(folder, fronted=fronted)
        for part in parts:
            part.start()
        # While it reads its code, the database is made ready for it.
        _prepare(database, password, empty=arguments.empty)
        doors: list[Door] = [socket_of(folder, name) for name in groups()] if fronted else [port]
        _wait_for(doors, parts)
        if fronted:
            front = Front(Settings.of_environment(folder, port))
            parts.append(Part("The front server", front.start))
            parts[-1].start()
            _wait_for([port], parts)
        for part in (*_helpers(stand_ins), *([_following(node)] if arguments.dev else [])):
            parts.append(part)
            part.start()
        _welcome(port)
        _look_after([Part("MariaDB", database.begin_again, database.child), *parts])
    finally:
        say("Stopping")
        for part in reversed(parts):
            part.ask_to_end()
        for part in parts:
            part.stop()
        database.stop()
    return 0


STAND_INS = {"commons": 8411, "films": 8412, "posts": 8413}
"""The outside services that are simulated here, and their ports."""
PORTS = ("STILLPAGE_PORT", "STILLPAGE_DB_PORT", *(f"STILLPAGE_{name.upper()}_PORT" for name in STAND_INS))
"""The names of the variables that say on which port of this machine something answers."""


def _point_to_stand_ins(ports: dict[str, int]) -> None:
    """Unless it is said where an outside service is, it is the stand-in that is started here."""
    allowed = [os.environ.get("STILLPAGE_OUTSIDE_ALLOWED", "")]
    for name, port in ports.items():
        if f"STILLPAGE_{name.upper()}" not in os.environ:
            os.environ[f"STILLPAGE_{name.upper()}"] = f"http://127.0.0.1:{port}"
            allowed.append(f"127.0.0.1:{port}")
    os.environ["STILLPAGE_OUTSIDE_ALLOWED"] = ",".join(filter(None, allowed))


def _require_free(ports: Iterable[tuple[int, str]]) -> None:
    for number, name in ports:
        if not port_is_free(number):
            raise Stop(f"Port {number} is in use; perhaps Still Page runs already. Set {name} to a free one.")


def _remove_data(folder: Path) -> None:
    say("Removing the data of earlier runs")
    for name in ("mariadb", "media", "uploads"):
        shutil.rmtree(folder / name, ignore_errors=True)
    (folder / UNFINISHED).unlink(missing_ok=True)


def _prepare(database: Database, password: str, *, empty: bool) -> None:
    """The database's tables, its first rows, and the user as whom the application comes in."""
    name = os.environ.get("STILLPAGE_DB_NAME", "stillpage")
    database.create(PYTHON, name, password)
    say("Bringing the database up to date")
    owner = {"STILLPAGE_DB_USER": "root", "STILLPAGE_DB_PASSWORD": ""}
    command = [str(PYTHON), "manage.py", "prepare", "--for-user", APPLICATION]
    run([*command, *([] if empty else ["--demo"])], "Bringing the database up to date", env=owner)
    if empty:
        begun = subprocess.run([PYTHON, "manage.py", "begin"], cwd=ROOT, check=False)
        if begun.returncode != 0:
            raise Stop("There is no administrator yet; the lines above say how to name one.")


LONGEST_PAUSE = 20
STEADY = 20
"""Seconds: the longest pause before something is brought up again, and how long it has to run to be held well."""


class Pauses:
    """When to try again what has ended by itself: at once, then after pauses that grow until it runs steadily."""

    def __init__(self) -> None:
        self.failures = 0
        self.next = 0.0
        self.begun = 0.0

    def began(self) -> None:
        """It was brought up just now."""
        self.begun = time.monotonic()

    def ended(self) -> float:
        """It was seen to have ended; gives the seconds until it is tried again."""
        now = time.monotonic()
        if now - self.begun > STEADY:
            self.failures = 0
        pause: float = min(LONGEST_PAUSE, 2**self.failures - 1)
        self.failures += 1
        self.next = now + pause
        return pause


class Part:
    """Something that runs beside others: a process, and how to start it again when it has ended by itself."""

    def __init__(self, name: str, begin: Callable[[], Child], child: Child | None = None) -> None:
        self.name = name
        self.begin = begin
        self.child = child
        self.pauses = Pauses()
        self.waits = False

    def start(self) -> None:
        self.child = self.begin()
        self.pauses.began()

    def look_after(self) -> None:
        """Bring it up again when it has ended, now or after a pause."""
        if self.running:
            return
        if not self.waits:
            self.waits = True
            if self.child is not None:
                self.child.end_what_is_left()
            pause = self.pauses.ended()
            say(f"{self.name} ended by itself; bringing it up again" + (f" in {pause:.0f} s" if pause else ""))
        if time.monotonic() >= self.pauses.next:
            self.waits = False
            try:
                self.start()
            except (Stop, OSError) as error:
                self.child = None
                say(f"{self.name} could not be brought up: {error}")

    @property
    def running(self) -> bool:
        return self.child is not None and self.child.running

    def signs(self) -> tuple[int, int]:
        return self.child.signs() if self.child else (0, 0)

    def ask_to_end(self) -> None:
        if self.child is not None:
            self.child.ask_to_end()

    def stop(self) -> None:
        if self.child is not None:
            self.child.stop()


UNFINISHED = "restoring"
"""A file that is there as long as a restore has not come to its end: the next one begins again from nothing."""
Command = list[str | Path]


def _process(name: str, command: Command, *, gives_way: int = 0, **env: str) -> Part:
    return Part(name, lambda: Child(command, gives_way=gives_way, env=env))


def _parts(folder: Path, *, fronted: bool) -> list[Part]:
    """The application: a server for each group behind the front, or one for all where there is none."""
    command: Command = [PYTHON, "-m", "gunicorn", "--config", ROOT / "ops" / "gunicorn_conf.py", "stillpage.wsgi"]
    if not fronted:
        return [_process("The application", command)]
    (folder / "run").mkdir(exist_ok=True)
    return [
        _process(f"The application for {name}", command, gives_way=group.gives_way, STILLPAGE_GROUP=name)
        for name, group in groups().items()
    ]


def _helpers(stand_ins: dict[str, int]) -> list[Part]:
    """What runs beside: the worker makes files of pictures and gives way to whoever waits; another asks outside
    addresses, so that nobody but it waits for them."""
    return [
        _process("The worker", [PYTHON, "manage.py", "work"], gives_way=14),
        _process("The worker for outside addresses", [PYTHON, "manage.py", "work", "--outside"], gives_way=14),
        _process("The stand-in for a commons", [PYTHON, "-m", "standins.commons", str(stand_ins["commons"])]),
        _process("The stand-in for a host of films", [PYTHON, "-m", "standins.films", str(stand_ins["films"])]),
        _process("The stand-in for a network", [PYTHON, "-m", "standins.posts", str(stand_ins["posts"])]),
    ]


def _following(node: dict[str, str]) -> Part:
    """Builds the interface again whenever its sources change. What is built already stays until then."""
    command: Command = ["npx", "--no-install", "vite", "build", "--watch", "--emptyOutDir", "false"]
    return Part("What builds the interface", lambda: Child(command, cwd=WEB, env=node, gives_way=10))


def _look_after(parts: list[Part]) -> None:
    """For ever: bring up again whatever ends by itself. Nothing that can be brought up again ends the rest."""
    while True:
        for part in parts:
            part.look_after()
        time.sleep(0.5)


def secret_key(folder: Path) -> None:
    file = folder / "secret-key"
    if "STILLPAGE_SECRET_KEY" not in os.environ and not file.exists():
        with os.fdopen(os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as out:
            out.write(secrets.token_urlsafe(50))


Door = int | Path
"""Where somebody listens: a port on loopback, or a socket."""


def _wait_for(doors: list[Door], parts: list[Part]) -> None:
    """Until all of these answer. Raises `Stop` at once when a part has ended."""

    def answers() -> bool:
        for part in parts:
            if not part.running:
                raise Stop(f"{part.name} ended while starting; the lines above say why.")
        return all(_is_there(door) for door in doors)

    wait_until(answers, "the application to answer", lambda: [each.signs() for each in parts])


class _Through(http.client.HTTPConnection):
    """A connection through a socket of this machine."""

    def __init__(self, path: Path) -> None:
        super().__init__("localhost", timeout=5)
        self.path = path

    def connect(self) -> None:
        self.sock = socket.socket(socket.AF_UNIX)
        self.sock.settimeout(self.timeout)
        self.sock.connect(str(self.path))


def _is_there(door: Door) -> bool:
    """Whether what listens there answers at all."""
    connection = _Through(door) if isinstance(door, Path) else http.client.HTTPConnection("127.0.0.1", door, timeout=5)
    host = os.environ.get("STILLPAGE_AUTHORING_HOSTS", "localhost").split(",")[0]
    try:
        connection.request("GET", "/api/session", headers={"Host": host})
        return connection.getresponse().status < 500
    except (OSError, http.client.HTTPException):
        return False
    finally:
        connection.close()


def _welcome(port: int) -> None:
    lines = subprocess.run([PYTHON, "manage.py", "addresses"], cwd=ROOT, capture_output=True, text=True, check=False)
    sites = lines.stdout if lines.returncode == 0 else "  (The sites cannot be listed: the database does not answer.)\n"
    print(f"\n  Authoring            http://localhost:{port}/")
    print(f"  A commons (stand-in) {os.environ['STILLPAGE_COMMONS']}/")
    print(f"  Films (stand-in)     {os.environ['STILLPAGE_FILMS']}/")
    print(f"  Posts (stand-in)     {os.environ['STILLPAGE_POSTS']}/")
    print(sites)
    print("  This is for trying out. docs/running.md says how to run it in earnest.")
    print("  Ctrl-C stops everything.", flush=True)


if __name__ == "__main__":
    sys.exit(guarded(main))

"""A MariaDB server of our own: on loopback, with its data folder under ours, stopped when we stop.

Started by root it runs as somebody with no other rights, where our folder lets it: the system's `mysql`, or an account
made for it. The application comes in as a user of its own who may read and write rows and nothing else.
"""

from __future__ import annotations

import contextlib
import getpass
import hashlib
import os
import pwd
import secrets
import shutil
import socket
import subprocess
import tempfile
from pathlib import Path

from .common import Stop, run, say, wait_until
from .install import find
from .processes import Child, port_is_free

SPEED_FOR_TESTS = (
    "--innodb-flush-log-at-trx-commit=0",
    "--innodb-doublewrite=0",
    "--innodb-flush-method=nosync",
    "--innodb-buffer-pool-size=256M",
    "--lock-wait-timeout=20",
)


APPLICATION = "stillpage"
"""The database's user for the application; `operations.rights` says what it may."""
ACCOUNT = "stillpage-db"
"""The system's account for the server where there is no `mysql`."""


class Database:
    """A server over one data folder. ``port`` is on 127.0.0.1; the application uses the socket."""

    def __init__(self, folder: Path, port: int, options: tuple[str, ...] = ()) -> None:
        self.folder = folder
        self.port = port
        self.options = options
        self.log = folder.with_name(folder.name + ".log")
        self.running_folder = folder.with_name(folder.name + ".run")
        self.pid_file = self.running_folder / "pid"
        self.socket = self._socket()
        self.child: Child | None = None

    def _socket(self) -> Path:
        """In a folder beside the data, or where its path would be too long for a socket, in the temporary folder."""
        beside = self.running_folder / "socket"
        if len(str(beside)) < 100:
            return beside
        name = hashlib.sha256(str(self.folder).encode()).hexdigest()[:16]
        return Path(tempfile.gettempdir()) / f"stillpage-{name}.sock"

    def start(self) -> None:
        """Make the data folder if there is none, bring the server up, and wait until it answers."""
        self._begin()
        assert self.child is not None
        wait_until(self._answers, f"MariaDB, whose log is {self.log}", self.child.signs)

    def begin_again(self) -> Child:
        """Bring the server up after it has ended; nobody waits for it."""
        self._begin()
        assert self.child is not None
        return self.child

    def _begin(self) -> None:
        if not port_is_free(self.port):
            raise Stop(f"Port {self.port} is in use. Set STILLPAGE_DB_PORT to a free one.")
        self.folder.parent.mkdir(parents=True, exist_ok=True)
        account = _account(self.folder.parent)
        if not self.folder.exists():
            self._make(account)
        self._own_folder(account)
        if account:
            _give(account, self.folder)
        say(f"Starting MariaDB on 127.0.0.1:{self.port}" + (f", as {account}" if account else ""))
        command = [
            *self._program(account),
            f"--datadir={self.folder}",
            "--bind-address=127.0.0.1",
            f"--port={self.port}",
            f"--socket={self.socket}",
            f"--pid-file={self.pid_file}",
            "--character-set-server=utf8mb4",
            "--collation-server=utf8mb4_uca1400_ai_ci",
            "--max-allowed-packet=64M",
            # The search finds words of any length, and none is too common to be looked for.
            "--innodb-ft-min-token-size=1",
            "--innodb-ft-enable-stopword=OFF",
            *self.options,
        ]
        # Most readers are answered without it; those who write wait for it a little longer.
        self.child = Child(command, self.log, {"TMPDIR": str(self.running_folder)}, gives_way=3)

    def _own_folder(self, account: str) -> None:
        """The folder for the socket and for what the server keeps for a moment, which it may write to."""
        self.running_folder.mkdir(exist_ok=True)
        if account:
            _give(account, self.running_folder)

    def _program(self, account: str) -> list[str]:
        program = find("mariadbd")
        if not program:
            raise Stop("The program mariadbd is missing.")
        return [program, "--no-defaults", *_as(account)]

    def _make(self, account: str) -> None:
        say("Making a data folder for MariaDB")
        self.folder.parent.mkdir(parents=True, exist_ok=True)
        making = self.folder.with_name(self.folder.name + ".making")
        shutil.rmtree(making, ignore_errors=True)
        making.mkdir()
        self._own_folder(account)
        if account:
            _give(account, making)
        run(
            [
                find("mariadb-install-db") or "mariadb-install-db",
                "--no-defaults",
                f"--datadir={making}",
                "--auth-root-authentication-method=socket",
                f"--auth-root-socket-user={getpass.getuser()}",
                "--skip-test-db",
                *_as(account),
            ],
            "Making the data folder",
            env={"TMPDIR": str(self.running_folder)},
        )
        making.rename(self.folder)

    def _answers(self) -> bool:
        if not self.running:
            raise Stop(f"MariaDB stopped while starting; {self.log} says why.")
        with socket.socket(socket.AF_UNIX) as probe:
            try:
                probe.connect(str(self.socket))
            except OSError:
                return False
            return bool(probe.recv(1))

    def create(self, python: Path, name: str, password: str = "") -> None:
        """Create the application's database if there is none, and with a password its user, who may nothing yet."""
        statements = [f"CREATE DATABASE IF NOT EXISTS `{name}`"]
        if password:
            who = f"`{APPLICATION}`@localhost"
            statements.append(f"CREATE USER IF NOT EXISTS {who} IDENTIFIED BY '{password}'")
            statements.append(f"ALTER USER {who} IDENTIFIED BY '{password}'")
        code = (
            "import sys, MySQLdb; cursor = MySQLdb.connect(unix_socket=sys.argv[1], user='root').cursor(); "
            "[cursor.execute(line) for line in sys.stdin.read().split(chr(10))]"
        )
        done = subprocess.run(
            [str(python), "-c", code, str(self.socket)],
            input="\n".join(statements),
            capture_output=True,
            text=True,
            check=False,
        )
        if done.returncode != 0:
            raise Stop(f"The database could not be made: {done.stderr.strip().splitlines()[-1]}")

    @property
    def running(self) -> bool:
        return self.child is not None and self.child.running

    def stop(self) -> None:
        if self.child is not None:
            self.child.stop()


def application_password(folder: Path) -> str:
    """The password of the application's user, made once and kept in a file that only we may read."""
    file = folder / "database-password"
    if not file.exists():
        with os.fdopen(os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as out:
            out.write(secrets.token_hex(24))
    return file.read_text().strip()


def _as(account: str) -> list[str]:
    """The option that says as whom a server runs that root has started."""
    return [f"--user={account or 'root'}"] if os.geteuid() == 0 else []


def _account(folder: Path) -> str:
    """The system's account as which the server runs; empty for our own, where we are not root or others have no way
    into ``folder``."""
    if os.geteuid() != 0 or not all(place.stat().st_mode & 0o001 for place in (folder, *folder.parents)):
        return ""
    for name in ("mysql", ACCOUNT):
        with contextlib.suppress(KeyError):
            return pwd.getpwnam(name).pw_name
    program = find("useradd")
    made = program and subprocess.run(
        [program, "--system", "--no-create-home", "--shell", "/usr/sbin/nologin", ACCOUNT],
        capture_output=True,
        check=False,
    )
    return ACCOUNT if made and made.returncode == 0 else ""


def _give(account: str, *folders: Path) -> None:
    """Have folders and all they hold belong to an account."""
    number = pwd.getpwnam(account).pw_uid
    for folder in folders:
        if folder.stat().st_uid == number:
            continue
        for place in (folder, *folder.rglob("*")):
            os.chown(place, number, -1, follow_symlinks=False)

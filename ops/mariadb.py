"""A MariaDB server of our own: on loopback, with its data folder under ours, stopped when we stop."""

from __future__ import annotations

import getpass
import hashlib
import os
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


class Database:
    """A server over one data folder. ``port`` is on 127.0.0.1; the application uses the socket."""

    def __init__(self, folder: Path, port: int, options: tuple[str, ...] = ()) -> None:
        self.folder = folder
        self.port = port
        self.options = options
        self.log = folder.with_name(folder.name + ".log")
        self.socket = self._socket()
        self.child: Child | None = None

    def _socket(self) -> Path:
        """In the folder beside the data, or where its path would be too long for a socket, in the temporary folder."""
        beside = self.folder.with_name(self.folder.name + ".sock")
        if len(str(beside)) < 100:
            return beside
        name = hashlib.sha256(str(self.folder).encode()).hexdigest()[:16]
        return Path(tempfile.gettempdir()) / f"stillpage-{name}.sock"

    def start(self) -> None:
        """Make the data folder if there is none, and bring the server up."""
        if not port_is_free(self.port):
            raise Stop(f"Port {self.port} is in use. Set STILLPAGE_DB_PORT to a free one.")
        if not self.folder.exists():
            self._make()
        say(f"Starting MariaDB on 127.0.0.1:{self.port}")
        command = [
            *self._program(),
            f"--datadir={self.folder}",
            "--bind-address=127.0.0.1",
            f"--port={self.port}",
            f"--socket={self.socket}",
            f"--pid-file={self.folder.with_name(self.folder.name + '.pid')}",
            "--character-set-server=utf8mb4",
            "--collation-server=utf8mb4_uca1400_ai_ci",
            "--max-allowed-packet=64M",
            # The search finds words of any length, and none is too common to be looked for.
            "--innodb-ft-min-token-size=1",
            "--innodb-ft-enable-stopword=OFF",
            *self.options,
        ]
        self.child = Child(command, self.log)
        wait_until(self._answers, 60, f"MariaDB did not start; {self.log} says why.")

    def _program(self) -> list[str]:
        program = find("mariadbd")
        if not program:
            raise Stop("The program mariadbd is missing.")
        return [program, "--no-defaults", *(["--user=root"] if os.geteuid() == 0 else [])]

    def _make(self) -> None:
        say("Making a data folder for MariaDB")
        self.folder.parent.mkdir(parents=True, exist_ok=True)
        making = self.folder.with_name(self.folder.name + ".making")
        shutil.rmtree(making, ignore_errors=True)
        run(
            [
                find("mariadb-install-db") or "mariadb-install-db",
                "--no-defaults",
                f"--datadir={making}",
                "--auth-root-authentication-method=socket",
                f"--auth-root-socket-user={getpass.getuser()}",
                "--skip-test-db",
                *(["--user=root"] if os.geteuid() == 0 else []),
            ],
            "Making the data folder",
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

    def create(self, python: Path, name: str) -> None:
        """Create the application's database if there is none."""
        statement = f"CREATE DATABASE IF NOT EXISTS `{name}`"
        code = (
            "import sys, MySQLdb; MySQLdb.connect(unix_socket=sys.argv[1], user='root').cursor().execute(sys.argv[2])"
        )
        done = subprocess.run(
            [str(python), "-c", code, str(self.socket), statement], capture_output=True, text=True, check=False
        )
        if done.returncode != 0:
            raise Stop(f"The database could not be made: {done.stderr.strip().splitlines()[-1]}")

    @property
    def running(self) -> bool:
        return self.child is not None and self.child.running

    def stop(self) -> None:
        if self.child is not None:
            self.child.stop()

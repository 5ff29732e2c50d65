"""Child processes that end when we end."""

from __future__ import annotations

import contextlib
import ctypes
import os
import signal
import socket
import subprocess
from collections.abc import Sequence
from pathlib import Path

_PR_SET_PDEATHSIG = 1


def _die_with_parent() -> None:
    with contextlib.suppress(OSError):
        ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)


def _in_the_background() -> None:
    _die_with_parent()
    os.nice(10)


class Child:
    """A process in a session of its own, so that Ctrl-C reaches us first and we stop it in order."""

    def __init__(
        self,
        command: Sequence[str | Path],
        log: Path | None = None,
        env: dict[str, str] | None = None,
        *,
        gives_way: bool = False,
    ) -> None:
        """``gives_way``: to everything that somebody waits for."""
        output = log.open("ab") if log else None
        self.process = subprocess.Popen(
            [str(part) for part in command],
            stdin=subprocess.DEVNULL,
            stdout=output,
            stderr=subprocess.STDOUT if output else None,
            env={**os.environ, **(env or {})},
            start_new_session=True,
            preexec_fn=_in_the_background if gives_way else _die_with_parent,  # noqa: PLW1509
        )
        if output:
            output.close()

    @property
    def running(self) -> bool:
        return self.process.poll() is None

    def stop(self) -> None:
        """Ask it to end; after 20 seconds, make it."""
        if not self.running:
            return
        self.process.terminate()
        try:
            self.process.wait(20)
        except subprocess.TimeoutExpired:
            self.process.kill()
            self.process.wait()


def port_is_free(port: int) -> bool:
    """Whether nobody listens at this port on loopback."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
        return True

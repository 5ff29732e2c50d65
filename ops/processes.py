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


class Child:
    """A process in a session of its own, so that Ctrl-C reaches us first and we stop it in order."""

    def __init__(
        self,
        command: Sequence[str | Path],
        log: Path | None = None,
        env: dict[str, str] | None = None,
        *,
        gives_way: int = 0,
        cwd: Path | None = None,
    ) -> None:
        """``gives_way``: by how much it is nicer than others to whoever waits for the processor, -20 to 19."""
        output = log.open("ab") if log else None

        def begin() -> None:
            _die_with_parent()
            # Not everybody may come before others; they do without. Where the kernel shares the processor by sessions,
            # niceness counts within one alone, and that of the session is set beside it (sched(7), “autogroup”).
            with contextlib.suppress(OSError):
                os.nice(gives_way)
            with contextlib.suppress(OSError):
                Path("/proc/self/autogroup").write_text(str(gives_way))

        self.process = subprocess.Popen(
            [str(part) for part in command],
            cwd=cwd,
            stdin=subprocess.DEVNULL,
            stdout=output,
            stderr=subprocess.STDOUT if output else None,
            env={**os.environ, **(env or {})},
            start_new_session=True,
            preexec_fn=begin,  # noqa: PLW1509
        )
        if output:
            output.close()

    @property
    def running(self) -> bool:
        return self.process.poll() is None

    def signs(self) -> tuple[int, int]:
        """How much the process and those it started have computed (in ticks of the clock), read and written (in bytes):
        what differs from look to look as long as something moves (proc(5), “/proc/pid/stat” and “/proc/pid/io”)."""
        ticks = moved = 0
        for place in Path("/proc").glob("[0-9]*"):
            with contextlib.suppress(OSError, ValueError, IndexError):
                facts = (place / "stat").read_text().rpartition(")")[2].split()
                if int(facts[3]) == self.process.pid:
                    ticks += sum(int(each) for each in facts[11:15])
                    moved += sum(int(line.split()[1]) for line in (place / "io").read_text().splitlines()[:2])
        return ticks, moved

    def ask_to_end(self) -> None:
        """Ask it to end, and do not wait for that."""
        if self.running:
            self.process.terminate()

    def stop(self) -> None:
        """Ask it to end; after 20 seconds, make it."""
        if self.running:
            self.process.terminate()
            try:
                self.process.wait(20)
            except subprocess.TimeoutExpired:
                self.process.kill()
                self.process.wait()
        self.end_what_is_left(signal.SIGKILL)

    def end_what_is_left(self, how: signal.Signals = signal.SIGTERM) -> None:
        """End what the process started and could not end itself, as when it was killed: a port that its workers still
        hold cannot be taken by who comes in its place."""
        with contextlib.suppress(ProcessLookupError, PermissionError):
            os.killpg(self.process.pid, how)


def port_is_free(port: int) -> bool:
    """Whether nobody listens at this port on loopback."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
        return True

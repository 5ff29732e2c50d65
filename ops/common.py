"""Saying what is being done, running commands, and doing a step only when something has changed."""

from __future__ import annotations

import errno
import hashlib
import os
import shutil
import subprocess
import sys
import time
from collections.abc import Callable, Iterable, Sequence
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
WEB = ROOT / "web"
VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"


os.environ |= {"PYTHONPYCACHEPREFIX": str(VENV / "bytecode"), "PYTHONDONTWRITEBYTECODE": ""}
# What Python compiles is kept for the processes that come after, apart from the code.


class Stop(Exception):
    """Setting up cannot go on; the message is one sentence for the person at the terminal."""


def var() -> Path:
    """The folder for everything that is made while running."""
    return Path(os.environ.get("STILLPAGE_VAR", ROOT / "var")).resolve()


def say(line: str) -> None:
    print(f"· {line}\n", end="", flush=True)  # In one piece: two steps may go on at once.


def run(command: Sequence[str | Path], what: str, cwd: Path = ROOT, env: dict[str, str] | None = None) -> None:
    """Run a command quietly; when it fails, show its last lines and stop."""
    done = subprocess.run(
        [str(part) for part in command],
        cwd=cwd,
        env={**os.environ, **(env or {})},
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        errors="replace",
        check=False,
    )
    if done.returncode != 0:
        print("\n".join(done.stdout.splitlines()[-25:]), file=sys.stderr)
        if "No space left on device" in done.stdout:
            raise Stop(f"The disk is full: {what} needs more room. Free some and run this again.")
        raise Stop(f"{what} failed; the lines above say why.")


def fingerprint(paths: Iterable[Path]) -> str:
    """A hash of the names and contents of files and of all files in folders."""
    digest = hashlib.sha256()
    for path in paths:
        files = sorted(each for each in path.rglob("*") if each.is_file()) if path.is_dir() else [path]
        for file in files:
            digest.update(str(file.relative_to(ROOT)).encode() + b"\0")
            digest.update(hashlib.sha256(file.read_bytes()).digest())
    return digest.hexdigest()


class Stamp:
    """Remembers in a file that a step was done for certain inputs."""

    def __init__(self, file: Path, paths: Iterable[Path]) -> None:
        self.file = file
        self.wanted = fingerprint(paths)

    @property
    def fresh(self) -> bool:
        return self.file.exists() and self.file.read_text() == self.wanted

    def set(self) -> None:
        self.file.parent.mkdir(parents=True, exist_ok=True)
        self.file.write_text(self.wanted)


def check_room(folder: Path, megabytes: int) -> None:
    """Stop when the disk has less than that free, before anything is begun."""
    folder.mkdir(parents=True, exist_ok=True)
    free = shutil.disk_usage(folder).free // (1024 * 1024)
    if free < megabytes:
        raise Stop(f"The disk is nearly full: {folder} has {free} MB left and {megabytes} MB are needed.")
    if not os.access(folder, os.W_OK):
        raise Stop(f"You may not write to {folder}. Set STILLPAGE_VAR to a folder of your own.")


STILL = 60
"""Seconds for which something that is waited for may show no sign of life before it is given up."""


def wait_until(ready: Callable[[], bool], what: str, signs: Callable[[], object] = lambda: None) -> None:
    """Call ``ready`` until it returns true, and say now and then what is waited for.

    A slow machine is no reason to stop: as long as what ``signs`` returns differs from one look to the next, something
    is still moving. `Stop` is raised when nothing has moved for `STILL` seconds; ``ready`` raises it by itself when
    what it waits for has ended.
    """
    begun = moved = told = time.monotonic()
    last = signs()
    while not ready():
        now = time.monotonic()
        if (seen := signs()) != last:
            last, moved = seen, now
        if now - moved > STILL:
            raise Stop(f"Waited for {what}, and nothing has moved for {STILL} seconds.")
        if now - told > 10:
            told = now
            say(f"Waiting for {what} ({now - begun:.0f} s so far)")
        time.sleep(0.05)


def guarded(main: Callable[[], int]) -> int:
    """Run ``main``; every expected failure becomes one sentence and exit status 1."""
    try:
        return int(main() or 0)
    except Stop as stop:
        print(f"Stopped. {stop}", file=sys.stderr)
    except PermissionError as error:
        print(f"Stopped. You may not use {error.filename}: {error.strerror}.", file=sys.stderr)
    except OSError as error:
        if error.errno != errno.ENOSPC:
            raise
        print("Stopped. The disk is full. Free some room and run this again.", file=sys.stderr)
    except KeyboardInterrupt:
        print("\nStopped.", file=sys.stderr)
    return 1

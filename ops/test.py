"""`./test`: linters, types, and every test, with a database of its own."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from . import install
from .common import PYTHON, ROOT, VENV, WEB, check_room, guarded, run, say, var
from .mariadb import SPEED_FOR_TESTS, Database
from .trial import LAID_BY

PORT = 8416


def main() -> int:
    """Set up, check, test; the exit status is the tests'."""
    started = time.monotonic()
    labels = sys.argv[1:]
    folder = var() / "test"
    check_room(folder, 1500)
    install.packages(testing=True)
    environment = install.libraries(testing=True)
    database = Database(folder / "mariadb", int(os.environ.get("STILLPAGE_TEST_DB_PORT", PORT)), SPEED_FOR_TESTS)
    os.environ |= {
        "STILLPAGE_VAR": str(folder),
        "STILLPAGE_DB_SOCKET": str(database.socket),
        "STILLPAGE_SECRET_KEY": "for tests only",
        "STILLPAGE_PUBLIC_PORT": "",
        "STILLPAGE_LOG_LEVEL": "CRITICAL",
        "STILLPAGE_TASKS": "django_tasks.backends.dummy.DummyBackend",
        **environment,
    }
    if not labels:
        _linters(environment)
    install.static_files(folder)
    with tempfile.TemporaryDirectory(prefix="stillpage-laid-by-", ignore_cleanup_errors=True) as laid_by:
        Path(laid_by).chmod(0o755)
        os.environ[LAID_BY] = laid_by
        try:
            database.start()
            say("Running the tests")
            status = _tests(labels)
        finally:
            database.stop()
    say(f"Took {time.monotonic() - started:.0f} s")
    return status


def _linters(environment: dict[str, str]) -> None:
    """All but the types of the front end, which its build has looked at."""
    programs = VENV / "bin"
    steps: list[tuple[str, list[str | Path], Path]] = [
        ("Formatting of Python (ruff format)", [programs / "ruff", "format", "--check"], ROOT),
        ("Lint of Python (ruff check)", [programs / "ruff", "check"], ROOT),
        ("Types of Python (mypy)", [programs / "mypy"], ROOT),
        ("Lint and formatting of the front end (biome)", ["npx", "--no-install", "biome", "ci"], WEB),
    ]

    def step(what: str, command: list[str | Path], folder: Path) -> None:
        say(what)
        run(command, what, cwd=folder, env=environment)

    with ThreadPoolExecutor(2) as pool:
        for done in [pool.submit(step, *each) for each in steps]:
            done.result()


def _tests(labels: Sequence[str]) -> int:
    command = [
        str(PYTHON),
        "manage.py",
        "test",
        "--noinput",
        "--parallel",
        "3",
        "--timing",
        "--testrunner",
        "tests.runner.Runner",
        *(labels or ["tests"]),
    ]
    return subprocess.run(command, cwd=ROOT, check=False).returncode


if __name__ == "__main__":
    sys.exit(guarded(main))

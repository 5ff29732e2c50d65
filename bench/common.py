"""What the benchmarks share: a copy of the application of their own, small runs, and aims."""

from __future__ import annotations

import os
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

from ops.common import PYTHON
from ops.mariadb import Database
from ops.trial import DEMO, Copy, a_free_port

if TYPE_CHECKING:
    from playwright.sync_api import BrowserContext, Page

SMALL = "--small" in sys.argv
"""Whether it is only tried that the benchmark runs; its numbers mean nothing then."""
SHARED = "STILLPAGE_BENCH_COPY"
ARGUMENTS = [each for each in sys.argv[1:] if each != "--small"]


@contextmanager
def a_copy(**env: str) -> Iterator[Copy]:
    """A copy of the application with the demo, beside whatever runs already; it goes without a trace. Small runs may
    have one for several benchmarks: `SHARED` says on which port it answers."""
    if SMALL and not env and (port := os.environ.get(SHARED)):
        yield Copy.there(int(port))
        return
    copy = Copy(STILLPAGE_LIMITS="off", **env)
    try:
        yield copy.start()
    finally:
        copy.close()


def signed_in(context: BrowserContext, origin: str) -> Page:
    """A page of a browser in which the demo's author is signed in."""
    page = context.new_page()
    page.goto(f"{origin}/")
    page.get_by_label("Name").fill("wren")
    page.get_by_label("Password").fill(DEMO)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", name="Contents").wait_for()
    return page


@contextmanager
def a_database() -> Iterator[None]:
    """An empty database of the application on a server of its own, with Django set up in this process; it goes without
    a trace."""
    name = "stillpage_bench"
    with tempfile.TemporaryDirectory(prefix="stillpage-bench-") as made:
        Path(made).chmod(0o755)
        database = Database(Path(made) / "mariadb", a_free_port())
        try:
            database.start()
            database.create(PYTHON, name)
            os.environ |= {
                "STILLPAGE_VAR": made,
                "STILLPAGE_LIMITS": "off",
                "STILLPAGE_DB_SOCKET": str(database.socket),
                "STILLPAGE_DB_NAME": name,
                "STILLPAGE_SECRET_KEY": "for the benchmark only",
                "STILLPAGE_TASKS": "django_tasks.backends.dummy.DummyBackend",
                "DJANGO_SETTINGS_MODULE": "stillpage.settings",
            }
            import django  # noqa: PLC0415

            django.setup()
            from django.core.management import call_command  # noqa: PLC0415

            call_command("migrate", verbosity=0, interactive=False)
            yield
        finally:
            database.stop()


def milliseconds(act: Callable[[], object]) -> float:
    """How long an act takes."""
    begun = time.perf_counter()
    act()
    return (time.perf_counter() - begun) * 1000


def aim(what: str, value: float, *, least: float | None = None, most: float | None = None) -> None:
    """Print an aim, and whether it is met."""
    bound = f"at least {least:g}" if least is not None else f"at most {most:g}"
    met = value >= least if least is not None else most is not None and value <= most
    print(f"aim: {what} {bound}; it is {value:.3g}: {'met' if met else 'NOT MET'}", flush=True)

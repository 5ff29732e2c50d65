"""Prove both commands on a bare machine: python3 -m ops.bare [--start-only] [FOLDER], as root, before a release.

Makes a Debian 12 with nothing but apt in a folder (`debootstrap`), copies what the repository holds into it, and runs
`./start` (signing in, a live page, Ctrl-C) and then `./test` there. How this machine reaches Debian, PyPI and npm, it
hands on: apt's sources, pip's and npm's settings, certificates.
"""

from __future__ import annotations

import argparse
import os
import shutil
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from .common import ROOT, Stop, guarded, run, say
from .install import find
from .prove import came_up, copy_to

SUITE = "bookworm"
HANDED_ON = (
    "/etc/apt/sources.list.d/debian.sources",
    "/etc/apt/sources.list",
    "/etc/apt/apt.conf.d",
    "/etc/resolv.conf",
    "/etc/hosts",
    "/etc/pip.conf",
    "/etc/xdg/pip",
    "/root/.npmrc",
    "/root/.config/pip",
    "/etc/ssl/certs",
    "/usr/local/share/ca-certificates",
    "/usr/share/ca-certificates",
)
_SETTINGS = (
    "PIP_",
    "NPM_CONFIG_",
    "SSL_CERT",
    "NODE_EXTRA_CA_CERTS",
    "REQUESTS_CA_BUNDLE",
    "HTTP_PROXY",
    "HTTPS_PROXY",
)
"""Variables that say how packages are reached from here."""
_PORT = 8460
INSIDE = "/srv/stillpage"
WITHIN = """
set -eu
mount --make-rprivate /
mount -t proc proc "$1/proc"
mount --rbind /dev "$1/dev"
mkdir -p "$1/dev/shm"
root="$1"; shift
exec chroot "$root" /usr/bin/env -i "$@"
"""
"""In a mount namespace of its own, which goes with the command: what a chroot needs, then the command in it."""


def make(root: Path) -> None:
    """A bare Debian in ``root``."""
    if not find("debootstrap"):
        raise Stop("The program debootstrap is missing: apt-get install debootstrap.")
    say(f"Making a bare Debian 12 in {root}")
    run(["debootstrap", "--variant=minbase", SUITE, root], "debootstrap")
    (root / "etc/apt/sources.list").unlink(missing_ok=True)
    for name in HANDED_ON:
        source, target = Path(name), root / name.lstrip("/")
        if source.is_dir():
            shutil.copytree(source, target, symlinks=True, dirs_exist_ok=True, ignore_dangling_symlinks=True)
        elif source.exists():
            target.parent.mkdir(parents=True, exist_ok=True)
            shutil.copy2(source, target)
    for name in filter(None, (os.environ.get("PIP_FIND_LINKS"), *_indexes())):
        if Path(name).is_dir():
            shutil.copytree(name, root / name.lstrip("/"), symlinks=True, dirs_exist_ok=True)
    copy_to(root / INSIDE.lstrip("/"))


def _indexes() -> list[str]:
    """Folders of this machine that pip's settings name as places of packages."""
    text = Path("/etc/pip.conf").read_text() if Path("/etc/pip.conf").exists() else ""
    return [word.removeprefix("file://") for word in text.split() if word.startswith("file:///")]


def command(root: Path, *arguments: str, **env: str) -> list[str]:
    """What runs ``arguments`` in the bare system, with an environment that holds nothing of ours."""
    handed = {name: value for name, value in os.environ.items() if name.upper().startswith(_SETTINGS)}
    given = {"PATH": "/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin", "HOME": "/root", **handed, **env}
    words = [f"{name}={value}" for name, value in given.items()]
    return ["unshare", "--mount", "sh", "-c", WITHIN, "sh", str(root), *words, *arguments]


def main() -> int:
    """Make it, and run both commands in it."""
    if os.geteuid() != 0:
        raise Stop("Making a bare Debian needs root.")
    parser = argparse.ArgumentParser(
        prog="python3 -m ops.bare", description="Prove ./start and ./test on a bare Debian."
    )
    parser.add_argument("--start-only", action="store_true", help="leave out ./test")
    parser.add_argument("folder", nargs="?", type=Path, help="an empty one; by default a new one among the temporary")
    arguments = parser.parse_args()
    root = (arguments.folder or Path(tempfile.mkdtemp(prefix="stillpage-bare-"))).resolve()
    if root.is_relative_to(ROOT):
        raise Stop(f"{root} is within the project, which is copied into it. Choose another folder.")
    root.mkdir(parents=True, exist_ok=True)
    begun = time.monotonic()
    make(root)
    say(f"{sum(1 for _ in (root / 'var/lib/dpkg/info').glob('*.list'))} packages are there; ./start begins")
    ports = {
        "STILLPAGE_PORT": str(_PORT),
        "STILLPAGE_DB_PORT": str(_PORT + 1),
        "STILLPAGE_COMMONS_PORT": str(_PORT + 2),
        "STILLPAGE_FILMS_PORT": str(_PORT + 3),
        "STILLPAGE_POSTS_PORT": str(_PORT + 5),
    }
    came_up(command(root, f"{INSIDE}/start", **ports), root, dict(os.environ), _PORT)
    say(f"./start works on a bare machine ({time.monotonic() - begun:.0f} s)")
    if arguments.start_only:
        return 0
    say("./test begins")
    status = subprocess.run(
        command(root, f"{INSIDE}/test", STILLPAGE_TEST_DB_PORT=str(_PORT + 4)), check=False
    ).returncode
    say(f"./test ended with {status} ({time.monotonic() - begun:.0f} s)")
    return status


if __name__ == "__main__":
    sys.exit(guarded(main))

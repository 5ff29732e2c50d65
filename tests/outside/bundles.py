"""Code of the interface run by itself in Node.js, to be held against the core."""

import atexit
import shutil
import subprocess
import tempfile
from functools import cache
from pathlib import Path

from django.conf import settings

WEB = settings.ROOT / "web"


@cache
def bundles() -> Path:
    """The folder with the bundles of `web/tests`, built once a run."""
    folder = Path(tempfile.mkdtemp(prefix="bundles-"))
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    build = ["npx", "--no-install", "vite", "build", "--config", "vite.tests.config.ts", "--outDir", str(folder)]
    subprocess.run(build, cwd=WEB, check=True, capture_output=True)
    (folder / "package.json").write_text('{"type": "module"}')
    return folder


def answers_of(name: str, lines: list[str]) -> list[str]:
    """What a bundle of `web/tests` prints for these lines of input, line by line."""
    command = ["node", str(bundles() / f"{name}.js")]
    done = subprocess.run(command, input="\n".join(lines), capture_output=True, text=True, check=False)
    if done.returncode:
        raise AssertionError(done.stderr[-2000:])
    return done.stdout.splitlines()

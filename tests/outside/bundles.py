"""Code of the interface run by itself in Node.js, to be held against the core."""

import subprocess
import tempfile
from pathlib import Path

from django.conf import settings

WEB = settings.ROOT / "web"


def answers_of(name: str, lines: list[str]) -> list[str]:
    """What a bundle of `web/tests` prints for these lines of input, line by line."""
    with tempfile.TemporaryDirectory() as folder:
        build = ["npx", "--no-install", "vite", "build", "--config", "vite.tests.config.ts", "--outDir", folder]
        subprocess.run(build, cwd=WEB, check=True, capture_output=True)
        (Path(folder) / "package.json").write_text('{"type": "module"}')
        command = ["node", f"{folder}/{name}.js"]
        done = subprocess.run(command, input="\n".join(lines), capture_output=True, text=True, check=False)
    if done.returncode:
        raise AssertionError(done.stderr[-2000:])
    return done.stdout.splitlines()

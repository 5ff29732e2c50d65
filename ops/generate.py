"""Write everything that is generated from the document's schema, from the API, and from what comes back of files:
python -m ops.generate.

A test fails when a committed copy differs from what this writes.
"""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

from .common import PYTHON, ROOT, WEB

FILES = {
    "docs/checks-list.md": ["-m", "stillpage_core", "checks"],
    "docs/round-trips.md": ["-m", "tests.core.round_trips"],
    "docs/document.schema.json": ["-m", "stillpage_core", "schema", "json"],
    "web/src/document/schema.generated.json": ["-m", "stillpage_core", "schema", "editor"],
    "web/src/document/rules.generated.json": ["-m", "stillpage_core", "rules"],
    "web/src/document/types.generated.ts": ["-m", "stillpage_core", "schema", "typescript"],
    "web/src/api/openapi.generated.json": ["manage.py", "openapi"],
}
API_TYPES = "web/src/api/types.generated.ts"


def generate(folder: Path) -> None:
    """Write every generated file under ``folder``, at its place in the repository."""
    for name, arguments in FILES.items():
        target = folder / name
        target.parent.mkdir(parents=True, exist_ok=True)
        done = subprocess.run([str(PYTHON), *arguments], cwd=ROOT, capture_output=True, text=True, check=True)
        target.write_text(done.stdout, encoding="utf-8")
    description = folder / "web/src/api/openapi.generated.json"
    command = ["npx", "--no-install", "openapi-typescript", str(description), "--output", str(folder / API_TYPES)]
    subprocess.run(command, cwd=WEB, capture_output=True, text=True, check=True)


if __name__ == "__main__":
    generate(Path(sys.argv[1]) if len(sys.argv) > 1 else ROOT)

"""The core by itself: `pip install .` gives it with all that it needs, and its shell command."""

import subprocess
import sys
import tempfile
import tomllib
import venv
from pathlib import Path
from unittest import TestCase

from django.conf import settings


class Wheel(TestCase):
    def test_it_works_in_a_fresh_environment(self):
        with tempfile.TemporaryDirectory() as folder:
            place = Path(folder)
            source = place / "source"
            # Building leaves folders beside the sources, so it is done elsewhere.
            for name in ("stillpage_core", "pyproject.toml"):
                subprocess.run(["cp", "-r", "--parents", name, str(place)], cwd=settings.ROOT, check=True)
            source.mkdir()
            subprocess.run(["mv", "stillpage_core", "pyproject.toml", "source"], cwd=place, check=True)
            self.pip("wheel", "--no-deps", "--wheel-dir", str(place), str(source))
            (wheel,) = place.glob("*.whl")
            venv.create(place / "fresh", with_pip=True)
            fresh = place / "fresh" / "bin"
            self.pip("install", str(wheel), python=fresh / "python")
            (place / "page.md").write_text("# Walks\n\n## Gates\n\nOf *oak*, $h^2$ high.\n\n- one\n- two\n")
            for ending in ("docx", "odt", "html", "json"):
                self.run_it(fresh / "stillpage-core", "convert", "page.md", f"page.{ending}", cwd=place)
            self.assertIn("2 Gates", self.run_it(fresh / "stillpage-core", "outline", "page.odt", cwd=place))
            self.assertIn("heading", self.run_it(fresh / "stillpage-core", "listen", "page.docx", cwd=place))
            self.run_it(fresh / "stillpage-core", "check", "page.html", cwd=place)
            listed = self.run_it(fresh / "python", "-m", "pip", "list", "--format=freeze", cwd=place)
            self.assertNotIn("django", listed.lower())

    def test_what_it_asks_for_is_what_the_application_runs_on(self):
        asked = tomllib.loads((settings.ROOT / "pyproject.toml").read_text())["project"]["dependencies"]
        pinned = (settings.ROOT / "requirements.txt").read_text().lower()
        for each in asked:
            self.assertIn(f"\n{each.split('>=')[0].lower()}==", pinned)

    def pip(self, *arguments, python=Path(sys.executable)):
        return self.run_it(python, "-m", "pip", "--disable-pip-version-check", "-q", *arguments)

    def run_it(self, *command, cwd=None):
        done = subprocess.run(list(map(str, command)), cwd=cwd, capture_output=True, text=True, check=False)
        self.assertEqual(done.returncode, 0, done.stderr[-2000:])
        return done.stdout

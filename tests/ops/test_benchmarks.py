"""Every benchmark runs, small, beside whatever else runs, says its aims, and leaves nothing behind."""

import os
import subprocess
import tempfile
from pathlib import Path
from unittest import TestCase

from bench.common import SHARED
from ops.common import PYTHON, ROOT
from ops.trial import Copy

HELP = ("__init__", "common", "painted")
NAMES = sorted(file.stem for file in (ROOT / "bench").glob("*.py") if file.stem not in HELP)
ASKING = ("checking", "editing", "films", "galleries", "merging", "serving")
"""Those that ask a running application, and do nothing to it that another one would notice."""
LONG = bool(os.environ.get("STILLPAGE_LONG_TESTS"))
AT_LENGTH = ("backing_up", "editing", "galleries", "searching", "serving", "uploading")
"""Tried at length only, since they take most: what they do with the application is done by other tests in any case."""
HANGS = 600  # Seconds. A bound against hanging, not a measure of speed.


def skipped() -> set[str]:
    return set() if LONG else set(AT_LENGTH)


class Benchmarks(TestCase):
    def tried(self, name, **env):
        with tempfile.TemporaryDirectory(prefix="stillpage-tmp-") as folder:
            Path(folder).chmod(0o755)
            kept = {name: value for name, value in os.environ.items() if not name.startswith("STILLPAGE_DB")}
            done = subprocess.run(
                [PYTHON, "-m", f"bench.{name}", "--small"],
                cwd=ROOT,
                env={**kept, "TMPDIR": folder, **env},
                capture_output=True,
                text=True,
                check=False,
                timeout=HANGS,
            )
            said = done.stdout + done.stderr
            self.assertEqual(done.returncode, 0, said[-3000:])
            self.assertRegex(done.stdout, r"(?m)^aim: .+ at (least|most) .+: (met|NOT MET)$")
            self.assertEqual([each.name for each in Path(folder).iterdir() if "stillpage" in each.name], [])
            left = subprocess.run(["pgrep", "-f", folder], capture_output=True, text=True, check=False)
            self.assertEqual(left.stdout, "")


class OfTheApplication(Benchmarks):
    def test_each_that_asks_it_runs_and_says_its_aims(self):
        self.assertLessEqual(set(ASKING), set(NAMES))
        with Copy(STILLPAGE_LIMITS="off") as copy:
            for name in sorted(set(ASKING) - skipped()):
                with self.subTest(name):
                    self.tried(name, **{SHARED: str(copy.port)})


class OfTheRest(Benchmarks):
    def test_each_runs_says_its_aims_and_leaves_nothing_behind(self):
        self.assertEqual(len(NAMES), 14)
        for name in sorted(set(NAMES) - set(ASKING) - skipped()):
            with self.subTest(name):
                self.tried(name)

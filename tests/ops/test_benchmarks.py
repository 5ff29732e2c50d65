"""Every benchmark runs, small, beside whatever else runs, says its aims, and leaves nothing behind."""

import os
import subprocess
import tempfile
from pathlib import Path
from unittest import TestCase

from ops.common import PYTHON, ROOT

NAMES = sorted(file.stem for file in (ROOT / "bench").glob("*.py") if file.stem not in ("__init__", "common"))
HANGS = 600  # Seconds. A bound against hanging, not a measure of speed.


class Benchmarks(TestCase):
    def test_each_runs_says_its_aims_and_leaves_nothing_behind(self):
        self.assertEqual(len(NAMES), 11)
        for name in NAMES:
            with self.subTest(name), tempfile.TemporaryDirectory(prefix="stillpage-tmp-") as folder:
                Path(folder).chmod(0o755)
                kept = {name: value for name, value in os.environ.items() if not name.startswith("STILLPAGE_DB")}
                done = subprocess.run(
                    [PYTHON, "-m", f"bench.{name}", "--small"],
                    cwd=ROOT,
                    env={**kept, "TMPDIR": folder},
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

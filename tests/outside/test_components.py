"""Components of the interface by themselves (`web/tests/components`), for what a browser would be too coarse a hand."""

import json
import os
import subprocess

from django.test import SimpleTestCase

from .bundles import WEB


class Components(SimpleTestCase):
    def test_every_component_test_passes(self):
        command = ["npx", "--no-install", "vitest", "run", "--reporter=json"]
        env = {**os.environ, "DEBUG_PRINT_LIMIT": "0", "NO_COLOR": "1"}
        done = subprocess.run(command, cwd=WEB, env=env, capture_output=True, text=True, check=False)
        begin = done.stdout.find("{")
        self.assertGreaterEqual(begin, 0, done.stdout[-2000:] + done.stderr[-2000:])
        said = json.loads(done.stdout[begin:])
        tests = [each for file in said["testResults"] for each in file["assertionResults"]]
        wrong = [(each["fullName"], each["failureMessages"]) for each in tests if each["status"] != "passed"]
        self.assertEqual(wrong, [])
        self.assertEqual([file["message"] for file in said["testResults"] if file["message"]], [])
        self.assertGreaterEqual(len(tests), 4)

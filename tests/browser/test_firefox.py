"""The main job in Firefox with real keys, from the sheet to the live page: what is written for one browser is not
enough."""

import json
import subprocess
from tempfile import NamedTemporaryFile

from django.conf import settings

from ..api.base import image_bytes
from .base import BrowserTest


class Firefox(BrowserTest):
    def test_writing_lists_link_paste_picture_undo_and_publishing(self):
        self.put_live(self.visit)
        session = {name: self.session_of("wren")[name] for name in ("name", "value", "httpOnly")}
        with NamedTemporaryFile(suffix=".jpg", prefix="lock-") as picture:
            picture.write(image_bytes((900, 600), colour="#876"))
            picture.flush()
            walk = subprocess.run(
                [
                    *("node", "tests/firefox_walk.mjs", self.live_server_url, json.dumps(session), str(self.walks.pk)),
                    *(self.address(self.walks), picture.name),
                ],
                cwd=settings.ROOT / "web",
                capture_output=True,
                text=True,
                timeout=180,
                check=False,
            )
        self.assertEqual(walk.returncode, 0, walk.stderr[-2000:])
        found = json.loads(walk.stdout.splitlines()[-1])
        self.assertEqual(found["errors"], [])
        self.assertTrue(found["undone"] and found["redone"])
        self.assertEqual(found["focused"], "IFRAME")
        self.assertEqual(
            found["live"],
            [
                *("H1 Towpath walks", "P The path is level.", "H2 Before you set out", "UL bootswater and a map"),
                *("P See Visit.", "P Pasted words", "FIGURE "),
            ],
        )
        self.assertEqual((found["alt"], found["strong"]), ("A lock from above", ["and a map", "Pasted"]))

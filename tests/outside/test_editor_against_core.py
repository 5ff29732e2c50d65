"""The editor against the core: whatever is done in the editor gives a document that the core takes."""

import json
import subprocess
from unittest import TestCase

from stillpage_core.document import document_from_json, normal_form
from stillpage_core.document.walking import walk
from stillpage_core.reading import read_html
from stillpage_core.writing import storable_html

from ..core import many
from .bundles import bundles

SEQUENCES, ACTIONS, SEED = many(1000), 40, 1


class RandomEditing(TestCase):
    def test_random_sequences_are_valid_after_each_step_and_undo_to_the_start(self):
        run = ["node", str(bundles() / "random_editing.js"), str(SEQUENCES), str(ACTIONS), str(SEED)]
        done = subprocess.run(run, capture_output=True, text=True, check=False)
        self.assertEqual(done.returncode, 0, done.stderr[-2000:])
        kinds, checked = set(), 0
        for line in done.stdout.splitlines():
            sequence = json.loads(line)
            said = f"seed {sequence['seed']}: {' '.join(sequence['done'])}"
            self.assertTrue(sequence["undone"], f"undo does not lead back to the start, {said}")
            for value in sequence["documents"]:
                document = document_from_json(value)
                self.assertEqual(normal_form(document), document, said)
                checked += 1
            kinds |= {node.kind for _, node in walk(document)}
            self.assertEqual(read_html(storable_html(document)).document, document, said)
        self.assertGreater(checked, SEQUENCES * 8)
        self.assertGreaterEqual(len(kinds), 22, f"the sequences reach too few kinds: {kinds}")

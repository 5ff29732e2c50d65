"""What is generated from the schema and the API stands in the repository as it would be generated now."""

import tempfile
from pathlib import Path
from unittest import TestCase

import jsonschema
from django.conf import settings

from ops.generate import API_TYPES, FILES, generate
from stillpage_core.document.generated import json_schema


class Generated(TestCase):
    def test_no_committed_copy_differs(self):
        with tempfile.TemporaryDirectory() as folder:
            generate(Path(folder))
            for name in (*FILES, API_TYPES):
                made, kept = (Path(folder) / name).read_text(), (settings.ROOT / name).read_text()
                self.assertEqual(made, kept, f"{name} has drifted: run “python -m ops.generate”")

    def test_the_json_schema_is_one(self):
        jsonschema.Draft202012Validator.check_schema(json_schema())

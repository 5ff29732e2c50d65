"""Print the OpenAPI description of the API."""

from __future__ import annotations

import json
from typing import Any

from django.core.management.base import BaseCommand

from stillpage.api.interface import api


class Command(BaseCommand):
    help = "Print the OpenAPI description of the API as JSON."

    def handle(self, *args: Any, **options: Any) -> None:
        schema = api.get_openapi_schema(path_prefix="/api/")
        self.stdout.write(json.dumps(schema, indent=1, ensure_ascii=False, sort_keys=True))

"""Whether two copies of the application hold the same, as after a backup was brought back: every row, every original,
every live page."""

from __future__ import annotations

from collections.abc import Iterator

from .trial import Copy

_ROWS = """
import hashlib
from django.apps import apps
from stillpage.operations.backup import PASSING
left_out = {"made", "wanted", "tries", "problem", "rendered_at"}
for model in sorted(apps.get_models(include_auto_created=True), key=lambda each: each._meta.db_table):
    if model._meta.db_table in PASSING or model._meta.app_label in ("django_tasks_db", "contenttypes"):
        continue
    names = [field.attname for field in model._meta.concrete_fields if field.attname not in left_out]
    digest, count = hashlib.sha256(), 0
    for row in model.objects.order_by("pk").values_list(*names).iterator(500):
        digest.update(repr(row).encode())
        count += 1
    print(model._meta.db_table, count, digest.hexdigest())
"""
_ORIGINALS = """
import hashlib
from django.core.files.storage import default_storage
from stillpage.library.models import File
for file in File.objects.filter(original=True).order_by("name").iterator(500):
    with default_storage.open(file.name) as stored:
        print(file.name, hashlib.sha256(stored.read()).hexdigest() == file.sha256)
"""
_LIVE = """
from stillpage.publishing.models import LiveCopy
lives = LiveCopy.objects.exclude(address=None).order_by("address")
for address in lives.values_list("address", flat=True): print(address)
"""


def rows(copy: Copy) -> list[str]:
    """Each table that is backed up, how many rows it has, and a digest of them."""
    return copy.shell(_ROWS).splitlines()


def originals(copy: Copy) -> dict[str, bool]:
    """Each original by its name in the storage, and whether its bytes are those that came."""
    pairs = (line.rpartition(" ") for line in copy.shell(_ORIGINALS).splitlines())
    return {name: same == "True" for name, _, same in pairs}


def live_addresses(copy: Copy) -> list[str]:
    """The host and path of every live page."""
    return copy.shell(_LIVE).splitlines()


def live_pages_that_differ(one: Copy, other: Copy) -> Iterator[str]:
    """The addresses of live pages of the one that read otherwise in the other. The other has to tell the port of the
    one (``STILLPAGE_PUBLIC_PORT``), as pages tell their own address."""
    for address in live_addresses(one):
        host, _, path = address.partition("/")
        here, there = one.visitor(host).ask(f"/{path}"), other.visitor(host).ask(f"/{path}")
        if (here.status, here.body) != (there.status, there.body) or here.status != 200:
            yield address

"""How long it takes to back up a large installation and to bring it back, and how large the file is.

    .venv/bin/python -m bench.backing_up [--small]

10,000 pages and 5,000 items beside the demo. The reference is what anybody can do by hand: `mariadb-dump | gzip`, and
`tar` of the originals' folder, in the same run. What came back is compared with what was there: every row, every
original, every live page byte for byte.
"""

from __future__ import annotations

import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

from ops.common import ROOT, Stop, guarded
from ops.same import live_addresses, live_pages_that_differ, originals, rows
from ops.trial import Copy

from .common import SMALL, a_copy, aim

PAGES, ITEMS = (50, 20) if SMALL else (10_000, 5_000)
FILL = f"""
import hashlib, json, random
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.utils import timezone
from stillpage.library.models import File, Item
from stillpage.pages.models import Page
from stillpage.written.models import Version, WorkingCopy
from stillpage.people.models import Person
from stillpage.publishing.models import LiveCopy
from stillpage_core.document.digest import digest_of
dice, now, by = random.Random(14), timezone.now(), Person.objects.get(username="wren")
top = Page.objects.get(site__host="canal.localhost", path="/")
like = [(live.written.working_copy, live) for live in LiveCopy.objects.filter(written__page__site=top.site)]
def said(text, number):
    words = {{"type": "paragraph", "content": [{{"type": "text", "text": f"Number {{number}}: {{dice.random()}}."}}]}}
    main, *others = text.document["content"]
    content = [{{**main, "content": [*main["content"], words]}}, *others]
    document = {{**text.document, "content": content}}
    digest = digest_of(text.title, text.description, document)
    return {{"title": text.title, "description": text.description, "document": document, "digest": digest}}
for first in range(0, {PAGES}, 500):
    numbers = range(first, min(first + 500, {PAGES}))
    copies, lives, kept = [], [], []
    for number in numbers:
        page = Page.objects.create(
            site=top.site, parent=top, position=1000 + number, slug=f"n{{number}}", path=f"/n{{number}}",
            in_navigation=False,
        )
        copy, live = like[number % len(like)]
        text = said(copy, number)
        copies.append(WorkingCopy(written=page, revision=2, saved_at=now, saved_by=by, **text))
        kept.append(Version(written=page, reason="published", at=now, by=by, **text))
        lives.append(LiveCopy(
            written=page, published_at=now, published_by=by, address=f"canal.localhost{{page.path}}", html=live.html,
            html_gzip=live.html_gzip, etag=live.etag, rendered_at=now, site_id=live.site_id, frame=live.frame,
            text_from=live.text_from, text_to=live.text_to, **text,
        ))
    WorkingCopy.objects.bulk_create(copies)
    Version.objects.bulk_create(kept)
    LiveCopy.objects.bulk_create(lives)
for number in range({ITEMS}):
    data = dice.randbytes(dice.randrange(20_000, 180_000))
    digest = hashlib.sha256(data).hexdigest()
    name = default_storage.save(f"{{digest[:2]}}/{{digest[2:18]}}/original.bin", ContentFile(data))
    item = Item.objects.create(
        kind="document", title=f"Papers {{number}}", added_at=now, added_by=by, size=len(data), mime="application/pdf",
        made=1,
    )
    File.objects.create(
        item=item, name=name, mime="application/pdf", width=0, height=0, size=len(data), sha256=digest, original=True
    )
"""


def main() -> int:
    """Fill, back up, bring back, compare."""
    with a_copy() as copy:
        copy.shell(FILL)
        place = Path(copy.folder.name) / "all.backup"
        by_hand = _timed(lambda: _by_hand(copy))
        made = _timed(lambda: _run(copy, "./backup", str(place)))
        checked = _timed(lambda: _run(copy, "./restore", "--check", str(place)))
        size = place.stat().st_size
        print(f"{len(live_addresses(copy))} live pages, {len(originals(copy))} originals")
        print(f"by hand {by_hand:.1f} s; backed up in {made:.1f} s, {size / 1e6:.0f} MB; checked in {checked:.1f} s")
        other = Copy(STILLPAGE_LIMITS="off", STILLPAGE_PUBLIC_PORT=str(copy.port))
        try:
            back = _timed(lambda: _run(other, "./restore", str(place)))
            print(f"brought back in {back:.1f} s")
            if not SMALL:
                _compare(copy, other)
        finally:
            other.close()
    aim("backing up, in times of what it takes by hand", made / by_hand, most=3)
    aim("bringing back, in times of backing up", back / made, most=6)
    return 0


def _compare(copy: Copy, other: Copy) -> None:
    """Whether all came back; tests do the same with the demo."""
    other.start()
    kept = originals(copy)
    if rows(other) != rows(copy) or originals(other) != kept or not all(kept.values()):
        raise Stop("What came back is not what was there.")
    if differ := list(live_pages_that_differ(copy, other)):
        raise Stop(f"{len(differ)} live pages read otherwise, {differ[0]} among them.")
    print("every row, every original and every live page came back")


def _timed(work: Callable[[], object]) -> float:
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def _run(copy: Copy, *command: str) -> None:
    env = {**copy.env, "STILLPAGE_DB_SOCKET": str(copy.var / "mariadb.run" / "socket"), "STILLPAGE_SECRET_KEY": "x"}
    if command[1] != "--check" and "restore" in command[0]:
        del env["STILLPAGE_DB_SOCKET"]
    done = subprocess.run(command, cwd=ROOT, env=env, capture_output=True, text=True, check=False)
    if done.returncode:
        raise Stop(done.stdout + done.stderr)


def _by_hand(copy: Copy) -> None:
    folder = Path(copy.folder.name)
    socket = copy.var / "mariadb.run" / "socket"
    dump = f"mariadb-dump --socket={socket} --user=root --single-transaction --hex-blob stillpage | gzip -3 > rows.gz"
    for command in (dump, f"tar cPf files.tar {copy.var / 'media'}"):
        subprocess.run(["bash", "-o", "pipefail", "-c", command], cwd=folder, check=True)
    for name in ("rows.gz", "files.tar"):
        (folder / name).unlink()


if __name__ == "__main__":
    sys.exit(guarded(main))

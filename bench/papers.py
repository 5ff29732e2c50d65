"""Documents on their way in, beside bare poppler: python -m bench.papers

Needs a database server, which it starts itself. A PDF of some pages is looked at as the worker does it (its words, what
it says of itself, its first page in two sizes), and by pdftotext and pdftoppm called by hand, whose picture is made
into the same two; by turns, document by document.
"""

from __future__ import annotations

import io
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from PIL import Image

from ops.common import guarded

from .common import SMALL, a_database, aim

COUNT = 2 if SMALL else 30


def bare(data: bytes) -> None:
    """What poppler does when it is called by hand."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "a.pdf"
        path.write_bytes(data)
        subprocess.run(["pdftotext", "-q", path, "-"], check=True, capture_output=True)
        page = Path(folder) / "page"
        subprocess.run(["pdftoppm", "-q", "-png", "-singlefile", "-scale-to", "1000", path, page], check=True)
        with Image.open(page.with_suffix(".png")) as picture:
            for across in (320, 1000):
                small = picture.convert("RGB")
                small.thumbnail((across, 1000))
                small.save(io.BytesIO(), "WEBP", quality=80)


def main() -> int:
    with a_database():
        from django.core.files.base import ContentFile  # noqa: PLC0415 - Django is set up only now

        from stillpage.library.documents import read_document  # noqa: PLC0415
        from stillpage.library.receiving import receive  # noqa: PLC0415
        from stillpage.people.models import Person  # noqa: PLC0415
        from tests.papers import a_pdf  # noqa: PLC0415

        person = Person.objects.create_user("bench")
        ours, theirs = [], []
        for number in range(COUNT):
            data = a_pdf(f"Water levels of week {number}", pages=1 + number % 8, title=f"Week {number}", tagged=True)
            item, _ = receive(ContentFile(data, name=f"{number}.pdf"), person)
            begun = time.perf_counter()
            read_document(item.pk)
            ours.append(time.perf_counter() - begun)
            begun = time.perf_counter()
            bare(data)
            theirs.append(time.perf_counter() - begun)
        one, other = statistics.median(ours), statistics.median(theirs)
        print(f"a document {one * 1000:.0f} ms, {1 / one:.1f} a second")
        print(f"bare poppler {other * 1000:.0f} ms, {1 / other:.1f} a second")
        # Two processes more: one that reads what the PDF says of itself, and limits before each.
        aim("time for a document, beside bare poppler", one / other, most=5)
    return 0


if __name__ == "__main__":
    sys.exit(guarded(main))

"""Makes the demo documents: python -m demo.drawing.papers, with LibreOffice at hand for the PDFs.

The documents are committed; run this after changing a text.
"""

from __future__ import annotations

import subprocess
import tempfile
from pathlib import Path

from stillpage_core.reading import read_markdown
from stillpage_core.writing.carrying import Carried
from stillpage_core.writing.docx import docx
from stillpage_core.writing.odt import odt

FOLDER = Path(__file__).parent.parent / "documents"
PAPERS = {
    "minutes-of-january.pdf": (
        "Minutes of the trustees, January",
        "Present: six trustees, and the clerk.\n\n## The gates of Lock 4\n\nThe oak has been ordered. The crew hangs "
        "the new gates in the second week of March.\n\n## Money\n\nThe winter appeal has brought what sluices cost.",
    ),
    "minutes-of-march.pdf": (
        "Minutes of the trustees, March",
        "Present: seven trustees.\n\n## The gates of Lock 4\n\nHung on the fourteenth; they leak less than anybody "
        "hoped.\n\n## The museum roof\n\nThree slaters were asked; one has answered.",
    ),
    "minutes-of-may.pdf": (
        "Minutes of the trustees, May",
        "Present: five trustees.\n\n## Trip boat\n\nThe certificate is renewed. Twelve passengers and two crew.\n\n"
        "## Wardens\n\nTwo new wardens for the stretch from Lock 9 to the aqueduct.",
    ),
    "volunteer-handbook.pdf": (
        "Volunteer handbook",
        "What every volunteer should know before the first day.\n\n## Water\n\nNobody works alone beside an empty "
        "lock. A throw line hangs at every gate.\n\n## Tools\n\nA windlass goes home with whoever signed for it.\n\n"
        "## Tea\n\nThere is tea at ten, whatever the weather.",
    ),
    "water-levels-last-year.odt": (
        "Water levels last year",
        "Measured every Monday at the top of Lock 7.\n\n- January: 2.10 metres\n- April: 1.94 metres\n- July: 1.71 "
        "metres\n- October: 1.88 metres",
    ),
    "restoration-plan.docx": (
        "Restoration plan",
        "## First: Lock 11\n\nDredging, then brickwork, then gates.\n\n## Second: the dry dock\n\nThe culvert comes "
        "first; without it the dock fills by itself.",
    ),
    "risk-assessment-winter-work.docx": (
        "Risk assessment for winter work",
        "## Ice\n\nNobody steps on it.\n\n## Cold water\n\nLife jackets within two metres of the edge.\n\n"
        "## Lifting\n\nTwo people to a beam.",
    ),
    "school-visits.docx": (
        "School visits",
        "Groups of up to thirty, with one grown-up to eight children.\n\n1. Meet at the museum gate.\n2. See the model "
        "lock.\n3. Work the real one.",
    ),
    "hire-terms.odt": (
        "Terms of hire",
        "The trip boat may be hired from April to October.\n\n## Deposit\n\nHalf, when booking.",
    ),
    "newsletter-spring.pdf": (
        "Spring newsletter",
        "## Bridge 9 is open again\n\nThe parapet stands, and the towpath under it is dry.\n\n## Otters\n\nSeen twice "
        "below the reed beds, early in the morning.",
    ),
}  # fmt: skip


def main() -> None:
    """Make every document."""
    with tempfile.TemporaryDirectory() as folder:
        for name, (title, text) in PAPERS.items():
            stem, _, ending = name.partition(".")
            reading = read_markdown(text).document
            write = odt if ending == "odt" else docx
            data = write(reading, Carried(title=title))
            if ending != "pdf":
                (FOLDER / name).write_bytes(data)
                continue
            source = Path(folder) / f"{stem}.docx"
            source.write_bytes(data)
            command = ["soffice", "--headless", "--convert-to", "pdf", "--outdir", folder, str(source)]
            subprocess.run(command, check=True, capture_output=True)
            (FOLDER / name).write_bytes((Path(folder) / f"{stem}.pdf").read_bytes())


if __name__ == "__main__":
    main()

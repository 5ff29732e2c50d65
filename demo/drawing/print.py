"""Prints the documents of the demo as tagged PDFs, with Chromium: `python -m demo.drawing.print`."""

from __future__ import annotations

from pathlib import Path

from playwright.sync_api import sync_playwright

FOLDER = Path(__file__).parent.parent / "documents"
FORM = """<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Boat licence form</title><style>
body { font: 11pt/1.5 Georgia, serif; color: #1d2733; margin: 0 }
h1 { font-size: 22pt; margin: 0 0 4pt } h2 { font-size: 13pt; margin: 20pt 0 6pt }
table { width: 100%; border-collapse: collapse } th { text-align: left; width: 38%; font-weight: normal }
td, th { border-bottom: 0.5pt solid #7c8894; padding: 9pt 4pt 3pt } .foot { margin-top: 30pt; color: #55606c }
</style></head><body><h1>Boat licence form</h1><p>Varrow Canal Trust. Fill in every line, and sign at the end.</p>
<h2>The boat</h2><table><tr><th scope="row">Name of the boat</th><td></td></tr>
<tr><th scope="row">Length in metres, from the drawing</th><td></td></tr>
<tr><th scope="row">Safety certificate, number and year</th><td></td></tr></table>
<h2>The owner</h2><table><tr><th scope="row">Name</th><td></td></tr><tr><th scope="row">Address</th><td></td></tr>
<tr><th scope="row">Insured with</th><td></td></tr></table>
<h2>For how long</h2><table><tr><th scope="row">A day, a month or a year, from</th><td></td></tr>
<tr><th scope="row">Place, date, signature</th><td></td></tr></table>
<p class="foot">Made up for a demonstration. There is no such canal.</p></body></html>"""


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"]
        )
        page = browser.new_page()
        page.set_content(FORM)
        margin = {"top": "20mm", "bottom": "20mm", "left": "22mm", "right": "22mm"}
        page.pdf(path=FOLDER / "boat-licence-form.pdf", format="A4", tagged=True, margin=margin)
        browser.close()


if __name__ == "__main__":
    main()

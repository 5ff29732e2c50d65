"""What assistive technology is told as things happen: every change of a live region, and where the focus is."""

from __future__ import annotations

from playwright.sync_api import Page

from .waiting import pause, until

LISTEN = """() => {
  const regions = '[role=status], [role=alert], [role=log], [aria-live]'
  window.heard = []
  const tell = (region, words) => {
    const said = words.replace(/\\s+/g, ' ').trim()
    if (said) window.heard.push(said)
  }
  new MutationObserver((changes) => {
    const told = new Set()
    for (const { target, addedNodes } of changes) {
      const region = (target.nodeType === 1 ? target : target.parentElement)?.closest(regions)
      if (!region || told.has(region)) continue
      if (region.getAttribute('role') === 'log') {
        for (const node of addedNodes) tell(region, node.textContent ?? '')
        continue
      }
      told.add(region)
      tell(region, region.textContent ?? '')
    }
  }).observe(document, { childList: true, characterData: true, subtree: true })
}"""


def listen(page: Page) -> None:
    """Begin to note what is said; loading another page ends it."""
    page.evaluate(LISTEN)


def heard(page: Page) -> list[str]:
    """What was said since the last call."""
    return page.evaluate("() => window.heard.splice(0)")


def all_heard(page: Page) -> list[str]:
    """What is said until nothing more is said for two seconds; something is."""
    said = until(lambda: heard(page), page=page)
    while True:
        pause(page, 2000)
        if not (more := heard(page)):
            return said
        said += more


def in_part(page: Page, part: str) -> None:
    """The focus is in a part of the writing view: text, shelf, foot, top, rule or left; never nowhere."""
    where = page.locator(f'[data-part="{part}"]')
    for _ in range(20):
        if where.evaluate("part => part !== document.activeElement && part.contains(document.activeElement)"):
            return
        page.wait_for_timeout(100)
    raise AssertionError(f"the focus is not in the {part}, but on: {somewhere(page)}")


NAME = """() => {
  const element = document.activeElement
  if (!element || element === document.body) return ''
  return element.getAttribute('aria-label') || element.textContent || element.title || element.tagName
}"""


def somewhere(page: Page) -> str:
    """The focus is on something, after a moment at most: gives its name, in its own words."""
    for _ in range(40):
        page.wait_for_timeout(100)
        if name := page.evaluate(NAME):
            return name
    raise AssertionError("the focus is nowhere")

"""Puts the demo data into an empty database: people, sites, pictures and pages."""

from __future__ import annotations

import re
from functools import partial
from pathlib import Path

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction

from stillpage.library.models import Item
from stillpage.library.receiving import receive
from stillpage.pages.models import Page
from stillpage.pages.saving import Draft, save
from stillpage.pages.tree import add_page
from stillpage.people.models import Person, RoleGrant
from stillpage.publishing.publish import publish
from stillpage.sites.models import Site
from stillpage_core.reading import read_markdown

from .people import ACCOUNTS, PASSWORD, Account
from .texts import ALT_TEXTS

FOLDER = Path(__file__).parent
SITES = {
    "canal": {
        "name": "Varrow Canal Trust",
        "host": "canal.localhost",
        "theme": "canal",
        "footer": "Varrow Canal Trust, a charity kept going by volunteers. Made up for this demonstration.",
    },
    "museum": {
        "name": "Varrow Lock Museum",
        "host": "museum.localhost",
        "theme": "museum",
        "footer": "Varrow Lock Museum, The Old Pump House, Lock 9. Made up for this demonstration.",
    },
}


class Written:
    """A page as its file in `demo/pages/` has it: lines of “key: value”, an empty line, then Markdown."""

    def __init__(self, file: Path) -> None:
        head, self.text = file.read_text(encoding="utf-8").split("\n\n", 1)
        self.facts = dict(line.split(": ", 1) for line in head.splitlines())
        self.path = self.facts["path"]


@transaction.atomic
def load_demo() -> None:
    """Load everything; all or nothing."""
    people = [_person(account) for account in ACCOUNTS]
    author = people[0]
    items = _items(author)
    sites = {key: Site.objects.create(**facts) for key, facts in SITES.items()}
    written = [
        (site, Written(file)) for key, site in sites.items() for file in sorted((FOLDER / "pages" / key).glob("*.md"))
    ]
    pages = {f"{site.theme}{each.path}": _page(site, each, author) for site, each in written}
    for site, each in written:
        text = re.sub(r"\(page:([^)#]+)", partial(_page_address, pages, site), each.text)
        text = re.sub(r"\(picture:([^)]+)\)", lambda match: f"(item:{items[match[1]].pk})", text)
        text = re.sub(r"item:([a-z][a-z-]+)", lambda match: f"item:{items[match[1]].pk}", text)
        page = pages[f"{site.theme}{each.path}"]
        document = read_markdown(text).document
        save(page, author, Draft(each.facts["title"], each.facts.get("description", ""), document), 1)
    for site, each in written:
        if each.facts.get("state") != "unpublished":
            publish(pages[f"{site.theme}{each.path}"], author, 2)
    for site, each in written:
        if "then" in each.facts:
            page = pages[f"{site.theme}{each.path}"]
            copy = page.working_copy
            copy.refresh_from_db()
            save(page, people[1], Draft(each.facts["then"], copy.description, copy.tree), copy.revision)


def _page_address(pages: dict[str, Page], site: Site, match: re.Match[str]) -> str:
    """Put a page's number in place of its path; a path of the other site begins with that site's key."""
    path = match[1]
    key = path if path.startswith(("canal/", "museum/")) else f"{site.theme}{path}"
    return f"(page:{pages[key].pk}"


def _person(account: Account) -> Person:
    person = Person(username=account.username, email=f"{account.username}@example.invalid")
    person.first_name, person.last_name = account.name.split(" ", 1)
    person.set_password(PASSWORD)
    person.save()
    RoleGrant.objects.bulk_create(RoleGrant(person=person, role=role) for role in account.roles)
    return person


def _items(author: Person) -> dict[str, Item]:
    items: dict[str, Item] = {}
    for file in sorted((*(FOLDER / "pictures").iterdir(), *(FOLDER / "documents").iterdir())):
        upload = SimpleUploadedFile(file.name, file.read_bytes())
        items[file.stem], _ = receive(upload, author, ALT_TEXTS.get(file.stem, ""))
        if items[file.stem].kind == Item.Kind.DOCUMENT:
            items[file.stem].title = items[file.stem].title.capitalize()
            items[file.stem].save(update_fields=["title"])
    return items


def _page(site: Site, each: Written, author: Person) -> Page:
    parent_path, _, slug = each.path.rpartition("/")
    if not slug:
        page = add_page(site, author, each.facts["title"], slug="home")
        page.slug, page.path = "", "/"
        page.save()
        return page
    parent = Page.objects.get(site=site, path=parent_path) if parent_path else None
    return add_page(site, author, each.facts["title"], parent=parent, slug=slug)

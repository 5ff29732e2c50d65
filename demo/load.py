"""Puts the demo data into an empty database: people, sites, pictures and pages."""

from __future__ import annotations

import json
import random
import re
from datetime import datetime
from functools import partial
from io import BytesIO
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from PIL import Image

from standins.films import FOLDER as STAND_IN
from standins.posts import FOLDER as STAND_IN_POSTS
from stillpage.hosts import keeping
from stillpage.hosts.models import Host, Hosting
from stillpage.library import captions
from stillpage.library.films import make_playable
from stillpage.library.models import Folder, Item, Tag
from stillpage.library.receiving import receive
from stillpage.library.search import note_words
from stillpage.operations.models import Installation
from stillpage.pages import redirects
from stillpage.pages.models import Page
from stillpage.pages.tree import Place, add_at, add_page
from stillpage.people.models import Person, RoleGrant
from stillpage.publishing.freshness import bring_all_up
from stillpage.publishing.publish import publish
from stillpage.sites.models import Site
from stillpage.written.saving import Draft, save
from stillpage_core.document import Node
from stillpage_core.document.node import document_of, make
from stillpage_core.document.walking import blocks_of
from stillpage_core.media.captions import read_captions
from stillpage_core.media.hosting import Hosted, Posted
from stillpage_core.reading import read_markdown

from . import faults
from .people import ACCOUNTS, PASSWORD, Account
from .shelves import (
    DECORATIVE,
    FOLDERS,
    LICENCES,
    PICTURES,
    RESTRICTED,
    SEASONS,
    VIEW_ALTS,
    folder_of,
)
from .texts import ALT_TEXTS

FOLDER = Path(__file__).parent
SITES = {
    "canal": {
        "name": "Varrow Canal Trust",
        "host": "canal.localhost",
        "theme": "canal",
        "description": "Walks, boating, stoppages and volunteering on the 31 km of the canal.",
        "footer": "Varrow Canal Trust, a charity kept going by volunteers. Made up for this demonstration.",
    },
    "museum": {
        "name": "Varrow Lock Museum",
        "host": "museum.localhost",
        "theme": "museum",
        "description": "The lock keepers’ tools, models and stories, in the old pump house.",
        "footer": "Varrow Lock Museum, The Old Pump House, Lock 9. Made up for this demonstration.",
    },
}
SITE_PICTURES = {"canal": "canal-at-dawn", "museum": "lock-cottage"}


class Written:
    """A page as its file in `demo/pages/` has it: lines of “key: value”, an empty line, then Markdown."""

    def __init__(self, file: Path) -> None:
        head, self.text = file.read_text(encoding="utf-8").split("\n\n", 1)
        self.facts = dict(line.split(": ", 1) for line in head.splitlines())
        self.path = self.facts["path"]


@transaction.atomic
def load_demo() -> None:
    """Load everything; all or nothing. The database is marked as the demo's from then on."""
    Installation.objects.update_or_create(pk=1, defaults={"demo": True})
    people = [_person(account) for account in ACCOUNTS]
    author = people[0]
    sites = {key: Site.objects.create(**facts) for key, facts in SITES.items()}
    items = _posts(author) | _items(author, sites) | _films(author) | _elsewhere(author)
    for key, name in SITE_PICTURES.items():
        Site.objects.filter(pk=sites[key].pk).update(picture=items[name])
    written = [
        (site, Written(file)) for key, site in sites.items() for file in sorted((FOLDER / "pages" / key).glob("*.md"))
    ]
    pages = {f"{site.theme}{each.path}": _page(site, each, author) for site, each in written}
    for site, each in written:
        text = re.sub(r"\(page:([^)#]+)", partial(_page_address, pages, site), each.text)
        text = re.sub(r'"page:(/[^"]*)"', partial(_slide_address, pages, site), text)
        text = re.sub(r"\(picture:([^)]+)\)", lambda match: f"(item:{items[match[1]].pk})", text)
        text = re.sub(r'pictures="([a-z][a-z-]+)"', lambda match: f'pictures="{items[match[1]].pk}"', text)
        text = re.sub(r"item:([a-z][a-z-]+)", lambda match: f"item:{items[match[1]].pk}", text)
        page = pages[f"{site.theme}{each.path}"]
        standing = PICTURES.get(each.path, {}) if site.theme == "canal" else {}
        shown = {items[name].pk: attrs for name, attrs in standing.items()}
        document = _settled(read_markdown(text).document, shown)
        document = document.with_attrs(
            label=each.facts.get("label"),
            search_title=each.facts.get("search title"),
            share=items[each.facts["share"]].pk if "share" in each.facts else None,
        )
        save(page, author, Draft(each.facts["title"], each.facts.get("description", ""), document), 1)
    for site, each in written:
        if each.facts.get("state") != "unpublished":
            publish(pages[f"{site.theme}{each.path}"], author, 2)
        if each.facts.get("shows") == "hidden":
            Page.objects.filter(pk=pages[f"{site.theme}{each.path}"].pk).update(hidden=True)
    _led_on(sites["canal"], author, pages)
    for site, each in written:
        if "then" in each.facts:
            page = pages[f"{site.theme}{each.path}"]
            copy = page.working_copy
            copy.refresh_from_db()
            save(page, people[1], Draft(each.facts["then"], copy.description, copy.tree), copy.revision)
    _faulty_page(sites["canal"], people[1], pages, items)
    bring_all_up()


def _faulty_page(site: Site, author: Person, pages: dict[str, Page], items: dict[str, Item]) -> None:
    """The page on which nearly everything is wrong; nobody has published it."""
    above, _, slug = faults.PATH.rpartition("/")
    page = add_page(site, author, faults.TITLE, parent=pages[f"{site.theme}{above}"], slug=slug)
    numbers = {path.removeprefix(site.theme): each.pk for path, each in pages.items() if path.startswith(site.theme)}
    gone = f"{settings.COMMONS or 'https://locks.example'}/list-of-locks"
    text = faults.faulty(numbers, {name: item.pk for name, item in items.items()}, gone)
    save(page, author, Draft(faults.TITLE, "", text), 1)


def _led_on(site: Site, author: Person, pages: dict[str, Page]) -> None:
    """An entry that leads elsewhere, and earlier addresses that lead on."""
    levels = add_at(Place(site), author, "Water levels", elsewhere="https://levels.example/varrow")
    publish(levels, author, 1)
    redirects.make(site, author, "/walks", page=pages["canal/visit/towpath-walks"])
    redirects.make(site, author, "/licence.html", page=pages["canal/boating/boat-licence"])
    redirects.make(site, author, "/regatta-two-years-ago")


def _page_address(pages: dict[str, Page], site: Site, match: re.Match[str]) -> str:
    """Put a page's number in place of its path; a path of the other site begins with that site's key."""
    path = match[1]
    key = path if path.startswith(("canal/", "museum/")) else f"{site.theme}{path}"
    return f"(page:{pages[key].pk}"


def _slide_address(pages: dict[str, Page], site: Site, match: re.Match[str]) -> str:
    return f'"page:{pages[f"{site.theme}{match[1]}"].pk}"'


def _person(account: Account) -> Person:
    person = Person(username=account.username, email=f"{account.username}@example.invalid")
    person.first_name, person.last_name = account.name.split(" ", 1)
    person.set_password(PASSWORD)
    person.save()
    RoleGrant.objects.bulk_create(RoleGrant(person=person, role=role) for role in account.roles)
    return person


def _items(author: Person, sites: dict[str, Site]) -> dict[str, Item]:
    """Pictures and documents, in folders, with tags; one document is heavier than it should be."""
    folders: dict[str, Folder] = {}
    for path, shelved in FOLDERS.items():
        above, _, name = path.rpartition("/")
        folders[path] = Folder.objects.create(name=name, parent=folders.get(above))
        if shelved.site:
            folders[path].sites.add(sites[shelved.site])
    items: dict[str, Item] = {}
    files = [file for name in ("pictures", "documents", "animations") for file in (FOLDER / name).iterdir()]
    for file in sorted(files, key=lambda file: file.name):
        stem = file.stem
        place = folder_of(stem)
        upload = SimpleUploadedFile(file.name, file.read_bytes())
        alt = ALT_TEXTS.get(stem, VIEW_ALTS.get(stem, ""))
        item, _ = receive(upload, author, alt, folder=folders.get(place))
        items[stem] = item
        item.title = item.title if stem.startswith("IMG") else item.title.capitalize()
        item.decorative = stem in DECORATIVE
        item.restricted = stem in RESTRICTED
        item.credit = item.credit or ("" if stem.startswith("IMG") else "Varrow Canal Trust")
        item.licence = LICENCES.get(SEASONS.get(stem, ""), "")
        item.language = "en" if item.kind == Item.Kind.DOCUMENT else ""
        item.save()
        tags = (*FOLDERS[place].tags, SEASONS.get(stem, "")) if place else (SEASONS.get(stem, ""),)
        item.tags.set([Tag.objects.get_or_create(name=tag)[0] for tag in tags if tag])
        note_words(item)
    receive(_scanned_paper(), author, name="programme-1987-scanned.pdf", folder=folders["Papers"])
    return items


def _films(author: Person) -> dict[str, Item]:
    """The film and the recording, ready to be played; the worker makes what else there is of them. The captions in
    English are checked and given to readers, those in Welsh are begun."""
    items: dict[str, Item] = {}
    for file in sorted((FOLDER / "films").iterdir()):
        if file.suffix == ".vtt":
            continue
        with file.open("rb") as data:
            item, _ = receive(data, author, name=file.name)
        item.title = TITLES[file.stem]
        item.credit, item.language = "Varrow Canal Trust", "en"
        item.save()
        make_playable(item)
        for words in sorted((FOLDER / "films").glob(f"{file.stem}.*.vtt")):
            read = read_captions(words.read_bytes())
            made = captions.begin(item, author, "captions", read.language, read.cues)
            if read.language == "en":
                captions.give(made)
            else:
                made.drafted = True
                made.save(update_fields=["drafted"])
        items[file.stem] = item
    return items


def _elsewhere(author: Person) -> dict[str, Item]:
    """A host of films that is allowed, and a film that stands there; what it would say is known."""
    films = settings.FILMS or "https://films.example"
    host = Host.objects.create(
        name="Headgate Films",
        addresses=[f"{films}/watch/*"],
        endpoint=f"{films}/oembed",
        frames=films,
        options={"start": "t={}", "captions": "cc=1", "muted": "m=1", "loop": "loop=1", "autoplay": "begin=1"},
        added_by=Person.objects.get(username="maud"),
    )
    cover = f"{films}/covers/over-the-aqueduct.jpg"
    said = Hosted(
        title="Over the aqueduct, in one go",
        author="Tamsin Reedmace",
        author_address=f"{films}/",
        provider=host.name,
        width=640,
        height=360,
        frame=f"{films}/play/over-the-aqueduct",
        lasts=14,
        cover=cover,
    )
    item = keeping.keep(host, f"{films}/watch/over-the-aqueduct", said, author)
    keeping.covered(item, (STAND_IN / "over-the-aqueduct.jpg").read_bytes(), cover)
    Item.objects.filter(pk=item.pk).update(captioned=True)
    return {"over-the-aqueduct": item}


def _posts(author: Person) -> dict[str, Item]:
    """A network of posts that is allowed, and the wardens' posts that stand there; what it would say is known."""
    network = settings.POSTS or "https://talk.example"
    host = Host.objects.create(
        name="Towpath Talk",
        addresses=[f"{network}/by/*"],
        endpoint=f"{network}/oembed",
        frames=network,
        added_by=Person.objects.get(username="maud"),
    )
    items: dict[str, Item] = {}
    for each in json.loads((STAND_IN_POSTS / "catalogue.json").read_text(encoding="utf-8"))[:2]:
        address = f"{network}/by/{each['handle']}"
        post = Posted(tuple(each["words"]), datetime.fromisoformat(each["at"]))
        said = Hosted(
            title=f"{each['author']}: {each['words'][0][:60]}",
            author=each["author"],
            author_address=address,
            provider=host.name,
            width=480,
            height=260,
            frame=f"{network}/view/{each['id']}",
            post=post,
        )
        items[each["id"]] = keeping.keep(host, f"{address}/{each['id']}", said, author)
        if name := each.get("picture"):
            file = SimpleUploadedFile(name, (STAND_IN_POSTS / name).read_bytes())
            picture, _ = receive(file, author, each["alt"])
            items[f"picture-of-{each['id']}"] = picture
            Hosting.objects.filter(pk=items[each["id"]].pk).update(pictures=[picture.pk])
    return items


TITLES = {
    "how-to-work-a-lock": "How to work a lock",
    "a-warden-on-her-round": "A warden on her round",
}


def _scanned_paper() -> BytesIO:
    """A PDF of one page that was scanned far too finely."""
    grain = random.Random(1987)
    page = Image.frombytes("L", (2480, 3508), grain.randbytes(2480 * 3508))
    out = BytesIO()
    out.name = "programme-1987-scanned.pdf"
    page.save(out, "PDF", quality=82)
    return out


def _settled(document: Node, settings: dict[int, dict[str, Any]]) -> Node:
    """The document with its pictures standing as the settings say, by the numbers of their items."""
    blocks = [
        make("picture", **{**node.attrs, **settings[node.attrs["item"]]})
        if node.kind == "picture" and node.attrs["item"] in settings
        else node
        for _, node in blocks_of(document)
    ]
    return document_of(blocks)


def _page(site: Site, each: Written, author: Person) -> Page:
    parent_path, _, slug = each.path.rpartition("/")
    if not slug:
        page = add_page(site, author, each.facts["title"], slug="home")
        page.slug, page.path = "", "/"
        page.save()
        return page
    parent = Page.objects.get(site=site, path=parent_path) if parent_path else None
    return add_page(site, author, each.facts["title"], parent=parent, slug=slug)

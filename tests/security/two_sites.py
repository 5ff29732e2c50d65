"""Two sites with things of their own; whatever belongs to the second and is not public bears a word that nobody of the
first may ever see."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.utils import timezone

from demo.load import FOLDER
from stillpage.arranging import placing
from stillpage.library import acts, captions, uploads
from stillpage.library.models import Captions, Folder, Item
from stillpage.library.receiving import receive
from stillpage.outside.models import Address
from stillpage.pages import redirects, tree
from stillpage.pages.models import Preview
from stillpage.people.models import Person, Role
from stillpage.publishing.publish import publish
from stillpage.written import saving
from stillpage.written.models import Allowance, Clash, Use, Version, Writing
from stillpage_core.document import document_from_json
from stillpage_core.media.captions import Cue

from ..api.base import a_document, a_person, a_picture, a_site, image_bytes

SECRET = "Quagmire"


def make_two_sites(to: Any) -> None:
    """The canal trust and the museum on ``to``. Those who work for the museum alone: a keeper, an author."""
    to.ours, to.theirs = a_site(), a_site("Varrow Lock Museum", "museum.localhost")
    to.keeper = a_person("piet", Role.KEEPER, site=to.theirs)
    to.curator = a_person("curator", Role.AUTHOR, site=to.theirs)
    to.author = a_person("wren", Role.AUTHOR, site=to.ours)
    to.page = tree.add_page(to.ours, to.author, "Towpath walks")
    to.shut = tree.add_page(to.theirs, to.curator, f"{SECRET} plans", slug="plans")
    to.open = tree.add_page(to.theirs, to.curator, "Opening hours")
    for page in (to.page, to.open):
        text = saving.Draft(page.working_copy.title, "When it is open.", document_from_json(a_document("At nine.")))
        saving.save(page, to.curator, text, 1)
        page.working_copy.refresh_from_db()
        publish(page, to.curator if page is to.open else to.author, 2)
    text = saving.Draft(f"{SECRET} hours", f"{SECRET}", document_from_json(a_document(f"{SECRET} at ten.")))
    saving.save(to.open, to.curator, text, 2)
    to.folder = Folder.objects.create(name=f"{SECRET} papers")
    to.folder.sites.add(to.theirs)
    to.picture = a_item(to.keeper, f"{SECRET} gates.jpg", image_bytes(colour="#a51"), to.folder, alt=f"{SECRET} shut")
    minutes = (FOLDER / "documents" / "minutes-of-march.pdf").read_bytes()
    to.minutes = a_item(to.keeper, f"{SECRET} minutes.pdf", minutes, to.folder)
    Item.objects.filter(pk=to.minutes.pk).update(restricted=True)
    to.binned = a_item(to.keeper, f"{SECRET} bin.png", image_bytes(form="PNG", colour="#b62"), to.folder)
    acts.to_bin(to.keeper, [to.binned])
    to.act = acts.change(to.keeper, [to.picture], "described", lambda _: {"credit": SECRET}, SECRET)
    to.made_folder, to.folder_act = acts.make_folder(to.keeper, f"{SECRET} letters", to.folder.pk)
    to.upload = uploads.begin(to.keeper, f"{SECRET}.pdf", 100, "", folder=to.folder)
    to.version = Version.objects.filter(written=to.open).first()
    to.allowance = Allowance.objects.create(
        written=to.shut, check_id="x", key="k", sentence=SECRET, reason=SECRET, at=to.version.at, by=to.curator
    )
    to.redirect = redirects.make(to.theirs, to.curator, f"/{SECRET}", page=to.open)
    to.preview = Preview.objects.create(page=to.shut, until=timezone.now().date(), made_by=to.curator, token=SECRET)
    to.tree_act = placing.show([to.shut], to.curator, in_navigation=True, hidden=False)
    to.clash = Clash.objects.create(
        written=to.shut,
        sort="title",
        theirs=SECRET,
        mine=SECRET,
        theirs_by=to.curator,
        mine_by=to.curator,
        at=to.version.at,
    )
    to.writing = Writing.objects.create(window=uuid4(), written=to.shut, person=to.curator, block=0, at=timezone.now())
    address = Address.objects.create(
        digest="d" * 64, address=f"https://{SECRET.lower()}.example/", host="x", next_test_at=to.version.at
    )
    Use.objects.create(written=to.shut, address=address, live=False)
    to.captions = Captions.objects.create(
        item=to.picture, language="en", cues=captions.packed([Cue(0, 9, SECRET)]), saved_by=to.keeper
    )
    to.mine = a_picture(to.author, colour="#123")


def a_item(person: Person, name: str, data: bytes, folder: Folder | None, alt: str = "") -> Item:
    item, _ = receive(SimpleUploadedFile(name, data), person, alt, folder=folder)
    return item


def state_of(site: Any) -> Any:
    """Everything that is kept of a site and of the library's folders that are kept to it, to see that nothing of it
    was changed."""
    with connection.cursor() as cursor:
        found = []
        for sql in (
            "SELECT written_id, title, revision FROM written_workingcopy w JOIN pages_page p ON p.id = w.written_id "
            "WHERE p.site_id = %s ORDER BY written_id",
            "SELECT written_id, published_at FROM publishing_livecopy l JOIN pages_page p ON p.id = l.written_id "
            "WHERE p.site_id = %s ORDER BY written_id",
            "SELECT v.id FROM written_version v JOIN pages_page p ON p.id = written_id WHERE p.site_id = %s ORDER BY 1",
            "SELECT c.id FROM written_clash c JOIN pages_page p ON p.id = c.written_id WHERE p.site_id = %s ORDER BY 1",
            "SELECT window, block FROM written_writing JOIN pages_page p ON p.id = written_id WHERE p.site_id = %s",
            "SELECT i.id, i.title, i.alt, i.credit, i.folder_id, i.restricted, i.binned_at, i.version, i.leads_on "
            "FROM library_item i JOIN library_folder_sites s ON s.folder_id = i.folder_id "
            "WHERE s.site_id = %s ORDER BY 1",
            "SELECT f.id, f.name, f.parent_id FROM library_folder f JOIN library_folder_sites s ON s.folder_id = f.id "
            "WHERE s.site_id = %s ORDER BY 1",
            "SELECT c.id, c.revision, c.cues, c.given_at, c.removed_at FROM library_captions c JOIN library_item i "
            "ON i.id = c.item_id JOIN library_folder_sites s ON s.folder_id = i.folder_id WHERE s.site_id = %s",
            "SELECT severities, page_budget, name, host, closed_at FROM sites_site WHERE id = %s",
            "SELECT id, parent_id, path, position, in_navigation, hidden, binned_at FROM pages_page WHERE site_id = %s "
            "ORDER BY 1",
            "SELECT path, page_id, address FROM pages_redirect WHERE site_id = %s ORDER BY 1",
            "SELECT v.id, v.visits, v.ended_at FROM pages_preview v JOIN pages_page p ON p.id = v.page_id "
            "WHERE p.site_id = %s ORDER BY 1",
        ):
            cursor.execute(sql, [site.pk])
            found.append(cursor.fetchall())
        cursor.execute("SELECT id, received FROM library_upload WHERE folder_id IS NOT NULL")
        found.append(cursor.fetchall())
    return found

"""Files that somebody should not have, by addresses that they know. OWASP ASVS 4.0.3, 4.2.1, 8.3, 12.4, 12.5."""

import zipfile
from io import BytesIO

from django.core.files.uploadedfile import SimpleUploadedFile

from demo.load import FOLDER
from stillpage.exchange.exporting import LEFT_OUT, export_site
from stillpage.library import acts
from stillpage.library.documents import read_document
from stillpage.library.files import address_of
from stillpage.library.models import Folder, Item
from stillpage.library.receiving import receive, replace, show_version
from stillpage.people.models import Role, Session
from stillpage.publishing.models import LiveCopy, ReaderPass
from stillpage.trail.models import Entry

from ..api.base import ApiTest, CommittedApiTest, a_document, a_person, a_picture, a_site, blocks_in

PAPERS = FOLDER / "documents"


def a_paper(person, name="volunteer-handbook.pdf", **facts):
    item, _ = receive(SimpleUploadedFile(name, (PAPERS / name).read_bytes()), person)
    Item.objects.filter(pk=item.pk).update(**facts)
    item.refresh_from_db()
    return item


def linking(item, words="our handbook"):
    document = a_document("The handbook: ")
    mark = {"type": "link", "attrs": {"href": f"item:{item.pk}", "title": None, "new_window": False}}
    blocks_in(document)[0]["content"].append({"type": "text", "text": words, "marks": [mark]})
    return document


def showing(item):
    document = a_document("A picture.")
    blocks_in(document).append({"type": "picture", "attrs": {"item": item.pk}})
    return document


class OldAddresses(CommittedApiTest):
    def setUp(self):
        super().setUp()
        self.keeper = a_person("piet", Role.KEEPER)
        self.paper = a_paper(self.author)
        self.old = address_of(self.paper.files.get(original=True))

    def newer(self):
        replace(self.paper, SimpleUploadedFile("newer.pdf", (PAPERS / "newsletter-spring.pdf").read_bytes()))
        self.paper.refresh_from_db()
        return address_of(self.paper.files.get(original=True, version=2))

    def test_a_replaced_document_is_had_at_its_old_address_no_more_which_leads_to_the_new_one(self):
        new = self.newer()
        answer = self.visit_page(self.old)
        self.assertEqual((answer.status_code, answer["Location"], answer["Cache-Control"]), (302, new, "no-store"))
        self.assertEqual(self.visit_page(new).status_code, 200)
        self.as_person(a_person("fen", Role.READER))
        self.assertEqual(self.client.get(self.old).status_code, 302)
        self.as_person(self.author)
        self.assertEqual(self.client.get(self.old).status_code, 200)

    def test_or_is_gone_when_the_keeper_says_so(self):
        self.newer()
        self.as_person(self.author)
        self.call("PATCH", f"/items/{self.paper.pk}", {"leads_on": False}, 403)
        self.as_person(self.keeper)
        self.call("PATCH", f"/items/{self.paper.pk}", {"leads_on": False})
        self.assertEqual(self.visit_page(self.old).status_code, 410)
        self.assertEqual(Entry.objects.filter(act="reach changed").count(), 1)

    def test_an_old_address_leads_nobody_to_what_they_may_not_have(self):
        new = self.newer()
        Item.objects.filter(pk=self.paper.pk).update(restricted=True)
        for address in (self.old, new):
            self.assertEqual(self.visit_page(address).status_code, 403)

    def test_a_document_in_the_bin_is_gone_at_once_and_back_when_it_is_taken_back(self):
        acts.to_bin(self.keeper, [self.paper])
        answer = self.visit_page(self.old, HTTP_ACCEPT="text/html")
        self.assertContains(answer, "has been taken away", status_code=410)
        self.assertEqual(self.visit_page(self.old).status_code, 410)
        self.paper.refresh_from_db()
        acts.from_bin(self.keeper, [self.paper])
        self.assertEqual(self.visit_page(self.old).status_code, 200)

    def test_a_picture_in_the_bin_stays_on_the_live_pages_that_show_it_and_is_gone_everywhere_else(self):
        picture = a_picture(self.author)
        shown = address_of(picture.files.filter(original=False).first())
        acts.to_bin(self.keeper, [picture])
        self.assertEqual(self.visit_page(shown).status_code, 410)
        picture.refresh_from_db()
        acts.from_bin(self.keeper, [picture])
        self.save(self.walks, showing(picture), 1)
        self.publish(self.walks)
        picture.refresh_from_db()
        acts.to_bin(self.keeper, [picture])
        self.assertEqual(self.visit_page(shown).status_code, 200)

    def test_live_pages_follow_a_document_that_was_replaced(self):
        self.save(self.walks, linking(self.paper, "our handbook (PDF, 21 kB)"), 1)
        self.publish(self.walks)
        before = LiveCopy.objects.get(written=self.walks)
        self.assertIn(self.old.encode(), bytes(before.html))
        new = self.newer()
        read_document(self.paper.pk)
        self.render_all()
        live = LiveCopy.objects.get(written=self.walks)
        self.assertIn(new.encode(), bytes(live.html))
        self.assertNotIn(self.old.encode(), bytes(live.html))
        self.assertIn(b"our handbook (PDF, 20 kB)", bytes(live.html))
        show_version(self.paper, 1)
        read_document(self.paper.pk)
        self.render_all()
        self.assertIn(self.old.encode(), bytes(LiveCopy.objects.get(written=self.walks).html))
        self.assertEqual(self.visit_page(new)["Location"], self.old)


class KeptToSites(ApiTest):
    """What is kept to some sites, and what is for signed-in readers, on either host."""

    def setUp(self):
        super().setUp()
        self.museum = a_site("Varrow Lock Museum", "museum.localhost")
        self.keeper = a_person("piet", Role.KEEPER)
        self.ours = a_person("reader-here", Role.READER, site=self.site)
        self.theirs = a_person("reader-there", Role.READER, site=self.museum)
        self.folder = Folder.objects.create(name="Papers")
        self.within = Folder.objects.create(name="Minutes", parent=self.folder)
        self.folder.sites.add(self.museum)
        self.paper = a_paper(self.keeper, restricted=True, folder=self.within)
        self.address = address_of(self.paper.files.get(original=True))

    def pass_of(self, person, site):
        self.as_person(person)
        sent = self.client.get(f"/reader/{site.pk}", {"to": "/"})
        if sent.status_code != 302:
            return None
        taken = self.client_class().get(sent["Location"].removeprefix(site.origin), HTTP_HOST=site.host)
        return f"reader={taken.cookies['reader'].value}"

    def at(self, site, cookie):
        return self.client_class().get(self.address, HTTP_HOST=site.host, HTTP_COOKIE=cookie or "").status_code

    def test_a_reader_of_one_site_gets_nothing_of_the_others_on_either_host(self):
        ours, theirs = self.pass_of(self.ours, self.site), self.pass_of(self.theirs, self.museum)
        self.assertEqual(self.at(self.museum, theirs), 200)
        self.assertEqual([self.at(self.site, each) for each in (ours, theirs, None)], [404, 404, 404])
        self.assertEqual([self.at(self.museum, each) for each in (ours, None)], [403, 403])
        self.assertIsNone(self.pass_of(self.ours, self.museum))
        for person, status in ((self.ours, 404), (self.theirs, 200), (self.author, 200)):
            self.as_person(person)
            self.assertEqual(self.client.get(self.address).status_code, status, person)
        self.as_person(a_person("author-here", Role.AUTHOR, site=self.site))
        self.assertEqual(self.client.get(self.address).status_code, 404)

    def test_what_is_open_in_a_kept_folder_is_not_had_on_other_sites(self):
        Item.objects.filter(pk=self.paper.pk).update(restricted=False)
        self.assertEqual((self.at(self.museum, None), self.at(self.site, None)), (200, 404))

    def test_an_author_may_lift_it_in_no_way(self):
        """Taking the folder away, moving it or what it holds, undoing what a keeper did."""
        author = a_person("museum-author", Role.AUTHOR, site=self.museum)
        keeping = acts.change_folder(self.keeper, self.within, {"sites": [self.museum.pk]})
        self.as_person(author)
        outer, inner = f"/folders/{self.folder.pk}", f"/folders/{self.within.pk}"
        self.call("DELETE", outer, None, 403)
        self.call("DELETE", inner)
        self.call("PATCH", outer, {"sites": []}, 403)
        items = [self.paper.pk]
        self.call("POST", "/library/act", {"act": "move", "items": items, "folder": None}, 403)
        free = Folder.objects.create(name="Free")
        self.call("POST", "/library/act", {"act": "move", "items": items, "folder": free.pk}, 403)
        self.call("PATCH", outer, {"parent": free.pk})
        self.call("POST", f"/acts/{keeping.pk}/undo", None, 403)
        self.paper.refresh_from_db()
        self.assertEqual(self.paper.folder_id, self.folder.pk)
        self.assertEqual(list(self.folder.sites.all()), [self.museum])

    def test_nor_by_undoing_an_act_of_ones_own_from_before_it_was_kept(self):
        author = a_person("both", Role.AUTHOR, site=self.museum)
        loose = a_picture(author, colour="#777")
        moved = acts.move(author, [loose], self.within)
        self.as_person(author)
        self.call("POST", f"/acts/{moved.pk}/undo", None, 403)
        loose.refresh_from_db()
        self.assertEqual(loose.folder_id, self.within.pk)
        self.as_person(self.keeper)
        self.call("POST", f"/acts/{moved.pk}/undo")

    def test_a_keeper_does_all_that(self):
        self.as_person(self.keeper)
        self.call("POST", "/library/act", {"act": "move", "items": [self.paper.pk], "folder": None})
        self.call("DELETE", f"/folders/{self.folder.pk}")


class Passes(KeptToSites):
    def test_a_ticket_serves_once(self):
        self.as_person(self.theirs)
        sent = self.client.get(f"/reader/{self.museum.pk}")["Location"].removeprefix(self.museum.origin)
        first = self.client_class().get(sent, HTTP_HOST=self.museum.host)
        again = self.client_class().get(sent, HTTP_HOST=self.museum.host)
        self.assertIn("reader", first.cookies)
        self.assertNotIn("reader", again.cookies)
        self.assertNotIn(first.cookies["reader"].value, sent)
        self.assertEqual(first["Referrer-Policy"], "no-referrer")

    def test_a_pass_ends_with_the_session_the_password_and_the_role(self):
        def signing_out():
            self.client.delete("/api/session")

        def another_password():
            self.theirs.set_password("four-otters-in-a-boat")
            self.theirs.save()

        def no_role():
            self.theirs.grants.all().delete()

        for ends in (signing_out, another_password, no_role):
            carried = self.pass_of(self.theirs, self.museum)
            self.assertEqual(self.at(self.museum, carried), 200)
            ends()
            self.assertEqual(self.at(self.museum, carried), 403, ends)

    def test_nothing_that_opens_anything_stands_in_the_database_as_it_is_carried(self):
        carried = self.pass_of(self.theirs, self.museum).removeprefix("reader=")
        self.assertNotEqual(ReaderPass.objects.get(taken=True).digest, carried)
        Session.objects.all().delete()
        self.assertFalse(ReaderPass.objects.exists())


class Exports(CommittedApiTest):
    def test_what_is_for_signed_in_readers_stays_behind_and_that_is_said(self):
        paper = a_paper(self.author, restricted=True)
        open_paper = a_paper(self.author, "newsletter-spring.pdf")
        picture = a_picture(self.author, colour="#765")
        Item.objects.filter(pk=picture.pk).update(restricted=True)
        document = linking(paper)
        blocks_in(document).extend([*blocks_in(linking(open_paper)), *blocks_in(showing(picture))])
        self.save(self.walks, document, 1)
        self.publish(self.walks)
        archive = zipfile.ZipFile(BytesIO(b"".join(export_site(self.site))))
        names = archive.namelist()
        self.assertIn(address_of(open_paper.files.first()).lstrip("/"), names)
        for item in (paper, picture):
            for file in item.files.all():
                self.assertNotIn(address_of(file).lstrip("/"), names)
        told = archive.read(LEFT_OUT).decode()
        self.assertIn(address_of(paper.files.first()), told)
        page = archive.read("visit/towpath-walks/index.html").decode()
        self.assertIn(f'href="{self.site.origin}{address_of(paper.files.first())}"', page)

    def test_a_page_taken_along_leaves_its_restricted_pictures_behind(self):
        picture = a_picture(self.author, colour="#432")
        self.save(self.walks, showing(picture), 1)

        def files():
            data = self.client.get(f"/api/pages/{self.walks.pk}/export/docx").content
            return [each for each in zipfile.ZipFile(BytesIO(data)).namelist() if "media/" in each]

        self.assertEqual(len(files()), 1)
        Item.objects.filter(pk=picture.pk).update(restricted=True)
        self.assertEqual(files(), [])

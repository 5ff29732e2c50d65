"""A database of an earlier time is brought up to the present with every row accounted for."""

from typing import Any, ClassVar
from uuid import uuid4

from django.apps import apps
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TestCase, TransactionTestCase
from django.utils import timezone

from stillpage.pages.models import Page
from stillpage.publishing.models import LiveCopy, OutOfDate
from stillpage.written.models import Allowance, Clash, Save, Use, Version, WorkingCopy, Writing, Written
from stillpage_core.document.digest import digest_of
from stillpage_core.document.walking import text_of

THEN = [
    ("pages", "0009_writing_together"),
    ("publishing", "0003_readerpass"),
    ("library", "0005_folders_tags_versions"),
]
"""Before texts had digests, live copies their versions, and all uses one table."""
OUTSIDE = "https://levels.example/"


def first_version(*words: str, links: tuple[str, ...] = ()) -> dict[str, Any]:
    """A document of the first version of the format."""
    led = [{"type": "text", "text": "see", "marks": [{"type": "link", "attrs": {"href": each}}]} for each in links]
    content = [{"type": "paragraph", "content": [{"type": "text", "text": each}, *led]} for each in words]
    return {"type": "doc", "attrs": {"version": 1}, "content": content}


class Columns(TestCase):
    def test_columns_compare_as_their_fields_say(self):
        said = {
            (model._meta.db_table, field.column): field.db_collation
            for model in apps.get_models()
            for field in model._meta.local_fields
            if getattr(field, "db_collation", None)
        }
        with connection.cursor() as cursor:
            cursor.execute(
                "SELECT table_name, column_name, collation_name FROM information_schema.columns "
                "WHERE table_schema = DATABASE()"
            )
            there = {(table, column): collation for table, column, collation in cursor.fetchall()}
        self.assertGreater(len(said), 5)
        self.assertEqual({each: there[each] for each in said}, said)


class Growing(TransactionTestCase):
    available_apps: ClassVar[None] = None

    def setUp(self) -> None:
        """In a database of its own, on which nothing else depends."""
        self.given = connection.settings_dict["NAME"]
        self.own = f"{self.given}_grown"
        with connection.cursor() as cursor:
            cursor.execute(f"DROP DATABASE IF EXISTS `{self.own}`")
            cursor.execute(f"CREATE DATABASE `{self.own}`")
        self.addCleanup(self.back)
        self.use(self.own)

    def use(self, name: str) -> None:
        connection.close()
        connection.settings_dict["NAME"] = name

    def back(self) -> None:
        self.use(self.given)
        with connection.cursor() as cursor:
            cursor.execute(f"DROP DATABASE `{self.own}`")

    def fill(self, apps: Any) -> None:
        """Two pages, one of them live and linked to, and a row of everything that belongs to a page."""

        def make(app: str, model: str, **facts: Any) -> Any:
            return apps.get_model(app, model).objects.create(**facts)

        now = timezone.now()
        wren = make("people", "Person", username="wren", password="x", first_name="Wren")
        site = make("sites", "Site", name="Varrow Canal Trust", host="canal.localhost", theme="canal")
        home = make("pages", "Page", site=site, position=0, slug="", path="/")
        walks = make("pages", "Page", site=site, parent=home, position=1, slug="walks", path="/walks", id=40)
        item = make("library", "Item", kind="picture", title="gates", added_at=now, added_by=wren)
        said = {
            "title": "Walks",
            "description": "Level.",
            "document": first_version("Level.", links=("page:1", OUTSIDE)),
        }
        for page, text in ((home, {"title": "Home", "document": first_version("One.", "Two.")}), (walks, said)):
            make("pages", "WorkingCopy", page=page, revision=7, saved_at=now, saved_by=wren, **text)
        kept = {"page": walks, "at": now, "by": wren}
        make("pages", "KeptText", reason="named", note="As it was", title="Old", document=first_version("Old."), **kept)
        make("pages", "KeptText", reason="published", **said, **kept)
        live = make(
            "publishing", "LiveCopy", page=walks, address="canal.localhost/walks", html=b"<p>", html_gzip=b"", etag="e",
            rendered_at=now, published_at=now, published_by=wren, **said,
        )  # fmt: skip
        make("publishing", "LiveLink", source=live, target=home)
        make("pages", "Use", page=walks, item=item, live=True)
        address = make("outside", "Address", address=OUTSIDE, digest="d", host="levels.example", next_test_at=now)
        make("pages", "Leads", page=walks, address=address, live=True)
        make("pages", "Save", page=walks, mark=uuid4(), revision=7, at=now, by=wren)
        block = [first_version("a")["content"][0]]
        make("pages", "Clash", page=walks, sort="words", theirs=block, mine=block, theirs_by=wren, mine_by=wren, at=now)
        make("pages", "Writing", window=uuid4(), page=walks, person=wren, block=0, at=now)
        make("pages", "Allowance", page=walks, check_id="x", key="k", sentence="s", reason="r", at=now, by=wren)

    def test_every_row_of_everything_written_is_there_and_says_the_same(self) -> None:
        executor = MigrationExecutor(connection)
        executor.migrate(THEN)
        self.fill(executor.loader.project_state(THEN).apps)
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())

        home, walks = Page.objects.order_by("position")
        self.assertEqual([(each.path, each.parent_id) for each in (home, walks)], [("/", None), ("/walks", home.pk)])
        self.assertEqual((walks.pk, set(Written.objects.values_list("pk", flat=True))), (40, {home.pk, 40}))
        self.assertEqual(text_of(home.working_copy.tree), "One.\nTwo.")
        copy, live = walks.working_copy, walks.live_copy
        self.assertEqual((copy.title, copy.description, copy.revision), ("Walks", "Level.", 7))
        self.assertEqual(copy.document["attrs"]["version"], 2)
        self.assertEqual(copy.digest, digest_of(copy.title, copy.description, copy.document))
        self.assertTrue(copy.same_text(live))
        self.assertEqual((live.site, live.kept.reason, bytes(live.html)), (walks.site, "published", b"<p>"))
        self.assertEqual((live.label, live.first_at), ("Walks", live.published_at))
        self.assertIn(" level ", walks.said.live)
        self.assertIn(" two ", home.said.working)
        self.assertEqual({each.title for each in walks.versions.all()}, {"Old", "Walks"})
        self.assertEqual(
            set(Use.objects.values_list("written", "live", "target", "item__title", "address__address")),
            {
                (40, True, None, "gates", None),
                (40, True, home.pk, None, None),
                (40, False, home.pk, None, None),
                (40, True, None, None, OUTSIDE),
            },
        )
        for model in (Save, Clash, Writing, Allowance):
            self.assertEqual(list(model.objects.values_list("written", flat=True)), [40], model)
        self.assertEqual(list(OutOfDate.objects.values_list("page", "text")), [(40, True)])
        counts = [model.objects.count() for model in (WorkingCopy, LiveCopy, Version)]
        self.assertEqual(counts, [2, 1, 2])
        # Numbers go on behind those there are, for whatever is written next.
        self.assertGreater(Written.objects.create().pk, 40)
        live.delete()
        walks.delete()
        self.assertEqual(
            [model.objects.count() for model in (Page, WorkingCopy, Version, Save, Clash)], [1, 1, 0, 0, 0]
        )
        self.assertFalse(Written.objects.filter(pk=40).exists())

"""Gives live copies their sites, keeps the pages that they link to with all else that they name, and has each rendered
anew once: where its text begins in what was rendered is not known. It may begin again where it broke off."""

from django.db import migrations

STATEMENTS = (
    "UPDATE publishing_livecopy l JOIN pages_page p ON p.id = l.page_id SET l.site_id = p.site_id "
    "WHERE l.site_id IS NULL",
    "INSERT IGNORE INTO pages_use (page_id, live, target_id, framings) "
    "SELECT source_id, 1, target_id, '[]' FROM publishing_livelink",
    "INSERT INTO publishing_outofdate (page_id, text) SELECT l.page_id, 1 FROM publishing_livecopy l "
    "WHERE l.text_to = 0 AND NOT EXISTS (SELECT 1 FROM publishing_outofdate o WHERE o.page_id = l.page_id)",
)


def note(_apps, editor):
    with editor.connection.cursor() as cursor:
        for statement in STATEMENTS:
            cursor.execute(statement)


class Migration(migrations.Migration):
    dependencies = [("publishing", "0006_freshness"), ("pages", "0013_named_so_far")]

    operations = [migrations.RunPython(note, migrations.RunPython.noop)]

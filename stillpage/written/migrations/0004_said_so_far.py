"""The full-text indexes of what is said, and the words of the working copies that are there."""

from django.db import migrations

from stillpage.written.search import words_of
from stillpage_core.document import document_from_json

BATCH = 200


def fill(apps, _editor):
    copies, said = apps.get_model("written", "WorkingCopy").objects, apps.get_model("written", "Said").objects
    last = 0
    while batch := list(copies.filter(pk__gt=last).order_by("pk")[:BATCH]):
        rows = [
            said.model(
                written_id=copy.pk, working=words_of(copy.title, copy.description, document_from_json(copy.document))
            )
            for copy in batch
        ]
        said.bulk_create(rows)
        last = batch[-1].pk


class Migration(migrations.Migration):
    dependencies = [("written", "0003_said")]

    operations = [
        migrations.RunSQL(
            f"ALTER TABLE written_said ADD FULLTEXT INDEX said_{column} ({column})",
            f"ALTER TABLE written_said DROP INDEX said_{column}",
        )
        for column in ("working", "live")
    ] + [migrations.RunPython(fill, migrations.RunPython.noop)]

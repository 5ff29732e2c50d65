"""Gives the texts that are there already their digests: in batches, and again from the beginning where it broke off."""

from django.db import migrations

from stillpage_core.document.digest import digest_of

BATCH = 500


def note(apps, _editor):
    for name in ("WorkingCopy", "KeptText"):
        texts = apps.get_model("pages", name).objects
        last = 0
        while batch := list(texts.filter(pk__gt=last).only("title", "description", "document").order_by("pk")[:BATCH]):
            for text in batch:
                text.digest = digest_of(text.title, text.description, text.document)
            texts.bulk_update(batch, ["digest"])
            last = batch[-1].pk


class Migration(migrations.Migration):
    dependencies = [("pages", "0010_what_is_said")]

    operations = [migrations.RunPython(note, migrations.RunPython.noop)]

"""Gives the live copies that are there already their digests, and the version that each was made of: that published
last."""

from django.db import migrations

from stillpage_core.document.digest import digest_of

BATCH = 500


def note(apps, _editor):
    lives = apps.get_model("publishing", "LiveCopy").objects
    published = apps.get_model("pages", "KeptText").objects.filter(reason="published").order_by("at", "pk")
    last = 0
    while batch := list(lives.filter(pk__gt=last).only("title", "description", "document").order_by("pk")[:BATCH]):
        newest = dict(published.filter(page__in=[live.pk for live in batch]).values_list("page_id", "pk"))
        for live in batch:
            live.digest = digest_of(live.title, live.description, live.document)
            live.kept_id = newest.get(live.pk)
        lives.bulk_update(batch, ["digest", "kept"])
        last = batch[-1].pk


class Migration(migrations.Migration):
    dependencies = [("publishing", "0004_what_is_said"), ("pages", "0011_said_so_far")]

    operations = [migrations.RunPython(note, migrations.RunPython.noop)]

"""What links call the pages that are live, since when they are, and by which words they are found."""

from django.db import migrations
from django.db.models import F

from stillpage.written.search import words_of
from stillpage_core.document import document_from_json

BATCH = 200


def fill(apps, _editor):
    lives, said = apps.get_model("publishing", "LiveCopy").objects, apps.get_model("written", "Said").objects
    lives.update(label=F("title"), first_at=F("published_at"))
    last = 0
    fields = ("title", "description", "document")
    while batch := list(lives.filter(pk__gt=last).only(*fields).order_by("pk")[:BATCH]):
        for live in batch:
            words = words_of(live.title, live.description, document_from_json(live.document))
            said.filter(pk=live.pk).update(live=words)
        last = batch[-1].pk


class Migration(migrations.Migration):
    dependencies = [("publishing", "0013_told_to_machines"), ("written", "0004_said_so_far")]

    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]

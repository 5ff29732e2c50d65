"""The full-text index, and what items that came before are found by."""

from django.db import migrations
from django.db.models import F

from stillpage.library.search import words_in


def fill(apps, _editor):
    item, words = apps.get_model("library", "Item"), apps.get_model("library", "Words")
    use = apps.get_model("pages", "Use")
    for each in item.objects.prefetch_related("files").iterator(chunk_size=500):
        original = next((file for file in each.files.all() if file.original), None)
        if original is not None:
            each.size, each.width, each.height = original.size, original.width, original.height
            each.mime = original.mime
        small = [file for file in each.files.all() if not file.original]
        each.thumbnail = small[0].name if small else ""
        each.nature = "photograph" if each.kind == "picture" else ""
        each.wordless = each.kind == "picture" and not each.alt
        each.used_on = use.objects.filter(item_id=each.pk).values("page").distinct().count()
        each.save()
        facts = (each.title, each.alt, each.description, each.credit, each.licence)
        words.objects.create(item=each, said=f" {' '.join(words_in(' '.join(facts)))} ")
    # Files in the new formats and sizes are still to be made.
    item.objects.update(wanted=F("made") + 1)


class Migration(migrations.Migration):
    dependencies = [("library", "0005_folders_tags_versions"), ("pages", "0005_framings")]

    operations = [
        migrations.RunSQL(
            "ALTER TABLE library_words ADD FULLTEXT INDEX words_full (said, within)",
            "ALTER TABLE library_words DROP INDEX words_full",
        ),
        migrations.RunPython(fill, migrations.RunPython.noop),
    ]

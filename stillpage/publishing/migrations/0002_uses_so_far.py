"""Notes the items that texts name which were written before uses were kept."""

from django.db import migrations

from stillpage_core.document import document_from_json
from stillpage_core.document.naming import named_in


def note(apps, _editor):
    use = apps.get_model("pages", "Use")
    items = set(apps.get_model("library", "Item").objects.values_list("pk", flat=True))
    texts = ((apps.get_model("pages", "WorkingCopy"), False), (apps.get_model("publishing", "LiveCopy"), True))
    for model, live in texts:
        for page, document in model.objects.values_list("page_id", "document").iterator():
            named = named_in(document_from_json(document))
            wanted = sorted((named.items | named.pictures) & items)
            use.objects.bulk_create(use(page_id=page, item_id=number, live=live) for number in wanted)


class Migration(migrations.Migration):
    dependencies = [("publishing", "0001_initial"), ("pages", "0004_uses")]

    operations = [migrations.RunPython(note, migrations.RunPython.noop)]

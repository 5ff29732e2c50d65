"""Notes in one table what texts name: the outside addresses that were in one of their own, and the pages that working
copies link to, which nobody kept. In batches, and again from the beginning where it broke off."""

from django.db import migrations

from stillpage_core.document import document_from_json
from stillpage_core.document.naming import named_in

BATCH = 500


def note(apps, editor):
    with editor.connection.cursor() as cursor:
        cursor.execute(
            "INSERT IGNORE INTO pages_use (page_id, live, address_id, framings) "
            "SELECT page_id, live, address_id, '[]' FROM pages_leads"
        )
    copies, use = apps.get_model("pages", "WorkingCopy").objects, apps.get_model("pages", "Use")
    pages = set(apps.get_model("pages", "Page").objects.values_list("pk", flat=True))
    last = 0
    while batch := list(copies.filter(pk__gt=last).order_by("pk").values_list("pk", "document")[:BATCH]):
        use.objects.bulk_create(
            (
                use(page_id=number, live=False, target_id=target)
                for number, document in batch
                for target in sorted(named_in(document_from_json(document)).pages & pages)
            ),
            ignore_conflicts=True,
        )
        last = batch[-1][0]


class Migration(migrations.Migration):
    dependencies = [("pages", "0012_what_is_named")]

    operations = [migrations.RunPython(note, migrations.RunPython.noop)]

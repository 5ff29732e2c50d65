"""Notes the outside addresses that texts lead to which were written before they were tested."""

from urllib.parse import urlsplit

from django.db import migrations
from django.utils import timezone

from stillpage.outside.testing import digest_of
from stillpage_core.document import document_from_json
from stillpage_core.document.naming import named_in


def note(apps, _editor):
    address, leads = apps.get_model("outside", "Address"), apps.get_model("pages", "Leads")
    texts = [(each, False) for each in apps.get_model("pages", "WorkingCopy").objects.all()]
    for text, live in texts:
        for each in named_in(document_from_json(text.document)).outside:
            row, _ = address.objects.get_or_create(
                digest=digest_of(each), defaults={"address": each, "host": (urlsplit(each).hostname or "")[:255], "next_test_at": timezone.now()}
            )
            leads.objects.get_or_create(page_id=text.page_id, address=row, live=live)


class Migration(migrations.Migration):
    dependencies = [("pages", "0006_checks")]

    operations = [migrations.RunPython(note, migrations.RunPython.noop)]

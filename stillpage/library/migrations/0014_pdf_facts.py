"""Documents are looked at anew: what a PDF says of itself was not read before, nor was a first page shown."""

from django.db import migrations, models
from django.db.models import F


def look_again(apps, schema_editor):
    apps.get_model("library", "Item").objects.filter(kind="document").update(wanted=F("wanted") + 1, tries=0)


class Migration(migrations.Migration):
    dependencies = [("library", "0013_elsewhere")]

    operations = [
        migrations.AddField(
            model_name="item",
            name="facts",
            field=models.JSONField(
                default=dict, help_text="What a PDF says of itself: `media.pdf.PdfFacts`, and `signs`."
            ),
        ),
        migrations.RunPython(look_again, migrations.RunPython.noop),
    ]

"""What is written gets a table of its own, of which pages are one sort: each page's row with the number it has."""

from django.db import migrations, models


class Migration(migrations.Migration):
    initial = True
    dependencies = [("pages", "0016_documents_as_they_are_now")]

    operations = [
        migrations.CreateModel(
            name="Written",
            fields=[("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID"))],
        ),
        migrations.RunSQL(
            "INSERT INTO written_written (id) SELECT id FROM pages_page", "DELETE FROM written_written"
        ),
    ]

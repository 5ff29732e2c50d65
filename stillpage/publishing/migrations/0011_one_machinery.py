"""A live copy is one of something written; only what has an address has a site and bytes."""

import django.db.models.deletion
from django.db import migrations, models

ADDRESS = models.CharField(db_collation="utf8mb4_bin", max_length=700, null=True, unique=True)


class Migration(migrations.Migration):
    dependencies = [
        ("publishing", "0010_documents_as_they_are_now"),
        ("sites", "0003_site_frame"),
        ("written", "0002_moved_here"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AlterField(
                    model_name="livecopy",
                    name="kept",
                    field=models.ForeignKey(
                        help_text="The version that readers see.",
                        null=True,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="written.version",
                    ),
                )
            ]
        ),
        migrations.RenameField("livecopy", "page", "written"),
        migrations.AlterField(
            model_name="livecopy",
            name="written",
            field=models.OneToOneField(
                on_delete=django.db.models.deletion.PROTECT,
                primary_key=True,
                related_name="live_copy",
                serialize=False,
                to="written.written",
            ),
        ),
        migrations.AlterField(
            model_name="livecopy",
            name="site",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="live_copies", to="sites.site"
            ),
        ),
        migrations.AlterField(model_name="livecopy", name="address", field=ADDRESS),
        migrations.AlterField(model_name="notfoundpage", name="address", field=ADDRESS),
        migrations.AlterField(
            model_name="change",
            name="sort",
            field=models.CharField(
                choices=[("item", "Item"), ("page", "Written"), ("around", "Around"), ("site", "Site")], max_length=10
            ),
        ),
    ]

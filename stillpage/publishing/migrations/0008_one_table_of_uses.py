import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("publishing", "0007_fresh_so_far")]

    operations = [
        migrations.AlterField(
            model_name="livecopy",
            name="site",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.PROTECT, related_name="live_copies", to="sites.site"
            ),
        ),
        migrations.DeleteModel(name="LiveLink"),
    ]

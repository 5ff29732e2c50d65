import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("pages", "0014_one_table_of_uses"), ("publishing", "0009_policies")]

    operations = [
        migrations.RenameModel("KeptText", "Version"),
        migrations.AlterField(
            model_name="version",
            name="page",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="versions", to="pages.page"
            ),
        ),
    ]

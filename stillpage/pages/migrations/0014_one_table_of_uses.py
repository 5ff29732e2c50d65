from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("pages", "0013_named_so_far")]

    operations = [migrations.DeleteModel(name="Leads")]

"""What belongs to everything that is written has moved to `stillpage.written`."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("pages", "0017_one_machinery"), ("publishing", "0011_one_machinery")]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.DeleteModel(name)
                for name in ("Allowance", "Clash", "Save", "Use", "Version", "WorkingCopy", "Writing")
            ]
        )
    ]

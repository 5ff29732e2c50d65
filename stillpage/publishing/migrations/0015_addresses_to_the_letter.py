"""Gives the addresses of what is rendered the collation that their fields have: a change of a field to one that may be
empty had dropped it, so that two addresses were one that differ in capitals or accents alone."""

from django.db import migrations

TABLES = ("publishing_livecopy", "publishing_notfoundpage")


class Migration(migrations.Migration):
    dependencies = [("publishing", "0014_told_so_far")]

    operations = [
        migrations.RunSQL(
            f"ALTER TABLE {table} MODIFY address VARCHAR(700) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL",
            migrations.RunSQL.noop,
        )
        for table in TABLES
    ]

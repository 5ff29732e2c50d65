"""Texts, versions and all that goes with them belong to what is written, whatever sort it is of; a page is one."""

import django.db.models.deletion
from django.db import migrations, models

LED = {
    "save": "saves",
    "clash": "clashes",
    "writing": "writings",
    "use": "uses",
    "allowance": "allowances",
    "version": "versions",
}


def _to_written(related_name):
    return models.ForeignKey(
        on_delete=django.db.models.deletion.CASCADE, related_name=related_name, to="written.written"
    )


class Inherit(migrations.operations.base.Operation):
    """A page shares the number of what is written: its own column becomes one that leads there."""

    reversible = False

    def state_forwards(self, app_label, state):
        page = state.models[app_label, "page"]
        page.bases = ("written.written",)
        page.fields.pop("id")
        page.options = {**page.options, "ordering": ["position", "pk"]}
        link = models.OneToOneField(
            db_column="id",
            on_delete=django.db.models.deletion.CASCADE,
            parent_link=True,
            primary_key=True,
            related_name="page",
            serialize=False,
            to="written.written",
        )
        page.fields = {"written": link, **page.fields}
        state.reload_model(app_label, "page")

    def database_forwards(self, app_label, schema_editor, from_state, to_state):
        schema_editor.execute("ALTER TABLE pages_page MODIFY id BIGINT NOT NULL")
        schema_editor.execute(
            "ALTER TABLE pages_page ADD CONSTRAINT page_is_written FOREIGN KEY (id) REFERENCES written_written (id)"
        )

    def database_backwards(self, app_label, schema_editor, from_state, to_state):
        raise NotImplementedError

    def describe(self):
        return "A page becomes a sort of what is written"


class Migration(migrations.Migration):
    dependencies = [
        ("pages", "0016_documents_as_they_are_now"),
        ("publishing", "0010_documents_as_they_are_now"),
        ("written", "0001_initial"),
    ]

    operations = [
        *(
            operation
            for name, related_name in LED.items()
            for operation in (
                migrations.RenameField(name, "page", "written"),
                migrations.AlterField(name, "written", _to_written(related_name)),
            )
        ),
        migrations.RenameField("workingcopy", "page", "written"),
        migrations.AlterField(
            "workingcopy",
            "written",
            models.OneToOneField(
                on_delete=django.db.models.deletion.CASCADE,
                primary_key=True,
                related_name="working_copy",
                serialize=False,
                to="written.written",
            ),
        ),
        migrations.AlterField(
            "use",
            "target",
            models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="linked_from",
                to="written.written",
            ),
        ),
        Inherit(),
    ]

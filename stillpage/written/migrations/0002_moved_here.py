"""What belongs to everything that is written moves here, with its tables."""

import uuid

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

import stillpage.written.models

TABLES = ("allowance", "clash", "save", "use", "version", "workingcopy", "writing")


class Migration(migrations.Migration):
    dependencies = [
        ("library", "0010_repeatable"),
        ("outside", "0001_initial"),
        ("pages", "0017_one_machinery"),
        ("written", "0001_initial"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[
                migrations.RunSQL(
                    f"RENAME TABLE pages_{name} TO written_{name}", f"RENAME TABLE written_{name} TO pages_{name}"
                )
                for name in TABLES
            ],
            state_operations=[
                migrations.CreateModel(
                    name='Clash',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('sort', models.CharField(choices=[('words', 'Words'), ('gone', 'Gone'), ('attributes', 'Attributes'), ('title', 'Title'), ('description', 'Description')], max_length=20)),
                        ('theirs', models.JSONField()),
                        ('mine', models.JSONField()),
                        ('at', models.DateTimeField()),
                        ('mine_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                        ('theirs_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                        ('written', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='clashes', to='written.written')),
                    ],
                    options={
                        'ordering': ['id'],
                    },
                ),
                migrations.CreateModel(
                    name='Version',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('title', models.CharField(max_length=200)),
                        ('description', models.CharField(blank=True, max_length=500)),
                        ('document', stillpage.written.models.DocumentField()),
                        ('digest', models.CharField(blank=True, max_length=40)),
                        ('reason', models.CharField(choices=[('published', 'Published'), ('set aside', 'Kept because somebody else had changed the same words'), ('named', 'Kept by name')], max_length=20)),
                        ('note', models.CharField(blank=True, max_length=200)),
                        ('at', models.DateTimeField()),
                        ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                        ('written', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='versions', to='written.written')),
                    ],
                    options={
                        'ordering': ['-at', '-id'],
                    },
                ),
                migrations.CreateModel(
                    name='Allowance',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('check_id', models.CharField(max_length=60)),
                        ('key', models.CharField(max_length=40)),
                        ('sentence', models.CharField(max_length=500)),
                        ('reason', models.CharField(max_length=500)),
                        ('at', models.DateTimeField()),
                        ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                        ('written', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='allowances', to='written.written')),
                    ],
                    options={
                        'ordering': ['id'],
                        'constraints': [models.UniqueConstraint(fields=('written', 'key'), name='one_allowance_a_finding')],
                    },
                ),
                migrations.CreateModel(
                    name='Save',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('mark', models.UUIDField(default=uuid.uuid4)),
                        ('revision', models.PositiveIntegerField()),
                        ('at', models.DateTimeField()),
                        ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                        ('written', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='saves', to='written.written')),
                    ],
                    options={
                        'indexes': [models.Index(fields=['written', 'revision'], name='save_revision'), models.Index(fields=['at'], name='save_at')],
                        'constraints': [models.UniqueConstraint(fields=('written', 'mark'), name='one_save_a_mark')],
                    },
                ),
                migrations.CreateModel(
                    name='Use',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('live', models.BooleanField()),
                        ('framings', models.JSONField(default=list, help_text='What is made of a picture here: sets of `media.editing.EDITS`.')),
                        ('address', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='uses', to='outside.address')),
                        ('item', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='uses', to='library.item')),
                        ('target', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='linked_from', to='written.written')),
                        ('written', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='uses', to='written.written')),
                    ],
                    options={
                        'constraints': [models.UniqueConstraint(fields=('written', 'item', 'live'), name='one_use_a_text'), models.UniqueConstraint(fields=('written', 'target', 'live'), name='one_target_a_text'), models.UniqueConstraint(fields=('written', 'address', 'live'), name='one_address_a_text')],
                    },
                ),
                migrations.CreateModel(
                    name='WorkingCopy',
                    fields=[
                        ('title', models.CharField(max_length=200)),
                        ('description', models.CharField(blank=True, max_length=500)),
                        ('document', stillpage.written.models.DocumentField()),
                        ('digest', models.CharField(blank=True, max_length=40)),
                        ('written', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='working_copy', serialize=False, to='written.written')),
                        ('revision', models.PositiveIntegerField(default=1)),
                        ('saved_at', models.DateTimeField()),
                        ('saved_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                    ],
                    options={
                        'indexes': [models.Index(fields=['title'], name='copy_title'), models.Index(fields=['description'], name='copy_description')],
                    },
                ),
                migrations.CreateModel(
                    name='Writing',
                    fields=[
                        ('window', models.UUIDField(primary_key=True, serialize=False)),
                        ('block', models.PositiveIntegerField(null=True)),
                        ('at', models.DateTimeField()),
                        ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                        ('written', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='writings', to='written.written')),
                    ],
                    options={
                        'indexes': [models.Index(fields=['written', 'at'], name='writing_at')],
                    },
                ),
            ],
        )
    ]

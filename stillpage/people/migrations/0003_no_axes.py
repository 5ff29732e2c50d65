from django.db import migrations

GONE = (
    "axes_accessattemptexpiration",
    "axes_accessattempt",
    "axes_accesslog",
    "axes_accessfailurelog",
    "django_session",
)


class Migration(migrations.Migration):
    """Sessions and attempts have tables of our own; those of the packages that kept them before go."""

    dependencies = [("people", "0002_attempts_counter_session")]
    operations = [migrations.RunSQL(f"DROP TABLE IF EXISTS {name}", migrations.RunSQL.noop) for name in GONE]

"""What the application's user of the database may do: read and write rows, and only add to the audit trail."""

from __future__ import annotations

import re

from django.db import connection

from stillpage.trail.models import Entry


def grant_to(user: str, host: str = "localhost") -> None:
    """Give a user of the database, who is there already, just these rights; those it had before are taken.

    Who calls this is the database's owner. Tables made by a later migration are given when this is done again.
    """
    who = f"{_name(user)}@{_name(host)}"
    name = connection.settings_dict["NAME"]
    quoted = connection.ops.quote_name
    with connection.cursor() as cursor:
        cursor.execute(f"REVOKE ALL PRIVILEGES, GRANT OPTION FROM {who}")
        for table in connection.introspection.table_names(cursor):
            rights = "SELECT, INSERT" if table == Entry._meta.db_table else "SELECT, INSERT, UPDATE, DELETE"
            cursor.execute(f"GRANT {rights} ON {quoted(name)}.{quoted(table)} TO {who}")


def _name(word: str) -> str:
    if not re.fullmatch(r"[A-Za-z0-9_.%-]{1,80}", word):
        raise ValueError(f"“{word}” is no name of a user or host.")
    return f"'{word}'"

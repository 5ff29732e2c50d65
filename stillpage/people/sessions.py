"""Sessions of people who are signed in: kept in the database with whom they belong to, so that each can see and end
their own. A session ends some time after its last request, and some time after it began, whichever is sooner.

``SESSION_ENGINE`` of the settings names this module; `SessionStore` is what Django asks for.
"""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.conf import settings
from django.contrib.auth import HASH_SESSION_KEY, SESSION_KEY
from django.contrib.sessions.backends.db import SessionStore as Stored
from django.db.models import Q, QuerySet
from django.utils import timezone
from django.utils.crypto import constant_time_compare

SEEN_EVERY = timedelta(minutes=1)
"""How often it is noted that a session is still used."""


class SessionStore(Stored):
    """Django's sessions in the database, with an owner, a beginning and a last use."""

    @classmethod
    def get_model_class(cls) -> Any:
        from .models import Session  # noqa: PLC0415 - models are there only when Django has started

        return Session

    def _get_session_from_db(self) -> Any:
        rows = self.get_model_class().objects
        row = alive(rows.filter(session_key=self.session_key)).first()
        if row is None:
            self._session_key = None
            return None
        if row.seen_at < timezone.now() - SEEN_EVERY:
            rows.filter(pk=row.pk).update(seen_at=timezone.now())
        return row

    def create_model_instance(self, data: dict[str, Any]) -> Any:
        row: Any = super().create_model_instance(data)
        known = self.get_model_class().objects.filter(pk=row.pk).values("begun_at", "agent", "address").first()
        for name, value in (known or {}).items():
            setattr(row, name, value)
        number = data.get(SESSION_KEY)
        row.person_id = int(number) if number is not None else None
        for name in ("agent", "address"):
            if name in data:
                setattr(row, name, data[name])
        return row


def alive(rows: QuerySet[Any]) -> QuerySet[Any]:
    """Those of the sessions that have not ended."""
    now = timezone.now()
    idle, longest = timedelta(seconds=settings.SESSION_IDLE), timedelta(seconds=settings.SESSION_COOKIE_AGE)
    return rows.filter(Q(person=None) | Q(seen_at__gt=now - idle), expire_date__gt=now, begun_at__gt=now - longest)


def still_holds(row: Any) -> bool:
    """Whether a session and the password that it was begun with still hold; notes that it is used."""
    if row is None or row.person is None or not row.person.is_active:
        return False
    if not alive(type(row).objects.filter(pk=row.pk)).exists():
        return False
    given = row.get_decoded().get(HASH_SESSION_KEY, "")
    if not constant_time_compare(given, row.person.get_session_auth_hash()):
        return False
    if row.seen_at < timezone.now() - SEEN_EVERY:
        type(row).objects.filter(pk=row.pk).update(seen_at=timezone.now())
    return True


def forget_ended() -> None:
    """Remove the rows of sessions that have ended."""
    from .models import Session  # noqa: PLC0415

    Session.objects.exclude(pk__in=alive(Session.objects.all()).values("pk")).delete()

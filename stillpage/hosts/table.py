"""The hosts that films may be shown from, as an administrator keeps them; live pages follow."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlsplit

from django.conf import settings
from django.db import transaction
from django.utils import timezone

from stillpage.library.models import Item
from stillpage.library.signals import tell_changed
from stillpage.people.models import Person
from stillpage.sites.models import Site
from stillpage.trail.noting import note
from stillpage_core.media.hosting import FilmHost, HostError

from .models import Host

MOST = 200
"""How many hosts there may be."""
FIELDS = ("name", "addresses", "endpoint", "frames", "options")


def checked(said: dict[str, Any]) -> FilmHost:
    """A host of what somebody has typed.

    Raises:
        HostError: when something is wrong with it, or its frames would come from here.
    """
    host = FilmHost(
        said["name"].strip(),
        tuple(dict.fromkeys(filter(None, (each.strip() for each in said["addresses"])))),
        said["endpoint"].strip(),
        said["frames"].strip().rstrip("/"),
        {name: written.strip() for name, written in said["options"].items() if written.strip()},
    )
    if problem := host.problem():
        raise HostError(problem)
    # A frame from our own origin could do on the page whatever we can.
    port = f":{settings.PUBLIC_PORT}" if settings.PUBLIC_PORT else ""
    ours = {f"{name}{port}" for name in (*settings.AUTHORING_HOSTS, *Site.objects.values_list("host", flat=True))}
    if urlsplit(host.frames).netloc in ours:
        raise HostError("The frames may not come from this installation itself: nothing would keep them apart.")
    return host


def keep(person: Person, said: dict[str, Any], row: Host | None = None) -> Host:
    """Add a host, or change one. Raises `HostError`."""
    host = checked(said)
    if row is None and Host.objects.filter(removed_at=None).count() >= MOST:
        raise HostError(f"There are {MOST} hosts already, the most there may be.")
    others = Host.objects.filter(removed_at=None, name=host.name)
    if (others.exclude(pk=row.pk) if row else others).exists():
        raise HostError(f"There is a host by the name of “{host.name}” already.")
    with transaction.atomic():
        kept = row or Host(added_by=person)
        for name in FIELDS:
            value = getattr(host, name)
            setattr(kept, name, list(value) if name == "addresses" else dict(value) if name == "options" else value)
        kept.save()
        _told(kept, person, "changed" if row else "added")
    return kept


def remove(person: Person, row: Host) -> None:
    """Take a host away: its films stay in the library, and pages show a link to them."""
    with transaction.atomic():
        Host.objects.filter(pk=row.pk, removed_at=None).update(removed_at=timezone.now())
        _told(row, person, "taken away")


def bring_back(person: Person, row: Host) -> None:
    """Bring a host back that was taken away. Raises `HostError` where another has its name by now."""
    if Host.objects.filter(removed_at=None, name=row.name).exclude(pk=row.pk).exists():
        raise HostError(f"There is a host by the name of “{row.name}” already.")
    with transaction.atomic():
        Host.objects.filter(pk=row.pk).update(removed_at=None)
        _told(row, person, "brought back")


def _told(row: Host, person: Person, what: str) -> None:
    note("hosts changed", f"{person.shown_name} has {what} the host of films “{row.name}”.", person=person, host=row.pk)
    tell_changed(list(Item.objects.filter(hosting__host=row)))

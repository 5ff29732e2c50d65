"""Who asks."""

from __future__ import annotations

from django.http import HttpRequest

from stillpage.people.models import Person


class SignedIn(HttpRequest):
    """A request of somebody who is signed in, as every operation's is that does not say otherwise (`interface.api`)."""

    user: Person

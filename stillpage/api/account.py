"""Signing in and out, one's own password and sessions, and the audit trail."""

from __future__ import annotations

import hashlib
from contextlib import suppress
from typing import Any

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.http import Http404, HttpResponse
from django.middleware.csrf import get_token
from limits import parse
from ninja import Router
from ninja.params.functions import Query

from stillpage.operations.models import is_demo
from stillpage.outside import commons
from stillpage.people import attempts
from stillpage.people import sessions as kept
from stillpage.people.limiting import limiter
from stillpage.people.models import Person, Session
from stillpage.people.passwords import SHIPPED
from stillpage.rights import Right, may, may_everywhere, require, sites_of
from stillpage.trail.models import Entry
from stillpage.trail.noting import ACTS, note

from .limits import Costly
from .problems import problem
from .requests import SignedIn
from .schemas.people import Choices, PasswordIn, SignedInAt, SignIn, TrailOut
from .schemas.people import Session as SessionOut
from .schemas.problems import Problem

public = Router(tags=["session"])
router = Router(tags=["account"])
PART = 100
_NOTED = parse("1/minute")
"""How often it is noted that attempts from one address are not looked at."""


@public.get("/session", response=SessionOut)
def session(request: SignedIn) -> dict[str, Any]:
    """Who is signed in."""
    return _session(request)


def _session(request: SignedIn) -> dict[str, Any]:
    person = request.user
    return {
        "person": _known(person) if person.is_authenticated else None,
        "csrf_token": get_token(request),
        "upload_limit": settings.UPLOAD_LIMIT,
        "document_limit": settings.DOCUMENT_LIMIT,
        "film_limit": settings.FILM_LIMIT,
        "page_film_limit": settings.PAGE_FILM_LIMIT,
        "upload_piece": settings.UPLOAD_PIECE,
        "commons": commons.offered(),
        "may_arrange": may(person, Right.ARRANGE_LIBRARY),
        "may_keep": may(person, Right.KEEP_LIBRARY),
        "may_read_trail": may(person, Right.READ_TRAIL),
        "may_keep_sites": may_everywhere(person, Right.KEEP_SITES),
        "may_keep_hosts": may_everywhere(person, Right.KEEP_HOSTS),
        "demo": is_demo(),
    }


def _known(person: Person) -> dict[str, Any]:
    """What was chosen in a way that is no longer had counts as not chosen."""
    choices: dict[str, Any] = {}
    for name, value in person.choices.items():
        with suppress(ValueError):
            choices |= Choices(**{name: value}).dict(include={name})
    return {"username": person.username, "name": person.shown_name, "choices": choices}


@public.post("/session", response={200: SessionOut, 401: Problem, 429: Problem})
def sign_in(request: SignedIn, response: HttpResponse, given: SignIn) -> Any:
    """Sign in. After several wrong passwords there is a pause, which grows, for who tries from there."""
    name = given.username.strip()
    attempt = attempts.Attempt(
        name, request.META.get("REMOTE_ADDR", ""), request.COOKIES.get(settings.DEVICE_COOKIE_NAME, "")
    )
    if seconds := attempts.wait(attempt):
        # Whoever goes on in a pause fills neither the trail nor the disk.
        if limiter.hit(_NOTED, "noted", attempts.network(attempt.address)):
            note("sign-in paused", "An attempt to sign in was not looked at: there were too many before it.", name=name)
        return _too_many(seconds)
    person = authenticate(request, username=name, password=given.password)
    if not isinstance(person, Person) or (given.password in SHIPPED and not is_demo()):
        with transaction.atomic():
            attempts.failed(attempt)
            note("sign-in failed", "The name and the password did not belong together.", name=name)
        sentence = "The name and the password do not belong together. Check both and try again."
        return problem(401, "wrong-password", "Not signed in", sentence)
    with transaction.atomic():
        device = attempts.succeeded(attempt)
        login(request, person)
        request.session.cycle_key()  # Who signs in once more, as the same person, gets another number too.
        request.session["agent"] = request.headers.get("User-Agent", "")[:300]
        request.session["address"] = request.META.get("REMOTE_ADDR", "")[:45]
        request.session.save()
        note("signed in", f"{person.shown_name} signed in.", person=person)
    response.set_cookie(
        settings.DEVICE_COOKIE_NAME,
        device,
        max_age=attempts.DEVICE_AGE,
        httponly=True,
        secure=settings.HTTPS,
        samesite="Lax",
    )
    return _session(request)


def _too_many(seconds: int) -> HttpResponse:
    time = f"{seconds} seconds" if seconds < 100 else f"{(seconds + 59) // 60} minutes"
    sentence = f"There were too many wrong passwords. Wait {time}, then try again."
    return problem(429, "too-many-attempts", "Too many attempts", sentence, retry_after=seconds)


@public.delete("/session", response=SessionOut)
def sign_out(request: SignedIn) -> dict[str, Any]:
    """Sign out."""
    if request.user.is_authenticated:
        note("signed out", f"{request.user.shown_name} signed out.", person=request.user)
    logout(request)
    return _session(request)


@router.patch("/account/choices", response=Choices)
def choose(request: SignedIn, given: Choices) -> Any:
    """Keep how one likes the interface. What is not given stays; null forgets a choice."""
    with transaction.atomic():
        person = Person.objects.select_for_update().get(pk=request.user.pk)
        said = {**_known(person)["choices"], **given.dict(exclude_unset=True)}
        person.choices = {name: value for name, value in said.items() if value is not None}
        person.save(update_fields=["choices"])
    return person.choices


@router.put("/account/password", response={204: None, 422: Problem, 429: Problem})
def change_password(request: SignedIn, given: PasswordIn) -> Any:
    """Change one's own password. The present one is asked for; all other sessions of this person end."""
    person = request.user
    attempt = attempts.Attempt(person.username, request.META.get("REMOTE_ADDR", ""))
    if seconds := attempts.wait(attempt):
        return _too_many(seconds)
    if not person.check_password(given.present):
        attempts.failed(attempt)
        return problem(422, "wrong-password", "The password was not changed", "The present password is not right.")
    try:
        validate_password(given.new, person)
    except ValidationError as error:
        return problem(422, "weak-password", "The password was not changed", " ".join(error.messages))
    with transaction.atomic():
        attempts.succeeded(attempt)
        person.set_password(given.new)
        person.save(update_fields=["password"])
        update_session_auth_hash(request, person)
        request.session.save()
        _others(request).delete()
        note(
            "password changed",
            f"{person.shown_name} changed their password; their other sessions ended.",
            person=person,
        )
    return 204, None


def _others(request: SignedIn) -> Any:
    return Session.objects.filter(person=request.user).exclude(session_key=request.session.session_key)


def _number(key: str) -> str:
    """What a session is told by: its key opens it, so that is not given out."""
    return hashlib.sha256(f"stillpage.session {key}".encode()).hexdigest()[:24]


@router.get("/account/sessions", response=list[SignedInAt])
def sessions(request: SignedIn) -> Any:
    """One's own sessions that have not ended, the last used first."""
    rows = kept.alive(Session.objects.filter(person=request.user)).order_by("-seen_at")
    return [
        {
            "id": _number(row.session_key),
            "present": row.session_key == request.session.session_key,
            "agent": row.agent,
            "address": row.address,
            "begun_at": row.begun_at,
            "seen_at": row.seen_at,
        }
        for row in rows
    ]


@router.delete("/account/sessions/{session_id}", response={204: None, 404: Problem})
def end_session(request: SignedIn, session_id: str) -> Any:
    """End one of one's own sessions; “others” ends all but the one that asks."""
    others = list(Session.objects.filter(person=request.user).values_list("session_key", flat=True))
    if session_id == "others":
        ended = [key for key in others if key != request.session.session_key]
    else:
        ended = [key for key in others if _number(key) == session_id]
        if not ended:
            raise Http404
    if ended:
        with transaction.atomic():
            Session.objects.filter(session_key__in=ended).delete()
            number = "a session" if len(ended) == 1 else f"{len(ended)} sessions"
            note("sessions ended", f"{request.user.shown_name} ended {number} of theirs.", person=request.user)
    return 204, None


@router.get("/trail", response=TrailOut, throttle=[Costly("search")])
def trail(
    request: SignedIn,
    act: str = Query("", max_length=40),
    name: str = Query("", max_length=150),
    before: int | None = Query(None, ge=1, le=2**53),
) -> Any:
    """The audit trail, for administrators: of all sites, or of those that they are the administrator of."""
    require(request.user, Right.READ_TRAIL)
    entries = Entry.objects.all()
    sites = sites_of(request.user, Right.READ_TRAIL)
    if sites is not None:
        entries = entries.filter(site__in=sites)
    if act:
        entries = entries.filter(act=act)
    if name:
        entries = entries.filter(name=name)
    if before:
        entries = entries.filter(pk__lt=before)
    found = list(entries[: PART + 1])
    return {"entries": found[:PART], "more": len(found) > PART, "acts": list(ACTS)}

"""Who may do what. Every call of the API asks here, and nothing else decides."""

from __future__ import annotations

from enum import Enum

from django.contrib.auth.models import AnonymousUser

from stillpage.sites.models import Site

from .models import Person, Role


class Act(Enum):
    """Something a person may or may not do; the value completes the sentence “You may not …”."""

    SEE_CONTENTS = "see the pages of this site"
    WRITE = "change the pages of this site"
    PUBLISH = "publish or withdraw pages of this site"
    USE_LIBRARY = "use the media library"
    ADD_TO_LIBRARY = "add to the media library"
    DESCRIBE_ITEMS = "change what the media library says of its items"
    ARRANGE_LIBRARY = "move, replace or delete items of the media library"
    KEEP_LIBRARY = "say who may have items of the media library, or remove them for good"
    SET_CHECKS = "say what the page check of this site asks for"
    READ_RESTRICTED = "read what is for signed-in readers only"
    READ_TRAIL = "read the audit trail"


_STAFF = {Role.AUTHOR, Role.APPROVER, Role.KEEPER, Role.DESIGNER, Role.ADMINISTRATOR}

ROLES: dict[Act, set[Role]] = {
    Act.SEE_CONTENTS: _STAFF,
    Act.WRITE: {Role.AUTHOR, Role.APPROVER, Role.ADMINISTRATOR},
    Act.PUBLISH: {Role.APPROVER, Role.ADMINISTRATOR},
    Act.USE_LIBRARY: _STAFF,
    Act.ADD_TO_LIBRARY: {Role.AUTHOR, Role.APPROVER, Role.KEEPER, Role.ADMINISTRATOR},
    Act.DESCRIBE_ITEMS: {Role.AUTHOR, Role.APPROVER, Role.KEEPER, Role.ADMINISTRATOR},
    Act.ARRANGE_LIBRARY: {Role.AUTHOR, Role.APPROVER, Role.KEEPER, Role.ADMINISTRATOR},
    Act.KEEP_LIBRARY: {Role.KEEPER, Role.ADMINISTRATOR},
    Act.SET_CHECKS: {Role.ADMINISTRATOR},
    Act.READ_RESTRICTED: set(Role),
    Act.READ_TRAIL: {Role.ADMINISTRATOR},
}
"""The roles that an act asks for. Authors may publish too where the site says so."""


class NotAllowed(Exception):
    """The person may not do this; the message is a sentence for them."""


def roles_of(person: Person | AnonymousUser, site: Site | None) -> set[Role]:
    """The roles of a person for ``site``; with None, those they have for any site."""
    if not isinstance(person, Person) or not person.is_active:
        return set()
    if not hasattr(person, "_known_grants"):
        person._known_grants = list(person.grants.all())
    return {
        Role(grant.role)
        for grant in person._known_grants
        if site is None or grant.site_id is None or grant.site_id == site.pk
    }


def sites_of(person: Person | AnonymousUser, act: Act | None = None) -> set[int] | None:
    """The numbers of the sites for which a person has a role, or one that lets them do ``act``; None where such a role
    is for all."""
    roles_of(person, None)
    known = getattr(person, "_known_grants", []) if isinstance(person, Person) and person.is_active else []
    grants = [grant for grant in known if act is None or Role(grant.role) in ROLES[act]]
    return None if any(grant.site_id is None for grant in grants) else {grant.site_id for grant in grants}


def may(person: Person | AnonymousUser, act: Act, site: Site | None = None) -> bool:
    """Whether ``person`` may do ``act`` on ``site``, or on any site when None (the library belongs to all)."""
    roles = roles_of(person, site)
    if roles & ROLES[act]:
        return True
    return act is Act.PUBLISH and site is not None and site.authors_may_publish and Role.AUTHOR in roles


def require(person: Person | AnonymousUser, act: Act, site: Site | None = None) -> None:
    """Raise `NotAllowed` unless ``person`` may do ``act``."""
    if not may(person, act, site):
        raise NotAllowed(f"You may not {act.value}. Ask an administrator for the role you need.")

"""Who may do what, and where: on a site, or in a folder of the library. Every call of the API asks here, and nothing
else decides.

Without a place, a right is one that somebody has anywhere: the library belongs to all sites, but for the folders that
are kept to some. A page's place is its site; an item's is its folder.
"""

from __future__ import annotations

from collections.abc import Iterable
from enum import Enum

from django.contrib.auth.models import AnonymousUser
from django.db.models import Q, QuerySet

from stillpage.library import folders
from stillpage.library.models import Folder, Item
from stillpage.people.models import Person, Role
from stillpage.sites.models import Site


class Right(Enum):
    """What a person may or may not do; the value completes the sentence “You may not …”."""

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
    KEEP_SITES = "make, change or close sites"
    KEEP_HOSTS = "say which hosts films may be shown from"


_STAFF = {Role.AUTHOR, Role.APPROVER, Role.KEEPER, Role.DESIGNER, Role.ADMINISTRATOR}

ROLES: dict[Right, set[Role]] = {
    Right.SEE_CONTENTS: _STAFF,
    Right.WRITE: {Role.AUTHOR, Role.APPROVER, Role.ADMINISTRATOR},
    Right.PUBLISH: {Role.APPROVER, Role.ADMINISTRATOR},
    Right.USE_LIBRARY: _STAFF,
    Right.ADD_TO_LIBRARY: {Role.AUTHOR, Role.APPROVER, Role.KEEPER, Role.ADMINISTRATOR},
    Right.DESCRIBE_ITEMS: {Role.AUTHOR, Role.APPROVER, Role.KEEPER, Role.ADMINISTRATOR},
    Right.ARRANGE_LIBRARY: {Role.AUTHOR, Role.APPROVER, Role.KEEPER, Role.ADMINISTRATOR},
    Right.KEEP_LIBRARY: {Role.KEEPER, Role.ADMINISTRATOR},
    Right.SET_CHECKS: {Role.ADMINISTRATOR},
    Right.READ_RESTRICTED: set(Role),
    Right.READ_TRAIL: {Role.ADMINISTRATOR},
    Right.KEEP_SITES: {Role.ADMINISTRATOR},
    Right.KEEP_HOSTS: {Role.ADMINISTRATOR},
}
"""The roles that an act asks for. Authors may publish too where the site says so."""


class NotAllowed(Exception):
    """The person may not do this; the message is a sentence for them."""

    def __init__(self, right: Right, place: Site | Folder | None = None) -> None:
        where = f" in the folder “{place.name}”" if isinstance(place, Folder) else ""
        super().__init__(f"You may not {right.value}{where}. Ask an administrator for the role you need.")


def roles_of(person: Person | AnonymousUser, site: Site | None) -> set[Role]:
    """The roles of a person for ``site``; with None, those they have for any site."""
    if not isinstance(person, Person) or not person.is_active:
        return set()
    return {
        Role(grant.role)
        for grant in person.known_grants
        if site is None or grant.site_id is None or grant.site_id == site.pk
    }


def names_with(right: Right, site: Site) -> list[str]:
    """The names of those whose roles give them a right on a site, by name; of many, the first hundred."""
    roles = [role.value for role in ROLES[right]]
    people = Person.objects.filter(is_active=True, grants__role__in=roles).filter(
        Q(grants__site=site) | Q(grants__site=None)
    )
    return sorted({person.shown_name for person in people.distinct()[:100]})


def sites_of(person: Person | AnonymousUser, right: Right | None = None) -> set[int] | None:
    """The numbers of the sites for which a person has a role, or one with a ``right``; None where it is for all."""
    known = person.known_grants if isinstance(person, Person) and person.is_active else []
    grants = [grant for grant in known if right is None or Role(grant.role) in ROLES[right]]
    sites = {grant.site_id for grant in grants}
    return None if None in sites else {number for number in sites if number is not None}


def may(person: Person | AnonymousUser, right: Right, place: Site | Folder | None = None) -> bool:
    """Whether ``person`` has a right on a site or in a folder; with None, on any site."""
    if isinstance(place, Folder):
        return _reaches(sites_of(person, right), folders.limit_of(place.pk))
    roles = roles_of(person, place)
    if roles & ROLES[right]:
        return True
    return right is Right.PUBLISH and place is not None and place.authors_may_publish and Role.AUTHOR in roles


def _reaches(sites: set[int] | None, limit: frozenset[int] | None) -> bool:
    """Whether somebody who may do it on ``sites`` (None: on all) may do it in what is kept to ``limit``."""
    return sites is None or bool(sites if limit is None else sites & limit)


def require(person: Person | AnonymousUser, right: Right, place: Site | Folder | None = None) -> None:
    """Raise `NotAllowed` unless ``person`` has the right there."""
    if not may(person, right, place):
        raise NotAllowed(right, place)


def may_everywhere(person: Person | AnonymousUser, right: Right) -> bool:
    """Whether ``person`` has a right that is for all sites at once, by a role for all of them."""
    return sites_of(person, right) is None


def require_everywhere(person: Person | AnonymousUser, right: Right) -> None:
    """Raise `NotAllowed` unless ``person`` has the right by a role for all sites."""
    if not may_everywhere(person, right):
        raise NotAllowed(right)


def require_of_items(person: Person | AnonymousUser, right: Right, items: Iterable[Item]) -> None:
    """Raise `NotAllowed` unless ``person`` has the right wherever these items stand."""
    require(person, right)
    require_in_folders(person, right, (item.folder_id for item in items))


def require_in_folders(person: Person | AnonymousUser, right: Right, numbers: Iterable[int | None]) -> None:
    """Raise `NotAllowed` unless ``person`` has the right in all these folders, of which None is the top."""
    asked = set(numbers)
    tree = folders.Tree()
    for number in closed_folders(person, tree, right):
        if number in asked:
            raise NotAllowed(right, tree.folders[number])


def closed_folders(person: Person | AnonymousUser, tree: folders.Tree, right: Right | None = None) -> list[int]:
    """The folders in which a person does not have a right; with None, those that they may not see, since they have
    nothing to do with the sites to which these are kept."""
    sites = sites_of(person, right)
    return [] if sites is None else tree.kept_from(sites)


def open_items(
    items: QuerySet[Item], person: Person | AnonymousUser, tree: folders.Tree, right: Right | None = None
) -> QuerySet[Item]:
    """Those of the items that stand in no folder that is closed to a person."""
    closed = closed_folders(person, tree, right)
    return items.exclude(folder__in=closed) if closed else items


def open_folders(person: Person | AnonymousUser) -> QuerySet[Folder]:
    """The folders that a person may see."""
    return Folder.objects.exclude(pk__in=closed_folders(person, folders.Tree()))

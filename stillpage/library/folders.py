"""Folders: the tree, what stands below one, and which sites may use what they hold."""

from __future__ import annotations

from collections.abc import Iterable
from functools import cached_property

from django.db.models import Q, QuerySet

from stillpage_core.errors import CoreError

from .models import Folder, Item

LONGEST_NAME = 120
DEEPEST = 8


class FolderError(CoreError):
    """A folder cannot be made or changed so; the sentence says why."""


class Gone(FolderError):
    """The folder into which another is to go is not there, or not for the person who asks."""

    def __init__(self) -> None:
        super().__init__("The folder in which it should stand is gone.")


class Tree:
    """All folders, read once, when they are first asked for."""

    @cached_property
    def folders(self) -> dict[int, Folder]:
        return {folder.pk: folder for folder in Folder.objects.prefetch_related("sites")}

    @cached_property
    def below(self) -> dict[int | None, list[Folder]]:
        """What stands in each folder, and (None) at the top."""
        found: dict[int | None, list[Folder]] = {}
        for folder in self.folders.values():
            found.setdefault(folder.parent_id, []).append(folder)
        return found

    @cached_property
    def limits(self) -> dict[int, frozenset[int]]:
        """The sites to which a folder is kept, by it or one above it."""
        found: dict[int, frozenset[int]] = {}
        waiting: list[tuple[Folder, frozenset[int] | None]] = [(folder, None) for folder in self.below.get(None, [])]
        while waiting:
            folder, above = waiting.pop()
            own = frozenset(site.pk for site in folder.sites.all())
            limit = own & above if own and above is not None else own or above
            if limit is not None and (own or above is not None):
                found[folder.pk] = limit
            waiting += [(each, limit) for each in self.below.get(folder.pk, [])]
        return found

    def under(self, number: int) -> list[int]:
        """The numbers of a folder and of all below it."""
        found = [number]
        for each in found:
            found += [folder.pk for folder in self.below.get(each, [])]
        return found

    def depth(self, number: int | None) -> int:
        """How many folders stand above what is in this one, itself included."""
        steps = 0
        while number is not None:
            number = self.folders[number].parent_id
            steps += 1
        return steps

    def kept_from(self, sites: Iterable[int]) -> list[int]:
        """The folders whose items may be used on none of these sites."""
        asked = set(sites)
        return [number for number, limit in self.limits.items() if not limit & asked]


def limit_of(folder: int | None) -> frozenset[int] | None:
    """The sites to which a folder is kept, by it or one above it; None where it is not. Asks for just these folders."""
    limit: frozenset[int] | None = None
    while folder is not None:
        row = Folder.objects.filter(pk=folder).prefetch_related("sites").first()
        if row is None:
            break
        own = frozenset(site.pk for site in row.sites.all())
        limit = (own if limit is None else own & limit) if own else limit
        folder = row.parent_id
    return limit


def reaches_further(before: frozenset[int] | None, after: frozenset[int] | None) -> bool:
    """Whether what was kept to some sites would be open to others, too. Only a library keeper may do that."""
    return before is not None and (after is None or not after <= before)


def for_site(items: QuerySet[Item], site: int, tree: Tree) -> QuerySet[Item]:
    """The items that may be used on a site."""
    hidden = tree.kept_from([site])
    return items.filter(Q(folder=None) | ~Q(folder__in=hidden)) if hidden else items


def clean_name(name: str) -> str:
    """A folder's name as it is kept. Raises `FolderError` when nothing is left of it, or too much."""
    cleaned = " ".join(name.split())
    if not cleaned or len(cleaned) > LONGEST_NAME:
        raise FolderError(f"A folder needs a name of at most {LONGEST_NAME} characters.")
    return cleaned


def check_place(tree: Tree, folder: Folder | None, parent: int | None, name: str) -> None:
    """Raise `FolderError` unless a folder of this name may stand there."""
    if parent is not None and parent not in tree.folders:
        raise Gone
    if folder is not None and parent in tree.under(folder.pk):
        raise FolderError("A folder cannot stand within itself.")
    below = max((tree.depth(each) for each in tree.under(folder.pk)), default=0) if folder else 1
    here = below - (tree.depth(folder.pk) - 1) if folder else 1
    if tree.depth(parent) + here > DEEPEST:
        raise FolderError(f"Folders may stand {DEEPEST} deep, one within another.")
    for other in tree.below.get(parent, []):
        if other.name.casefold() == name.casefold() and other != folder:
            raise FolderError(f"There is a folder “{other.name}” at that place already.")

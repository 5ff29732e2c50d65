"""Doing something to many items or folders at once, so that it can be undone at once."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

from django.core.files.storage import default_storage
from django.db import transaction
from django.db.models import ProtectedError
from django.utils import timezone

from stillpage.people.models import Person
from stillpage.rights import NotAllowed, Right, may, open_items, require
from stillpage.trail.noting import note
from stillpage_core.errors import CoreError
from stillpage_core.media.editing import EDITS

from . import folders
from .models import Act, Folder, Item, Tag
from .search import note_words
from .signals import tell_changed, want_files

Rows = list[list[Any]]
MOST = 5000
"""The most items that are acted on at once."""
SAID = {"alt", "decorative"}
"""What pages say of a picture where they have no words of their own for it."""


class ActError(CoreError):
    """Something cannot be done, or undone, to these items; the sentence says why."""


def _count(number: int) -> str:
    return "1 item" if number == 1 else f"{number:,} items"


def _row(item: Item, fields: Iterable[str]) -> list[Any]:
    return ["item", item.pk, {name: _value(item, name) for name in fields}]


def _value(item: Item, name: str) -> Any:
    if name == "tags":
        return sorted(item.tags.values_list("name", flat=True))
    value = getattr(item, name)
    return value.isoformat() if name == "binned_at" and value is not None else value


def _set(item: Item, values: dict[str, Any]) -> None:
    plain = {name: value for name, value in values.items() if name != "tags"}
    for name, value in plain.items():
        setattr(item, name, value)
    if plain:
        item.save(update_fields=[name.removesuffix("_id") for name in plain])
    if "tags" in values:
        item.tags.set([Tag.objects.get_or_create(name=name)[0] for name in values["tags"]])
    if values.keys() & {"title", "alt", "description", "credit", "licence", "tags"}:
        note_words(item)


@transaction.atomic
def change(
    person: Person, items: Iterable[Item], said: str, values: Callable[[Item], dict[str, Any]], what: str = ""
) -> Act:
    """Set fields of items; ``values`` gives them for each. ``said`` tells what was done to ``what``, or to so many."""
    before: Rows = []
    after: Rows = []
    edited: list[int] = []
    said_anew: list[Item] = []
    titles: dict[int, str] = {}
    for item in items:
        titles[item.pk] = item.title
        wanted = values(item)
        changed = {name: value for name, value in wanted.items() if _value(item, name) != value}
        if not changed:
            continue
        before.append(_row(item, changed))
        after.append(["item", item.pk, changed])
        _set(item, changed)
        if changed.keys() & {"edits", "restricted", "binned_at"}:
            edited.append(item.pk)
        if changed.keys() & SAID:
            said_anew.append(item)
    if edited:
        want_files(Item.objects.filter(pk__in=edited))
    tell_changed(said_anew)
    for _, number, changed in after:
        for name in changed.keys() & {"restricted", "leads_on"}:
            whom = {"restricted": "who may have", "leads_on": "where old addresses lead of"}[name]
            sentence = f"{person.shown_name} changed {whom} “{titles[number]}”."
            note("reach changed", sentence, person=person, item=number, **{name: changed[name]})
    return Act.objects.create(
        person=person, sentence=f"{what or _count(len(after))} {said}", before=before, after=after
    )


def move(person: Person, items: Iterable[Item], folder: Folder | None) -> Act:
    """Put items into a folder, or (None) at the top."""
    place = f"“{folder.name}”" if folder else "the top"
    number = folder.pk if folder else None
    moved = list(items)
    _check_reach(person, folders.Tree(), {item.folder_id for item in moved}, number)
    return change(person, moved, f"moved to {place}", lambda _: {"folder_id": number})


def _check_reach(person: Person, tree: folders.Tree, places: Iterable[int | None], place: int | None) -> None:
    """Raise `NotAllowed` when what stands in one of ``places`` would be open to more sites in ``place``, and the person
    may not say who may have it."""
    there = tree.limits.get(place) if place is not None else None
    for each in places:
        if each is not None and folders.reaches_further(tree.limits.get(each), there):
            require(person, Right.KEEP_LIBRARY, tree.folders[each])


def tag(person: Person, items: Iterable[Item], add: list[str], remove: list[str]) -> Act:
    """Give items some tags and take others from them."""
    names = [clean_tag(name) for name in add]
    gone = {name.casefold() for name in remove}

    def values(item: Item) -> dict[str, Any]:
        has = {name.casefold(): name for name in _value(item, "tags")}
        has |= {name.casefold(): name for name in names if name.casefold() not in has}
        return {"tags": sorted(name for key, name in has.items() if key not in gone)}

    return change(person, items, "tagged", values)


def clean_tag(name: str) -> str:
    """A tag as it is kept. Raises `ActError` when nothing is left of it, or too much."""
    cleaned = " ".join(name.split())
    if not cleaned or len(cleaned) > 60 or "," in cleaned:
        raise ActError("A tag is a word or two of at most 60 characters, without commas.")
    known = Tag.objects.filter(name=cleaned).first()
    return known.name if known else cleaned


def to_bin(person: Person, items: Iterable[Item]) -> Act:
    """Put items into the bin. Pages that show them go on doing so until they are removed for good."""
    now = timezone.now().isoformat()
    return change(person, items, "put into the bin", lambda _: {"binned_at": now, "binned_by_id": person.pk})


def from_bin(person: Person, items: Iterable[Item]) -> Act:
    """Take items back from the bin, to where they were."""
    return change(person, items, "taken back from the bin", lambda _: {"binned_at": None, "binned_by_id": None})


@transaction.atomic
def remove(person: Person, items: Iterable[Item]) -> int:
    """Remove items from the bin for good, with their files. There is no way back.

    Raises:
        ActError: when one is not in the bin, or readers still see it on a page; nothing is removed then.
    """
    names: list[str] = []
    titles: list[str] = []
    count = 0
    for item in items:
        if item.binned_at is None:
            raise ActError(f"“{item.title}” is not in the bin. Put it there first.")
        live = item.uses.filter(live=True).values("written").distinct().count()
        if live:
            pages = "a live page" if live == 1 else f"{live} live pages"
            raise ActError(f"“{item.title}” is still on {pages}. Publish without it first; until then it stays here.")
        names += item.files.values_list("name", flat=True)
        titles.append(item.title)
        item.delete()
        count += 1

    def files() -> None:
        for name in names:
            default_storage.delete(name)

    transaction.on_commit(files)
    if count:
        sentence = f"{person.shown_name} removed {_count(count)} of the library for good."
        note("removed for good", sentence, person=person, titles=titles[:200])
    return count


def clean_edits(given: dict[str, Any] | None) -> dict[str, Any] | None:
    """What is made of a picture everywhere, complete; None where nothing is."""
    edits = {name: (given or {}).get(name) for name in EDITS}
    edits = {name: (None if value in (0, "") else value) for name, value in edits.items()}
    return edits if any(value is not None for value in edits.values()) else None


@transaction.atomic
def undo(act: Act, person: Person) -> Act:
    """Bring back what was there before an act. What somebody has changed since is left as it is now.

    Raises:
        ActError: when it was undone already, or nothing of it could be.
    """
    act = Act.objects.select_for_update().get(pk=act.pk)
    if act.undone:
        raise ActError("This has been undone already.")
    done = 0
    edited: list[int] = []
    said_anew: list[Item] = []
    tree = folders.Tree()
    for (kind, key, before), (_, _, after) in zip(act.before, act.after, strict=True):
        if kind == "folder":
            done += _undo_folder(person, key, before, after)
            tree = folders.Tree()
            continue
        item = open_items(Item.objects.filter(pk=key), person, tree, Right.DESCRIBE_ITEMS).first()
        if item is None or any(_value(item, name) != value for name, value in after.items() if name != "binned_at"):
            continue
        if "folder_id" in before:
            _check_reach(person, tree, [item.folder_id], before["folder_id"])
        if before.keys() & {"restricted", "leads_on"}:
            require(person, Right.KEEP_LIBRARY, item.folder)
        if before.get("folder_id") and not Folder.objects.filter(pk=before["folder_id"]).exists():
            continue
        _set(item, before)
        if before.keys() & {"edits", "restricted", "binned_at"}:
            edited.append(item.pk)
        if before.keys() & SAID:
            said_anew.append(item)
        done += 1
    if act.after and not done:
        raise ActError("Nothing of this can be undone any more: it was changed again since.")
    if edited:
        want_files(Item.objects.filter(pk__in=edited))
    tell_changed(said_anew)
    act.undone = True
    act.save(update_fields=["undone"])
    return Act.objects.create(
        person=person, sentence=f"Undone: {act.sentence}"[:300], before=act.after, after=act.before, undone=False
    )


def _folder_row(folder: Folder) -> dict[str, Any]:
    sites = sorted(folder.sites.values_list("pk", flat=True))
    return {"name": folder.name, "parent_id": folder.parent_id, "sites": sites}


def _undo_folder(person: Person, key: int, before: dict[str, Any] | None, after: dict[str, Any] | None) -> int:
    folder = Folder.objects.filter(pk=key).first()
    if folder is not None and not may(person, Right.ARRANGE_LIBRARY, folder):
        return 0
    was, keeps = folders.limit_of(key), may(person, Right.KEEP_LIBRARY, folder)
    if before is None:
        if folder is not None:
            _check_reach(person, folders.Tree(), [key], folder.parent_id)
        try:
            return int(folder is not None and bool(folder.delete()))
        except ProtectedError:
            return 0
    if after is not None and (folder is None or _folder_row(folder) != after):
        return 0
    if before["parent_id"] and not Folder.objects.filter(pk=before["parent_id"]).exists():
        return 0
    folder = folder or Folder(pk=key)
    folder.name, folder.parent_id = before["name"], before["parent_id"]
    folder.save()
    folder.sites.set(before["sites"])
    if folders.reaches_further(was, folders.limit_of(key)) and not keeps:
        raise NotAllowed(Right.KEEP_LIBRARY, folder)  # What was done goes back with the transaction.
    return 1


@transaction.atomic
def make_folder(person: Person, name: str, parent: int | None) -> tuple[Folder, Act]:
    """Make a folder. Raises `folders.FolderError`."""
    name = folders.clean_name(name)
    folders.check_place(folders.Tree(), None, parent, name)
    folder = Folder.objects.create(name=name, parent_id=parent)
    act = Act.objects.create(
        person=person,
        sentence=f"Folder “{name}” made",
        before=[["folder", folder.pk, None]],
        after=[["folder", folder.pk, _folder_row(folder)]],
    )
    return folder, act


@transaction.atomic
def change_folder(person: Person, folder: Folder, values: dict[str, Any]) -> Act:
    """Rename a folder, put it elsewhere, or keep it to some sites. Raises `folders.FolderError`.

    What somebody else changed of it since it was read stays.
    """
    folder = Folder.objects.select_for_update().get(pk=folder.pk)
    before = _folder_row(folder)
    wanted = {**before, **values}
    wanted["name"] = folders.clean_name(wanted["name"])
    folders.check_place(folders.Tree(), folder, wanted["parent_id"], wanted["name"])
    was, keeps = folders.limit_of(folder.pk), may(person, Right.KEEP_LIBRARY, folder)
    folder.name, folder.parent_id = wanted["name"], wanted["parent_id"]
    folder.save()
    folder.sites.set(wanted["sites"])
    if folders.reaches_further(was, folders.limit_of(folder.pk)) and not keeps:
        raise NotAllowed(Right.KEEP_LIBRARY, folder)  # What was done goes back with the transaction.
    after = _folder_row(folder)
    if before["sites"] != after["sites"]:
        sentence = f"{person.shown_name} changed to which sites the folder “{folder.name}” is kept."
        note("reach changed", sentence, person=person, folder=folder.pk, before=before["sites"], after=after["sites"])
    said = (
        "renamed" if before["name"] != after["name"] else "moved" if before["parent_id"] != after["parent_id"] else ""
    )
    return Act.objects.create(
        person=person,
        sentence=f"Folder “{folder.name}” {said or 'changed'}",
        before=[["folder", folder.pk, before]],
        after=[["folder", folder.pk, after]],
    )


@transaction.atomic
def remove_folder(person: Person, folder: Folder) -> Act:
    """Take a folder away; what it holds moves to the folder above. Nothing is deleted but the folder itself."""
    before: Rows = []
    after: Rows = []
    number, above = folder.pk, folder.parent_id
    for item in folder.items.all():
        before.append(["item", item.pk, {"folder_id": number}])
        after.append(["item", item.pk, {"folder_id": above}])
    tree = folders.Tree()
    _check_reach(person, tree, [number], above)
    for child in tree.below.get(number, []):
        folders.check_place(tree, child, above, child.name)
        before.append(["folder", child.pk, _folder_row(child)])
        after.append(["folder", child.pk, {**_folder_row(child), "parent_id": above}])
    # Going back, the folder must be there before what stood in it.
    before.insert(0, ["folder", number, _folder_row(folder)])
    after.insert(0, ["folder", number, None])
    folder.items.update(folder=above)
    folder.folders.update(parent=above)
    name = folder.name
    folder.delete()
    return Act.objects.create(
        person=person, sentence=f"Folder “{name}” taken away; what it held is one level up", before=before, after=after
    )

"""The media library: found, narrowed, sorted, described, and acted on."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import timedelta
from typing import Any, Literal

from django.conf import settings
from django.db.models import Case, Count, Q, QuerySet, When
from django.http import HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Field, Query, Router, Schema
from ninja.params import functions as params

from stillpage.library import acts, folders
from stillpage.library import search as finding
from stillpage.library.derived import preview
from stillpage.library.files import address_of
from stillpage.library.models import Act, Folder, Item
from stillpage.library.receiving import show_version
from stillpage.pages.models import LIGHT, Page
from stillpage.pages.seeing import sight_of
from stillpage.pages.uses import places_of
from stillpage.people.models import Person
from stillpage.rights import (
    Right,
    closed_folders,
    open_folders,
    open_items,
    require,
    require_in_folders,
    require_of_items,
)
from stillpage.written.saving import clean_title
from stillpage_core.media.editing import Cut

from . import shapes
from .limits import Costly
from .problems import problem
from .requests import SignedIn
from .schemas.common import Counted
from .schemas.library import (
    ActOut,
    FolderChange,
    FolderIn,
    FolderMade,
    FolderOut,
    ItemChange,
    ItemEntry,
    ItemOut,
    ItemsAct,
    ItemsIn,
    ItemUse,
    LibraryOut,
    ShelfOut,
    VersionOfFile,
)

router = Router(tags=["library"])

Show = Literal[
    "all",
    "pictures",
    "documents",
    "films and sounds",
    "animations",
    "posts",
    "without alt text",
    "used nowhere",
    "too heavy",
    "for signed-in readers",
    "mine",
    "recent",
    "bin",
]
Order = Literal["newest", "title", "largest"]
_ORDERS = {"newest": ("-added_at", "-id"), "title": ("title", "id"), "largest": ("-size", "-id")}
PART = 60
MANY = 100
"""How many items are asked for by their numbers at once."""
FOUND = 24
"""How many of each kind the Shelf shows at once."""
RECENT = timedelta(days=14)


class Asked(Schema):
    """What is looked for. ``folder`` 0 is the top alone; any other stands for those in it too."""

    q: str = Field("", max_length=200)
    show: Show = "all"
    order: Order = "newest"
    folder: int | None = Field(None, ge=0)
    site: int | None = None
    tag: str = Field("", max_length=60)
    skip: int = Field(0, ge=0, le=1_000_000)


class Several(Schema):
    """Items by their numbers."""

    number: list[int] = Field(min_length=1, max_length=MANY)


def _asked(request: SignedIn, asked: Asked) -> QuerySet[Item]:
    """The items that are meant, in order, those left out that the person may not see."""
    tree = folders.Tree()
    items = Item.objects.filter(binned_at__isnull=asked.show != "bin")
    items = open_items(items, request.user, tree)
    if asked.site:
        items = folders.for_site(items, asked.site, tree)
    if asked.folder == 0:
        items = items.filter(folder=None)
    elif asked.folder:
        below = tree.under(asked.folder) if asked.folder in tree.folders else []
        items = items.filter(folder=asked.folder) if len(below) == 1 else items.filter(folder__in=below)
    if asked.tag:
        items = items.filter(tags__name=asked.tag)
    return items.filter(_narrowed(request, asked.show)).order_by(*_ORDERS[asked.order])


def _narrowed(request: SignedIn, show: Show) -> Q:
    match show:
        case "pictures":
            return Q(kind=Item.Kind.PICTURE)
        case "documents":
            return Q(kind=Item.Kind.DOCUMENT)
        case "films and sounds":
            return Q(kind__in=(Item.Kind.FILM, Item.Kind.SOUND, Item.Kind.HOSTED))
        case "animations":
            return Q(kind=Item.Kind.ANIMATION)
        case "posts":
            return Q(kind=Item.Kind.POST)
        case "without alt text":
            return Q(wordless=True)
        case "used nowhere":
            return Q(used_on=0)
        case "too heavy":
            return Q(kind=Item.Kind.DOCUMENT, size__gt=settings.HEAVY)
        case "for signed-in readers":
            return Q(restricted=True)
        case "mine":
            return Q(added_by=request.user)
        case "recent":
            return Q(added_at__gte=timezone.now() - RECENT)
    return Q()


@router.get("/library", response=LibraryOut, throttle=[Costly("search")])
def library(request: SignedIn, asked: Query[Asked]) -> Any:
    """Items that hold all the words asked for; ``skip`` as many to get the next part."""
    require(request.user, Right.USE_LIBRARY)
    numbers = finding.first_of(_asked(request, asked), asked.q, asked.skip, PART + 1)
    # What the schema describes is sent as it is: checking sixty entries once more would take longer than finding them.
    return JsonResponse({"entries": _entries(numbers[:PART]), "more": len(numbers) > PART})


_ROW = ("id", "binned_at", "mime", "thumbnail", "made", "wanted", "used_on", "added_at", "added_by_id", *shapes.BRIEF)


def _entries(numbers: list[int]) -> list[dict[str, Any]]:
    found = {row["id"]: row for row in Item.objects.filter(pk__in=numbers).order_by().values(*_ROW)}
    people = Person.objects.in_bulk({row["added_by_id"] for row in found.values()})
    return [
        {
            "item": shapes.brief_out(row),
            "added_at": row["added_at"],
            "added_by": people[row["added_by_id"]].shown_name,
            "uses": row["used_on"],
        }
        for number in numbers
        if (row := found.get(number))
    ]


@router.get("/library/count", response=Counted, throttle=[Costly("search")])
def count(request: SignedIn, asked: Query[Asked]) -> Any:
    """How many items are like that. Asked for beside the items, since counting many takes longer than showing some."""
    require(request.user, Right.USE_LIBRARY)
    return {"total": finding.counted(_asked(request, asked), asked.q)}


@router.get("/library/numbers", response=list[int], throttle=[Costly("search")])
def numbers(request: SignedIn, asked: Query[Asked]) -> Any:
    """The numbers of all items that are like that, to act on them; of at most as many as can be acted on at once."""
    require(request.user, Right.USE_LIBRARY)
    return finding.first_of(_asked(request, asked), asked.q, 0, acts.MOST)


@router.get("/library/tags", response=list[str])
def tags(request: SignedIn) -> Any:
    """Every tag that some item bears, the most borne first."""
    require(request.user, Right.USE_LIBRARY)
    borne = Item.tags.through.objects.values("tag__name").annotate(count=Count("id")).order_by("-count", "tag__name")
    return [row["tag__name"] for row in borne[:200]]


@router.get("/shelf", response=ShelfOut, throttle=[Costly("search")])
def shelf(request: SignedIn, q: str = params.Query("", max_length=200), site: int | None = None) -> Any:
    """Items and pages that hold all the words asked for; without any, the newest items. ``site`` is that of the page
    being written: what is kept to other sites is not offered."""
    require(request.user, Right.USE_LIBRARY)
    items = _asked(request, Asked.model_validate({"site": site}))
    sight = sight_of(request.user)
    pages: list[Page] = []
    words = q.split()[:10]
    if words:
        whole = Q()
        for word in words:
            whole &= Q(working_copy__title__icontains=word)
        anywhere = Q()
        for word in words:
            anywhere &= Q(working_copy__title__icontains=word) | Q(path__icontains=word)
        by_fit = Case(When(working_copy__title__istartswith=q.strip(), then=0), When(whole, then=1), default=2)
        related = Page.objects.filter(anywhere).select_related("site", "working_copy", "live_copy").defer(*LIGHT)
        if sight.sites is not None:
            related = related.filter(site__in=sight.sites)
        pages = list(related.order_by(by_fit, "working_copy__title")[:FOUND])
    return {
        "pictures": _offered(items.filter(kind=Item.Kind.PICTURE), q),
        "documents": _offered(items.exclude(kind=Item.Kind.PICTURE), q),
        "pages": [shapes.page_ref(page, sight) for page in pages],
    }


def _offered(items: QuerySet[Item], q: str) -> list[dict[str, Any]]:
    """The first items that hold the words; those whose title begins with them stand first."""
    numbers = finding.first_of(items, q, 0, FOUND)
    rows = {item.pk: item for item in shapes.with_all(Item.objects.filter(pk__in=numbers))}
    found = [shapes.item_out(rows[number]) for number in numbers if number in rows]
    start = q.strip().casefold()
    return sorted(found, key=lambda item: not item["title"].casefold().startswith(start)) if start else found


def _item(request: SignedIn, item_id: int) -> Item:
    """An item that the person may see."""
    items = shapes.with_all(Item.objects.select_related("added_by"))
    return get_object_or_404(open_items(items, request.user, folders.Tree()), pk=item_id)


@router.get("/library/items", response=list[ItemOut])
def items(request: SignedIn, asked: Query[Several]) -> Any:
    """Those of the items that there are and that the person may see, in the order asked."""
    require(request.user, Right.USE_LIBRARY)
    seen = open_items(Item.objects.filter(pk__in=asked.number), request.user, folders.Tree())
    found = {each.pk: each for each in shapes.with_all(seen)}
    return [shapes.item_out(found[each]) for each in dict.fromkeys(asked.number) if each in found]


@router.get("/items/{item_id}", response=ItemOut)
def item(request: SignedIn, item_id: int) -> Any:
    """An item of the library."""
    require(request.user, Right.USE_LIBRARY)
    return shapes.item_out(_item(request, item_id))


@router.get("/items/{item_id}/entry", response=ItemEntry)
def entry(request: SignedIn, item_id: int) -> Any:
    """An item with who added it, and on how many pages it is used."""
    require(request.user, Right.USE_LIBRARY)
    found = _item(request, item_id)
    shown = found.added_by.shown_name
    return {
        "item": shapes.item_out(found, is_new=False),
        "added_at": found.added_at,
        "added_by": shown,
        "uses": found.used_on,
    }


@router.patch("/items/{item_id}", response=ItemOut)
def change_item(request: SignedIn, item_id: int, given: ItemChange) -> Any:
    """Change what the library says of an item. Pages that use its alt text show it when they are next published."""
    require(request.user, Right.DESCRIBE_ITEMS)
    found = _item(request, item_id)
    require(request.user, Right.DESCRIBE_ITEMS, found.folder)
    values = _said(request, given, [found])
    if values:
        acts.change(request.user, [found], "described", lambda _: values, f"“{found.title[:100]}”")
    return shapes.item_out(_item(request, item_id))


def _said(request: SignedIn, given: ItemChange, items: Iterable[Item]) -> dict[str, Any]:
    values = given.model_dump(exclude_none=True)
    if values.keys() & {"restricted", "leads_on"}:
        require_of_items(request.user, Right.KEEP_LIBRARY, items)
    if "title" in values:
        values["title"] = clean_title(values["title"])
    if "tags" in values:
        values["tags"] = sorted({acts.clean_tag(name) for name in values["tags"]})
    if given.edits is not None:
        values["edits"] = acts.clean_edits(given.edits.model_dump())
    return values


@router.get("/items/{item_id}/uses", response=list[ItemUse])
def item_uses(request: SignedIn, item_id: int) -> Any:
    """The pages that show an item or link to it, of every site."""
    require(request.user, Right.USE_LIBRARY)
    sight = sight_of(request.user)
    places = places_of(_item(request, item_id), sight)
    return [
        {
            "page": shapes.page_ref(each.page, sight),
            "working": each.working,
            "live": each.live,
            # Of a document they say which pages are shown, of an animation in which colours.
            "framings": [framing for framing in each.framings if "turn" in framing],
        }
        for each in places
    ]


@router.post("/library/uses", response=list[ItemUse])
def many_uses(request: SignedIn, given: ItemsIn) -> Any:
    """The pages that any of many items is used on, each once; told before they are deleted or replaced."""
    sight = sight_of(request.user)
    found: dict[int, dict[str, Any]] = {}
    for one in _items(request, given.items, Right.USE_LIBRARY).filter(used_on__gt=0)[:200]:
        for each in places_of(one, sight):
            known = found.setdefault(each.page.pk, {"page": each.page, "working": False, "live": False})
            known["working"] |= each.working
            known["live"] |= each.live
    return [{**each, "page": shapes.page_ref(each["page"], sight)} for each in found.values()]


@router.get("/items/{item_id}/cut/{key}", response={200: Any})
def cut(request: SignedIn, item_id: int, key: str, width: int = params.Query(720, ge=16, le=2000)) -> HttpResponse:
    """A cut of a picture, as somebody sees it who is just choosing it; ``key`` as in the names of files."""
    require(request.user, Right.USE_LIBRARY)
    found = _item(request, item_id)
    if found.kind != Item.Kind.PICTURE or found.nature == Item.Nature.LINES:
        return problem(422, "unusable", "This cannot be used", "Only a picture of pixels can be cut.")
    try:
        wanted = Cut.from_key("" if key == "whole" else key)
    except ValueError:
        return problem(422, "unusable", "This cannot be used", "This names no cut of a picture.")
    data = preview(found, wanted, width)
    kind = "image/png" if data.startswith(b"\x89PNG") else "image/jpeg"
    return HttpResponse(data, content_type=kind, headers={"Cache-Control": "private, max-age=3600"})


def _items(request: SignedIn, given: list[int], right: Right) -> QuerySet[Item]:
    """Those of the items that the person may see. Raises `NotAllowed` unless they have the right to all of these."""
    require(request.user, right)
    items = open_items(Item.objects.filter(pk__in=given), request.user, folders.Tree())
    require_in_folders(request.user, right, items.values_list("folder", flat=True))
    return shapes.with_all(items).order_by("pk")


@router.post("/library/act", response=ActOut)
def act_on(request: SignedIn, given: ItemsAct) -> Any:
    """Do something to many items, as one thing that can be undone."""
    describes = given.act in ("tag", "describe")
    items = _items(request, given.items, Right.DESCRIBE_ITEMS if describes else Right.ARRANGE_LIBRARY)
    person = request.user
    match given.act:
        case "move":
            folder = _folder(request, given.folder, Right.ARRANGE_LIBRARY) if given.folder else None
            done = acts.move(person, items, folder)
        case "tag":
            done = acts.tag(person, items, given.words, given.without)
        case "describe":
            values = _said(request, given.say or ItemChange.model_validate({}), items)
            done = acts.change(person, items, "described", lambda _: values)
        case "bin":
            done = acts.to_bin(person, items)
        case "restore":
            done = acts.from_bin(person, items)
    return shapes.act_out(done)


@router.post("/library/remove", response=Counted)
def remove(request: SignedIn, given: ItemsIn) -> Any:
    """Remove items from the bin for good."""
    return {"total": acts.remove(request.user, _items(request, given.items, Right.KEEP_LIBRARY))}


@router.get("/acts/last", response={200: ActOut, 204: None})
def last_act(request: SignedIn) -> Any:
    """The last thing that the person did and can undo."""
    require(request.user, Right.USE_LIBRARY)
    done = Act.objects.filter(person=request.user, undone=False).first()
    return (200, shapes.act_out(done)) if done else (204, None)


@router.post("/acts/{act_id}/undo", response=ActOut)
def undo(request: SignedIn, act_id: int) -> Any:
    """Undo something that was done to items or folders; only who did it may, or a keeper."""
    done = get_object_or_404(Act, pk=act_id)
    require(request.user, Right.DESCRIBE_ITEMS if done.person_id == request.user.pk else Right.KEEP_LIBRARY)
    return shapes.act_out(acts.undo(done, request.user))


@router.get("/items/{item_id}/versions", response=list[VersionOfFile])
def file_versions(request: SignedIn, item_id: int) -> Any:
    """The files that an item has and had, the newest first."""
    require(request.user, Right.USE_LIBRARY)
    found = _item(request, item_id)
    originals = sorted((file for file in found.files.all() if file.original), key=lambda file: -file.version)
    return [
        {
            "version": file.version,
            "came_as": file.came_as,
            "made_at": file.made_at,
            "size": file.size,
            "width": file.width,
            "height": file.height,
            "format": shapes.format_of(file.mime),
            "address": address_of(file),
            "present": file.version == found.version,
        }
        for file in originals
    ]


@router.post("/items/{item_id}/versions/{version}", response=ItemOut)
def take_version(request: SignedIn, item_id: int, version: int) -> Any:
    """Show an earlier file of an item again, on every page that uses it."""
    require(request.user, Right.ARRANGE_LIBRARY)
    found = _item(request, item_id)
    require(request.user, Right.ARRANGE_LIBRARY, found.folder)
    show_version(found, version)
    return shapes.item_out(_item(request, item_id))


def _folder(request: SignedIn, folder_id: int, right: Right) -> Folder:
    """A folder that the person may see. Raises `NotAllowed` unless they have the right in it."""
    require(request.user, right)
    folder = get_object_or_404(open_folders(request.user), pk=folder_id)
    require(request.user, right, folder)
    return folder


def _above(request: SignedIn, folder_id: int | None) -> int | None:
    """The number of the folder in which another is to stand; None for the top, which 0 means too."""
    if folder_id:
        if not open_folders(request.user).filter(pk=folder_id).exists():
            raise folders.Gone
        require_in_folders(request.user, Right.ARRANGE_LIBRARY, [folder_id])
    return folder_id or None


def _folder_out(folder: Folder, tree: folders.Tree, held: dict[int | None, int]) -> dict[str, Any]:
    return {
        "id": folder.pk,
        "name": folder.name,
        "parent": folder.parent_id,
        "items": held.get(folder.pk, 0),
        "sites": sorted(site.pk for site in folder.sites.all()),
        "kept_to": sorted(tree.limits.get(folder.pk, ())),
    }


@router.get("/folders", response=list[FolderOut])
def all_folders(request: SignedIn) -> Any:
    """Every folder that the person may see, each before those in it."""
    require(request.user, Right.USE_LIBRARY)
    tree = folders.Tree()
    seen = open_items(Item.objects.filter(binned_at=None), request.user, tree)
    held = dict(seen.order_by().values_list("folder").annotate(Count("pk")))
    hidden = set(closed_folders(request.user, tree))
    ordered: list[Folder] = []
    waiting = tree.below.get(None, [])[::-1]
    while waiting:
        folder = waiting.pop()
        if folder.pk not in hidden:
            ordered.append(folder)
            waiting += tree.below.get(folder.pk, [])[::-1]
    return [_folder_out(folder, tree, held) for folder in ordered]


@router.post("/folders", response={201: FolderMade})
def add_folder(request: SignedIn, given: FolderIn) -> Any:
    """Make a folder."""
    require(request.user, Right.ARRANGE_LIBRARY)
    folder, done = acts.make_folder(request.user, given.name, _above(request, given.parent))
    return 201, {"folder": _folder_out(folder, folders.Tree(), {}), "act": shapes.act_out(done)}


@router.patch("/folders/{folder_id}", response=ActOut)
def change_folder(request: SignedIn, folder_id: int, given: FolderChange) -> Any:
    """Rename a folder, put it into another, or keep what it holds to some sites."""
    folder = _folder(request, folder_id, Right.ARRANGE_LIBRARY)
    values: dict[str, Any] = {}
    if given.name is not None:
        values["name"] = given.name
    if given.parent is not None:
        values["parent_id"] = _above(request, given.parent)
    if given.sites is not None:
        require(request.user, Right.KEEP_LIBRARY, folder)
        values["sites"] = sorted(given.sites)
    return shapes.act_out(acts.change_folder(request.user, folder, values))


@router.delete("/folders/{folder_id}", response=ActOut)
def remove_folder(request: SignedIn, folder_id: int) -> Any:
    """Take a folder away; what it holds stands in the one above from then on."""
    return shapes.act_out(acts.remove_folder(request.user, _folder(request, folder_id, Right.ARRANGE_LIBRARY)))

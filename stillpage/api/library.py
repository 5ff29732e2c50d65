"""The media library as a whole: found, narrowed, sorted, a part at a time."""

from __future__ import annotations

from functools import reduce
from operator import or_
from typing import Any, Literal

from django.db.models import Count, Max, Q
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Query, Router

from stillpage.library.models import Item
from stillpage.pages.uses import places_of
from stillpage.people.permissions import Act, require

from . import schemas, shapes

router = Router(tags=["library"])

Show = Literal["all", "pictures", "documents", "without alt text", "used nowhere", "mine"]
Order = Literal["newest", "title", "largest"]
PART = 60
_WORDS = ("title", "alt", "description", "credit", "licence")


@router.get("/library", response=schemas.LibraryOut)
def library(
    request: HttpRequest,
    q: str = Query("", max_length=200),
    show: Show = "all",
    order: Order = "newest",
    skip: int = Query(0, ge=0, le=1_000_000),
) -> Any:
    """Items whose words hold all the words asked for; ``skip`` as many to get the next part."""
    require(request.user, Act.USE_LIBRARY)
    every = Item.objects.filter(_narrowed(request, show))
    for word in q.split()[:10]:
        every = every.filter(reduce(or_, (Q(**{f"{field}__icontains": word}) for field in _WORDS)))
    part = _ordered(every, order).select_related("added_by").prefetch_related("files")[skip : skip + PART]
    items = list(part)
    counted = Item.objects.filter(pk__in=[item.pk for item in items]).annotate(pages=Count("uses__page", distinct=True))
    uses = dict(counted.values_list("pk", "pages"))
    entries = [
        {
            "item": shapes.item_out(item, is_new=False),
            "added_at": item.added_at,
            "added_by": item.added_by.shown_name,
            "uses": uses[item.pk],
        }
        for item in items
    ]
    return {"entries": entries, "total": every.count()}


@router.get("/items/{item_id}/uses", response=list[schemas.ItemUse])
def item_uses(request: HttpRequest, item_id: int) -> Any:
    """The pages that show an item or link to it, of every site."""
    require(request.user, Act.USE_LIBRARY)
    places = places_of(get_object_or_404(Item, pk=item_id))
    return [{"page": shapes.page_ref(each.page), "working": each.working, "live": each.live} for each in places]


def _narrowed(request: HttpRequest, show: Show) -> Q:
    match show:
        case "pictures":
            return Q(kind=Item.Kind.PICTURE)
        case "documents":
            return Q(kind=Item.Kind.DOCUMENT)
        case "without alt text":
            return Q(kind=Item.Kind.PICTURE, alt="")
        case "used nowhere":
            return Q(uses=None)
        case "mine":
            return Q(added_by=request.user)
    return Q()


def _ordered(items: Any, order: Order) -> Any:
    if order == "largest":
        largest = Max("files__size", filter=Q(files__original=True))
        return items.annotate(largest=largest).order_by("-largest", "-id")
    return items.order_by("title", "id") if order == "title" else items.order_by("-added_at", "-id")

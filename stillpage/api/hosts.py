"""Hosts that films may be shown from, and films elsewhere."""

from __future__ import annotations

from typing import Any

from django.db.models import Count
from django.shortcuts import get_object_or_404
from ninja import Router

from stillpage.hosts import keeping, table
from stillpage.hosts.asking import ask
from stillpage.hosts.models import Host
from stillpage.library import folders
from stillpage.library.models import Item
from stillpage.rights import Right, open_items, require, require_everywhere
from stillpage_core.media.hosting import HostError, address_in, frame_address
from stillpage_core.media.hosting.hosts import OPTIONS

from . import shapes
from .limits import Costly
from .requests import SignedIn
from .schemas.hosts import HostIn, HostOut, HostTried, HostTry
from .schemas.library import ItemOut
from .schemas.problems import Problem

router = Router(tags=["library"])


def _out(row: Host) -> dict[str, Any]:
    return {
        **{name: getattr(row, name) for name in ("id", *table.FIELDS)},
        "films": getattr(row, "count", 0),
        "removed": row.removed_at is not None,
    }


@router.get("/hosts", response=list[HostOut])
def hosts(request: SignedIn) -> Any:
    """The hosts that films may be shown from, those too that were taken away, and how many films the library has from
    each."""
    require(request.user, Right.USE_LIBRARY)
    return [_out(row) for row in Host.objects.annotate(count=Count("films"))]


@router.post("/hosts", response={201: HostOut, 422: Problem})
def add_host(request: SignedIn, given: HostIn) -> Any:
    """Allow films from another host."""
    require_everywhere(request.user, Right.KEEP_HOSTS)
    return 201, _out(table.keep(request.user, given.model_dump()))


@router.post("/hosts/try", response={200: HostTried, 422: Problem}, throttle=[Costly("fetch")])
def try_host(request: SignedIn, given: HostTry) -> Any:
    """Ask a host, as it is typed, for a film; nothing is kept."""
    require_everywhere(request.user, Right.KEEP_HOSTS)
    host = table.checked(given.host.model_dump())
    reply = ask(host, address_in(given.address, [host]))
    if reply.hosted is None:
        raise HostError(reply.fault)
    said = reply.hosted
    chosen: dict[str, int | bool] = {name: 30 if "{}" in host.options.get(name, "") else True for name in OPTIONS}
    return {
        **{name: getattr(said, name) for name in ("title", "author", "width", "height", "lasts", "cover", "frame")},
        "with_options": frame_address(said.frame, host, chosen) if host.options else "",
    }


@router.put("/hosts/{host_id}", response={200: HostOut, 422: Problem})
def change_host(request: SignedIn, host_id: int, given: HostIn) -> Any:
    """Change what is known of a host. Live pages follow."""
    require_everywhere(request.user, Right.KEEP_HOSTS)
    row = get_object_or_404(Host, pk=host_id, removed_at=None)
    return _out(table.keep(request.user, given.model_dump(), row))


@router.delete("/hosts/{host_id}", response={204: None})
def remove_host(request: SignedIn, host_id: int) -> Any:
    """Show no films from a host any more. Its films stay in the library; readers get links to them."""
    require_everywhere(request.user, Right.KEEP_HOSTS)
    table.remove(request.user, get_object_or_404(Host, pk=host_id, removed_at=None))
    return 204, None


@router.post("/hosts/{host_id}/back", response={200: HostOut, 422: Problem})
def bring_host_back(request: SignedIn, host_id: int) -> Any:
    """Bring a host back that was taken away."""
    require_everywhere(request.user, Right.KEEP_HOSTS)
    row = get_object_or_404(Host, pk=host_id)
    table.bring_back(request.user, row)
    row.refresh_from_db()
    return _out(row)


@router.post("/items/{item_id}/ask", response={200: ItemOut, 422: Problem}, throttle=[Costly("fetch")])
def ask_again(request: SignedIn, item_id: int) -> Any:
    """Ask its host for a film elsewhere again, now."""
    require(request.user, Right.DESCRIBE_ITEMS)
    found = get_object_or_404(
        open_items(Item.objects.filter(kind__in=(Item.Kind.HOSTED, Item.Kind.POST)), request.user, folders.Tree()),
        pk=item_id,
    )
    require(request.user, Right.DESCRIBE_ITEMS, found.folder)
    keeping.ask_again(found)
    return shapes.item_out(shapes.with_all(Item.objects.filter(pk=item_id)).get())

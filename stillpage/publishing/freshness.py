"""Keeping what readers get in accord with what it is made from, at a cost that follows what has changed.

Whoever changes something that live copies show tells it (`tell`), as part of the change. When that is done, the live
copies that are touched are marked (`spread`), by statements that move no text; a change of what stands around every
page of a site moves the number of its frame on, and marks none. Nothing is rendered by that. A live copy that is out
of date is rendered anew by the first reader who asks for it, or by the worker (`bring_up`, `bring_up_some`): by one at
a time, others get the one before meanwhile.

Why nothing is missed: what renders a page takes note of its marks and of its frame's number before it reads anything
else, and takes away only those. Marks are made after the change is there for everybody to read, from the uses that are
there then. So either the uses of a text were there, and it is marked; or they came later, and whoever renders it reads
what has changed.

And why nothing is forgotten: a change is told in the same transaction as it is made, and stays told until it is spread;
a mark stays until the page is rendered. Whoever is killed leaves both for the next.
"""

from __future__ import annotations

import logging
import time
from collections.abc import Collection, Iterable
from typing import Any

from django.db import connection, transaction
from django.db.models import F, Q, QuerySet
from django_tasks import task
from django_tasks_db.models import DBTaskResult

from stillpage.library.models import Item
from stillpage.outages import is_outage
from stillpage.pages.models import Page
from stillpage.pages.seeing import ALL
from stillpage.pages.tree import in_branch
from stillpage.sites.models import Site
from stillpage.sites.themes import levels_of, theme_of
from stillpage.written.models import Use
from stillpage_core.document import Node
from stillpage_core.resolving import Resolver
from stillpage_core.writing import policy_of, published_html

from . import page_memory
from .models import Change, LiveCopy, NotFoundPage, OutOfDate
from .rendering import FILLED, Frame, around, fill, head_of, module, not_found_html
from .resolving import resolver_for

MOST_BELOW = 500
"""Of more pages than this below a page that changes, none is marked: the number of the site's frame moves on."""
AT_ONCE = 1000
"""How many changes are spread in one transaction."""
BATCH = 50
"""How many pages the worker renders in one transaction at most."""
HOLD = 0.3
"""Seconds for which a batch should hold its pages at most: whoever publishes one of them waits as long."""
SPELL = 5.0
"""Seconds that the worker renders at a stretch before it lets other work have its turn."""
_log = logging.getLogger(__name__)
_Sort = Change.Sort


# What has changed


def tell(sort: Change.Sort, numbers: Iterable[int]) -> None:
    """Tell, in the transaction that changes it, that something live copies are made from is changed."""
    if Change.objects.bulk_create(Change(sort=sort, number=number) for number in numbers):
        transaction.on_commit(spread_all, robust=True)


def tell_items(items: Collection[Item]) -> None:
    """Tell that the files or the words of items are others now."""
    tell(_Sort.ITEM, [item.pk for item in items])


def mark(page: Page) -> None:
    """Have a page rendered whose text is another now: at once when the present transaction is done, or by whoever comes
    next."""
    OutOfDate.objects.create(page=page, text=True)
    transaction.on_commit(lambda: bring_up([page.pk], wait=True) and None, robust=True)


def renew(site: Site) -> None:
    """Have every page of a site rendered anew, text and all, as after a change of the program that renders them."""
    with transaction.atomic():
        mark_all(LiveCopy.objects.filter(site=site), text=True)
        _move_on([site.pk])
    ask_worker()


def spread_all() -> None:
    """Mark what was touched by all changes that were told."""
    while spread() == AT_ONCE:
        pass


def spread() -> int:
    """Mark what was touched by the first changes that were told, at most `AT_ONCE`; returns how many there were."""
    with transaction.atomic():
        changes = list(Change.objects.select_for_update(skip_locked=True).order_by("pk")[:AT_ONCE])
        if not changes:
            return 0
        of: dict[str, set[int]] = {}
        for change in changes:
            of.setdefault(change.sort, set()).add(change.number)
        marked = 0
        named = [
            Q(**{column: of[sort]})
            for sort, column in ((_Sort.ITEM, "item__in"), (_Sort.WRITTEN, "target__in"))
            if sort in of
        ]
        named += [Q(target__in=in_branch(page)) for page in Page.objects.filter(pk__in=of.get(_Sort.BRANCH, ()))]
        for what in named:
            uses = Use.objects.filter(what, live=True).values("written")
            marked += mark_all(LiveCopy.objects.filter(written__in=uses, site__isnull=False), text=True)
        sites = set(of.get(_Sort.SITE, ()))
        for page in Page.objects.filter(pk__in=of.get(_Sort.AROUND, ())):
            shown = _that_show(page)
            if shown is None:
                sites.add(page.site_id)
            else:
                marked += mark_all(shown, text=False)
        _move_on(sorted(sites))
        Change.objects.filter(pk__in=[change.pk for change in changes]).delete()
    if marked or sites:
        ask_worker()
    return len(changes)


def _that_show(page: Page) -> QuerySet[LiveCopy] | None:
    """The live copies around whose text a page is named: those below it have it in their trail, the one above lists it.
    None for all of the site's: it stands in the navigation, it is the first page, which every trail begins with, or
    there are very many below it."""
    if page.path == "/" or in_navigation_bar(page):
        return None
    numbers = list(in_branch(page).values_list("pk", flat=True)[: MOST_BELOW + 1])
    if len(numbers) > MOST_BELOW:
        return None
    numbers += [page.parent_id] if page.parent_id else []
    return LiveCopy.objects.filter(written__in=numbers, site__isnull=False)


def in_navigation_bar(page: Page) -> bool:
    """Whether a page may stand in the bar at the top of every page of its site: at the top of the tree, or, where the
    theme shows two levels, right below."""
    if not page.in_navigation or page.hidden:
        return False
    parent = page.parent
    return parent is None or (parent.parent_id is None and levels_of(page.site.theme) > 1)


def mark_all(lives: QuerySet[LiveCopy], *, text: bool) -> int:
    """Mark live copies as out of date; returns how many. They are rendered by whoever comes next, or by the worker
    when it is asked."""
    query, values = lives.order_by().values("written_id").query.sql_with_params()
    table = OutOfDate._meta.db_table
    with connection.cursor() as cursor:
        # The query is Django's own, its values apart from it.
        statement = f"INSERT INTO {table} (page_id, text) SELECT written_id, {int(text)} FROM ({query}) AS touched"  # noqa: S608
        cursor.execute(statement, values)
        count: int = cursor.rowcount
    if count:
        first = [each or "" for each in lives.order_by().values_list("address", flat=True)[: MOST_BELOW + 1]]
        if len(first) > MOST_BELOW:
            sites = Site.objects.filter(pk__in=lives.order_by().values("site").distinct())
            page_memory.changed(hosts=sites.values_list("host", flat=True))
        else:
            page_memory.changed(first)
    return count


def _move_on(sites: list[int]) -> None:
    """Move the number of the frame of these sites on: every page of theirs is out of date."""
    for number in sites:
        Site.objects.filter(pk=number).update(frame=F("frame") + 1)
    page_memory.changed(hosts=Site.objects.filter(pk__in=sites).values_list("host", flat=True))


# Rendering


def bring_up(numbers: Collection[int], *, wait: bool = False) -> set[int]:
    """Render those of these pages that are out of date; returns those that are right now. What somebody else is
    rendering just now is left to them, unless they are waited for."""
    with transaction.atomic():
        locked = LiveCopy.objects.select_for_update(skip_locked=not wait).filter(pk__in=numbers).order_by("pk")
        lives = {live.pk: live for live in locked.defer("document", "html_gzip") if live.site_id}
        sites = Site.objects.in_bulk({live.site_id for live in lives.values()})
        marks: dict[int, list[OutOfDate]] = {}
        for each in OutOfDate.objects.filter(page__in=lives):
            marks.setdefault(each.page_id, []).append(each)
        old = [live for live in lives.values() if live.pk in marks or live.frame != sites[live.site_id].frame]
        texts = {live.pk for live in old if not live.text_to or any(each.text for each in marks.get(live.pk, ()))}
        for site in sites.values():
            _render(site, [live for live in old if live.site_id == site.pk], texts)
        OutOfDate.objects.filter(pk__in=[each.pk for of_page in marks.values() for each in of_page]).delete()
    return set(lives)


def _render(site: Site, lives: list[LiveCopy], texts: Collection[int]) -> None:
    """Render live copies of one site: of ``texts`` the text too, of others only what stands around it."""
    if not lives:
        return
    documents = {live.pk: live.tree for live in LiveCopy.objects.filter(pk__in=texts, site=site).only("document")}
    resolver = resolver_for(documents.values(), site.origin, sight=ALL, checks=False, language=site.language)
    rooms = theme_of(site.theme).rooms
    pages = Page.objects.in_bulk([live.pk for live in lives])
    frame = Frame.of(site, pages.values())
    for live in lives:
        if live.pk in documents:
            text = published_html(documents[live.pk], resolver, rooms, module, site.language).encode()
        else:
            text = bytes(live.html)[live.text_from : live.text_to]
        page = pages[live.pk]
        if live.pk in documents:
            live.head = head_of(documents[live.pk], resolver, site.origin)
        before, after = around(frame, page, title=live.title, description=live.description, head=live.head)
        start = before.encode()
        places = {"text_from": len(start), "text_to": len(start) + len(text)}
        values: dict[str, Any] = {"address": site.host + page.path, **places}
        if live.pk in documents:
            values |= {"policy": _policy(documents[live.pk], resolver), "head": live.head}
        changed = fill(live, start + text + after.encode(), site.frame)
        values |= {name: getattr(live, name) for name in (FILLED if changed else ("frame",))}
        # One by one: very large pages in one statement would be more than the database takes.
        LiveCopy.objects.filter(pk=live.pk).update(**values)
        page_memory.changed([values["address"]])


_EVERYWHERE = policy_of()


def _policy(document: Node, resolver: Resolver) -> str:
    policy = policy_of(document, resolver)
    return "" if policy == _EVERYWHERE else policy


def bring_up_not_found(site_id: int) -> None:
    """Render what a site answers where there is nothing, if there is no such page of the site's present frame."""
    with transaction.atomic():
        site = Site.objects.get(pk=site_id)
        missing = NotFoundPage.objects.select_for_update().filter(site=site).first() or NotFoundPage(site=site)
        if missing.frame == site.frame:
            return
        missing.address = site.host
        fill(missing, not_found_html(Frame.of(site, ())).encode(), site.frame)
        missing.save()
        page_memory.changed([site.host])


# The worker's part


def waiting(site: Site) -> int:
    """How many live pages of a site are out of date."""
    number = Site.objects.values_list("frame", flat=True).get(pk=site.pk)
    older = LiveCopy.objects.filter(site=site, frame__lt=number).count()
    marked = LiveCopy.objects.filter(site=site, frame=number, written__in=OutOfDate.objects.values("page"))
    return older + marked.count()


def _next(leave: Collection[int], most: int) -> list[int]:
    """Some pages that are out of date: those that are marked first, for whoever marked them looks at them now."""
    marked = OutOfDate.objects.exclude(page__in=leave).order_by("pk").values_list("page", flat=True)[: most * 4]
    if found := list(dict.fromkeys(marked))[:most]:
        return found
    for site in Site.objects.all():
        older = LiveCopy.objects.filter(site=site, frame__lt=site.frame).exclude(pk__in=leave)
        if found := list(older.order_by("frame").values_list("pk", flat=True)[:most]):
            return found
    return []


def bring_all_up(until: float = float("inf")) -> bool:
    """Render whatever is out of date, in batches, each of which stays done; says whether nothing was left at the time
    ``until`` (of the monotonic clock). Batches grow as long as they take little time: some pages are very large."""
    spread_all()
    for number in Site.objects.values_list("pk", flat=True):
        bring_up_not_found(number)
    leave: set[int] = set()
    most = 4
    while numbers := _next(leave, most):
        begun = time.monotonic()
        if begun > until:
            return False
        try:
            leave |= set(numbers) - bring_up(numbers)
        except Exception as error:
            if is_outage(error):
                raise
            # One page that cannot be rendered keeps no other from it, and is tried again another time.
            leave |= set(numbers)
            for number in numbers:
                _alone(number)
        most = min(BATCH, most * 2) if time.monotonic() - begun < HOLD / 2 else max(1, most // 2)
    _forget_marks_of_withdrawn(leave)
    return True


def _forget_marks_of_withdrawn(pages: Collection[int]) -> None:
    """Take away marks of pages that have no live copy any more. They are looked for first, and taken away by their own
    numbers, so that nobody's page is locked by it."""
    marks = list(OutOfDate.objects.filter(page__in=pages).values_list("pk", "page"))
    there = set(LiveCopy.objects.filter(pk__in=pages).values_list("pk", flat=True))
    OutOfDate.objects.filter(pk__in=[number for number, page in marks if page not in there]).delete()


def _alone(number: int) -> None:
    try:
        bring_up([number])
    except Exception as error:
        if is_outage(error):
            raise
        _log.exception("The live page %s cannot be rendered", number)


@task()
def bring_up_some() -> bool:
    """Render what is out of date, for a spell; says whether nothing is left."""
    done = bring_all_up(time.monotonic() + SPELL)
    if not done:
        ask_worker()
    return done


def ask_worker() -> None:
    """Have the worker render what is out of date, once the present transaction is done; asked once, not again and
    again."""

    def ask() -> None:
        if not DBTaskResult.objects.filter(status="READY", task_path=bring_up_some.module_path).exists():
            bring_up_some.enqueue()

    transaction.on_commit(ask, robust=True)


def take_up_again() -> None:
    """Ask anew for what an earlier worker has left undone."""
    if Change.objects.exists() or _next((), 1):
        ask_worker()

"""The bin: pages go there with all that stand under them, come back to where they were, or are removed for good.

A page that was live is taken from readers by that, and comes back as they had it.
"""

from __future__ import annotations

from collections.abc import Sequence

from django.db import connection, transaction
from django.utils import timezone

from stillpage.pages.models import Page, Redirect, TreeAct
from stillpage.pages.tree import PageError, Place, free_slug, in_branch, make_room
from stillpage.people.models import Person
from stillpage.publishing import freshness, page_memory
from stillpage.publishing.models import Change, LiveCopy
from stillpage.sites.models import Site
from stillpage.trail.noting import note
from stillpage.written.models import Version, Written
from stillpage_core.sites import page_path

from .addressing import forget_answers, lead_no_more, lead_on, lock, roots_of, shown_where_it_was
from .placing import counted, note_act

_PAGE, _LIVE, _VERSION, _SITE = (each._meta.db_table for each in (Page, LiveCopy, Version, Site))
AT_ONCE = 500


@transaction.atomic
def to_bin(pages: Sequence[Page], person: Person) -> TreeAct:
    """Put pages, and all that stand under them, into the bin. Readers no longer get them; links to them are left out
    of what links to them.

    Raises:
        PageError: when it is the first page of a site.
    """
    lock(*(page.site for page in pages))
    for page in pages:
        page.refresh_from_db()
    roots = roots_of(pages)
    if not roots:
        raise PageError("No page is chosen.")
    if any(page.path == "/" for page in roots):
        raise PageError("A site needs its first page. Make another page the first one, or close the site.")
    for page in roots:
        put_away(page, person)
    sentence = f"{counted(roots)} put into the bin"
    return note_act(TreeAct.Sort.BINNED, person, roots[0].site, sentence, [[page.pk, {}] for page in roots])


def put_away(page: Page, person: Person) -> None:
    """Put one page with all under it into the bin."""
    was_in_bar = freshness.in_navigation_bar(page)
    branch = in_branch(page)
    live = list(LiveCopy.objects.filter(written__in=branch).values_list("pk", flat=True))
    forget_answers(branch)
    lead_on(page, person, Redirect.Why.MOVED)
    with connection.cursor() as cursor:
        cursor.execute(
            f"UPDATE {_PAGE} p LEFT JOIN {_LIVE} l ON l.written_id = p.id SET "  # noqa: S608
            "p.was_live_id = l.kept_id, p.was_live_since = l.published_at, p.was_live_by_id = l.published_by_id, "
            "p.binned_at = %s, p.binned_by_id = %s, p.binned_with_id = %s, p.path = CONCAT('bin:', p.id) "
            "WHERE p.binned_at IS NULL AND p.site_id = %s AND (p.id = %s OR (p.path > %s AND p.path < %s))",
            [timezone.now(), person.pk, page.pk, page.site_id, page.pk, f"{page.path}/", f"{page.path}0"],
        )
    for start in range(0, len(live), AT_ONCE):
        LiveCopy.objects.filter(pk__in=live[start : start + AT_ONCE])._raw_delete(LiveCopy.objects.db)
    freshness.tell(Change.Sort.WRITTEN, live)
    shown_where_it_was(page.site, page.parent, in_bar=was_in_bar and page.pk in live)
    page.refresh_from_db()


@transaction.atomic
def restore(pages: Sequence[Page], person: Person, *, live: bool) -> TreeAct:
    """Take pages back from the bin, with all that came there with them, to where they were: under the nearest page
    above that is still there. Those that readers had they have again, if ``live``.

    Raises:
        PageError: when one is not in the bin by itself.
    """
    lock(*(page.site for page in pages))
    roots = sorted(pages, key=lambda page: (page.position, page.pk))
    for page in roots:
        if page.binned_at is None or page.binned_with_id != page.pk:
            raise PageError("This page is not in the bin, or came there with one above it. Take that one back.")
        take_back(page, live=live)
    if not roots:
        raise PageError("No page is chosen.")
    sentence = f"{counted(roots)} taken back from the bin"
    return note_act(TreeAct.Sort.RESTORED, person, roots[0].site, sentence, [[page.pk, {}] for page in roots])


def take_back(page: Page, *, live: bool) -> None:
    """Take one page back from the bin, with all that came there with it."""
    parent = page.parent
    while parent is not None and parent.binned_at is not None:
        parent = parent.parent
    # The page above may stand on another site by now.
    site = parent.site if parent else page.site
    where = Place(site, parent)
    if parent == page.parent:
        siblings = Page.objects.filter(site=site, parent=parent, position__lt=page.position)
        above = siblings.order_by("position", "pk").last()
        where = Place(site, parent, above, first=above is None)
    slug = free_slug(where, page.slug)
    position = make_room(where, 1)
    path = page_path(parent.path if parent else None, slug)
    came = Page.every.filter(binned_with=page)
    came.update(site=site)
    Page.every.filter(pk=page.pk).update(parent=parent, position=position, slug=slug, path=path)
    _give_addresses(page)
    numbers = list(came.exclude(was_live=None).values_list("pk", flat=True)) if live else []
    back = {"was_live": None, "was_live_since": None, "was_live_by": None}
    for start in range(0, len(numbers), AT_ONCE):
        _live_again(numbers[start : start + AT_ONCE])
    came.update(binned_at=None, binned_by=None, **back)
    Page.every.filter(binned_with=page).update(binned_with=None)
    page.refresh_from_db()
    lead_no_more(page)
    forget_answers(in_branch(page))
    freshness.tell(Change.Sort.WRITTEN, numbers)
    freshness.tell(Change.Sort.AROUND, [page.pk])


def _give_addresses(page: Page) -> None:
    """Give all that came into the bin with a page their addresses under it again, level by level."""
    with connection.cursor() as cursor:
        while True:
            cursor.execute(
                f"UPDATE {_PAGE} c JOIN {_PAGE} p ON p.id = c.parent_id SET c.path = CONCAT(p.path, '/', c.slug) "  # noqa: S608
                "WHERE c.binned_with_id = %s AND c.path LIKE 'bin:%%' AND p.path LIKE '/%%'",
                [page.pk],
            )
            if not cursor.rowcount:
                return


def _live_again(numbers: list[int]) -> None:
    """Give readers again what they had of these pages; it is rendered by whoever comes first."""
    places = ", ".join(["%s"] * len(numbers))
    called = "COALESCE(JSON_VALUE(v.document, '$.attrs.label'), v.title)"
    first = f"(SELECT MIN(f.at) FROM {_VERSION} f WHERE f.written_id = p.id AND f.reason = %s)"  # noqa: S608
    address = f"IF(p.elsewhere = '', CONCAT((SELECT s.host FROM {_SITE} s WHERE s.id = p.site_id), p.path), NULL)"  # noqa: S608
    with connection.cursor() as cursor:
        cursor.execute(
            f"INSERT INTO {_LIVE} (written_id, title, description, document, digest, kept_id, site_id, address, label, "  # noqa: S608
            "head, first_at, published_at, published_by_id, rendered_at, html, html_gzip, etag, policy, frame, "
            "text_from, text_to) "
            f"SELECT p.id, v.title, v.description, v.document, v.digest, v.id, IF(p.elsewhere = '', p.site_id, NULL), "
            f"{address}, {called}, '{{}}', {first}, p.was_live_since, p.was_live_by_id, p.was_live_since, '', '', '', "
            f"'', 0, 0, 0 FROM {_PAGE} p JOIN {_VERSION} v ON v.id = p.was_live_id WHERE p.id IN ({places})",
            [Version.Reason.PUBLISHED, *numbers],
        )


@transaction.atomic
def remove(pages: Sequence[Page], person: Person) -> int:
    """Remove pages that are in the bin for good, with all that came there with them. There is no way back: whoever asks
    for an address that one had is told that it is gone. Returns how many there were.

    Raises:
        PageError: when one is not in the bin by itself.
    """
    titles: list[str] = []
    numbers: list[int] = []
    for page in pages:
        if page.binned_at is None or page.binned_with_id != page.pk:
            raise PageError("This page is not in the bin, or came there with one above it.")
        numbers += Page.every.filter(binned_with=page).values_list("pk", flat=True)
        titles.append(page.working_copy.title)
    for start in range(0, len(numbers), AT_ONCE):
        some = numbers[start : start + AT_ONCE]
        leads = Redirect.objects.filter(page__in=some)
        hosts = [host + path for host, path in leads.values_list("site__host", "path")]
        leads.update(page=None, why=Redirect.Why.GONE)
        page_memory.changed(hosts)
        Page.every.filter(parent__in=some).update(parent=None)
    for start in range(0, len(numbers), AT_ONCE):
        Written.objects.filter(pk__in=numbers[start : start + AT_ONCE]).delete()
    if numbers:
        many = "1 page" if len(numbers) == 1 else f"{len(numbers)} pages"
        sentence = f"{person.shown_name} removed {many} for good."
        note("removed for good", sentence, person=person, site=pages[0].site, titles=titles[:200])
    return len(numbers)

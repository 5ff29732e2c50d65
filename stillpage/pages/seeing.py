"""For whom a number is resolved.

Documents name pages and items by number, and anybody can write any number. So whoever turns numbers into titles,
addresses or states says for whom, and nobody learns of what they may not see: for them there is no such thing.
"""

from __future__ import annotations

from dataclasses import dataclass

from django.contrib.auth.models import AnonymousUser
from django.db.models import Q, QuerySet

from stillpage.library import folders
from stillpage.library.models import Item
from stillpage.people.models import Person
from stillpage.rights import Right, closed_folders, sites_of

from .models import Page


@dataclass(frozen=True)
class Sight:
    """What somebody may see: the pages of some ``sites`` (None: of all), and the items of all folders but some."""

    sites: frozenset[int] | None
    hidden_folders: frozenset[int]

    def items(self, rows: QuerySet[Item]) -> QuerySet[Item]:
        """Those of the items that may be seen."""
        if not self.hidden_folders:
            return rows
        return rows.filter(Q(folder=None) | ~Q(folder__in=self.hidden_folders))

    def pages(self, rows: QuerySet[Page]) -> QuerySet[Page]:
        """Those of the pages that may be seen: of one's sites, and, as everybody can, the live ones of others."""
        if self.sites is None:
            return rows
        return rows.filter(Q(site__in=self.sites) | Q(live_copy__isnull=False))

    def knows(self, page: Page) -> bool:
        """Whether a page may be seen as those see it who work on it, its working copy among them."""
        return self.sites is None or page.site_id in self.sites


ALL = Sight(None, frozenset())
"""For what is made from everything: the live pages, as the server itself renders them."""


def sight_of(person: Person | AnonymousUser) -> Sight:
    """What a person may see."""
    sites = sites_of(person, Right.SEE_CONTENTS)
    hidden = closed_folders(person, folders.Tree())
    return Sight(None if sites is None else frozenset(sites), frozenset(hidden))

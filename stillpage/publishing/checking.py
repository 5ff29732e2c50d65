"""The page check with all that is known of a page and its site, and what somebody has said is right as it is."""

from __future__ import annotations

from dataclasses import dataclass, replace

from django.conf import settings
from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from stillpage.computing import computing
from stillpage.pages.models import Page, page_of
from stillpage.pages.seeing import Sight, sight_of
from stillpage.people.models import Person
from stillpage.sites.models import Site
from stillpage.sites.themes import theme_of
from stillpage.written.models import Allowance, WorkingCopy, Written
from stillpage.written.saving import Draft
from stillpage_core.checking import RULES, SEVERITIES, Around, Chosen, Finding, Subject, check_page
from stillpage_core.document import Node
from stillpage_core.errors import CoreError
from stillpage_core.measuring import Measure, measure
from stillpage_core.resolving import Resolver

from .rendering import frame_weight
from .resolving import resolver_for

LONGEST_REASON = 500


class NotAllowable(CoreError):
    """A finding cannot be said to be right as it is; the sentence says why."""


@dataclass(frozen=True)
class Checked:
    """What was found and measured."""

    findings: list[Finding]
    measure: Measure


def chosen(site: Site | None) -> Chosen:
    """What a site has chosen in place of the checks' own severities. What no check is called any more is left aside."""
    return {check: severity for check, severity in (site.severities if site else {}).items() if check in RULES}


def check_text(document: Node, site: Site | None = None, *, sight: Sight) -> Checked:
    """Check a document by itself, as it might stand on a page of ``site``."""
    resolver = resolver_for([document], site=site, sight=sight)
    with computing():
        measured = measure(document, resolver, site.language if site else "en")
        around = replace(_around_site(site), readability=measured.score)
        return Checked(check_page(Subject(document, resolver, around), chosen(site)), measured)


def check_draft(written: Written, draft: Draft, *, sight: Sight) -> Checked:
    """Check something that is written as it would be with this text; of a page also what stands around it. What
    ``sight`` leaves out is found to be missing."""
    page = page_of(written)
    if page is None:
        return check_text(draft.document, sight=sight)
    if page.elsewhere:
        return Checked([], measure(draft.document, resolver_for([], sight=sight), page.site.language))
    site = page.site
    resolver = resolver_for([draft.document], site=site, sight=sight)
    titles, descriptions = _elsewhere(page, draft)
    with computing():
        return _checked(page, draft, resolver, titles, descriptions)


def _checked(
    page: Page, draft: Draft, resolver: Resolver, titles: dict[str, str], descriptions: dict[str, str]
) -> Checked:
    site = page.site
    measured = measure(draft.document, resolver, site.language, theme_of(site.theme).rooms)
    around = Around(
        title=draft.title,
        description=draft.description,
        path=page.path,
        site=site.name,
        titles=titles,
        descriptions=descriptions,
        language=site.language,
        theme=theme_of(site.theme),
        weight=measured.weight + frame_weight(),
        budget=site.page_budget * 1000,
        hardest_grade=site.hardest_grade,
        readability=measured.score,
        film_limit=settings.PAGE_FILM_LIMIT,
        copied_title=page.copied_title,
    )
    return Checked(check_page(Subject(draft.document, resolver, around), chosen(site)), measured)


def _around_site(site: Site | None) -> Around:
    if site is None:
        return Around()
    return Around(language=site.language, theme=theme_of(site.theme), hardest_grade=site.hardest_grade)


def _elsewhere(page: Page, draft: Draft) -> tuple[dict[str, str], dict[str, str]]:
    """The titles and descriptions of the site's other pages that are this page's too, with a page that has each."""
    same = Q(title=draft.title.strip())
    if draft.description.strip():
        same |= Q(description=draft.description.strip())
    others = WorkingCopy.objects.filter(same, written__page__site=page.site).exclude(written=page)
    titles: dict[str, str] = {}
    descriptions: dict[str, str] = {}
    for title, description, path in others.values_list("title", "description", "written__page__path")[:50]:
        titles.setdefault(title.casefold(), path)
        descriptions.setdefault(description.casefold(), path)
    return titles, descriptions


def allowances_of(written: Written) -> dict[str, Allowance]:
    """What is held to be right in something, by the finding's key."""
    return {each.key: each for each in written.allowances.select_related("by")}


@transaction.atomic
def allow(written: Written, person: Person, draft: Draft, key: str, reason: str) -> Allowance:
    """Say that a finding of this text is right as it is.

    Raises:
        NotAllowable: when there is no such finding, it blocks publishing, or no reason is given.
    """
    words = " ".join(reason.split())
    if not words or len(words) > LONGEST_REASON:
        raise NotAllowable(f"Say in at most {LONGEST_REASON} characters why it is right as it is.")
    finding = next(
        (each for each in check_draft(written, draft, sight=sight_of(person)).findings if each.key == key), None
    )
    if finding is None:
        raise NotAllowable("The page check finds this no longer. There is nothing to be said.")
    if finding.severity == "blocks":
        raise NotAllowable("This keeps the page from being published, so it has to be mended.")
    made, _ = Allowance.objects.update_or_create(
        written=written,
        key=key,
        defaults={
            "check_id": finding.check,
            "sentence": finding.sentence[:500],
            "reason": words,
            "at": timezone.now(),
            "by": person,
        },
    )
    return made


def set_checks(site: Site, severities: dict[str, str | None], page_budget: int, hardest_grade: int) -> None:
    """Choose severities for the checks of a site. What a check has by itself is not kept.

    Raises:
        CoreError: when there is no such check or severity, or a number is out of bounds.
    """
    for check, severity in severities.items():
        if check not in RULES:
            raise CoreError(f"There is no check “{check[:60]}”.")
        if severity is not None and severity not in SEVERITIES:
            raise CoreError(f"There is no severity “{severity[:20]}”.")
    if not 50 <= page_budget <= 100_000:
        raise CoreError("A page may weigh from 50 to 100,000 kB.")
    if not 4 <= hardest_grade <= 30:
        raise CoreError("A text may ask for 4 to 30 years at school.")
    site.severities = {check: each for check, each in severities.items() if each != RULES[check].severity}
    site.page_budget, site.hardest_grade = page_budget, hardest_grade
    site.save(update_fields=["severities", "page_budget", "hardest_grade"])

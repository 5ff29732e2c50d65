"""Random sequences of what is done to a tree: addresses are unique and follow the tree, every address that was live
leads somewhere sensible in one step, and undo gives back the state before."""

from django.db import transaction
from hypothesis import HealthCheck, Phase, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule, run_state_machine_as_test

from stillpage.arranging import binning, copying, placing
from stillpage.arranging.undoing import undo
from stillpage.pages.models import Page, Redirect
from stillpage.pages.tree import PageError, Place, add_page
from stillpage.publishing.leading_on import led_on
from stillpage.publishing.models import LiveCopy
from stillpage.publishing.publish import publish, withdraw

from .base import ApiTest, a_site

PLACES = st.integers(0, 30)
TITLES = st.sampled_from(("Walks", "Boats", "Locks", "Über Wasser", "A" * 70))


class Tree(RuleBasedStateMachine):
    """``site`` and ``person`` are set by the test."""

    def __init__(self):
        super().__init__()
        self.atomic = transaction.atomic()
        self.atomic.__enter__()
        self.ever: dict[tuple[str, str], int] = {}
        self.gone: set[int] = set()
        self.other = a_site("Varrow Lock Museum", "museum.localhost")

    def teardown(self):
        transaction.set_rollback(True)
        self.atomic.__exit__(None, None, None)

    def pages(self, *, home=False):
        rows = Page.objects.filter(site__in=(self.site, self.other)).select_related("site", "parent").order_by("pk")
        return [page for page in rows if home or page.path != "/"]

    def one(self, number, **options):
        pages = self.pages(**options)
        return pages[number % len(pages)] if pages else None

    def state(self):
        """Everything about the tree that somebody could see."""
        rows = Page.every.select_related("parent").order_by("position", "pk")
        order: dict[object, list[int]] = {}
        for page in rows:
            if page.binned_at is None:
                order.setdefault((page.site_id, page.parent_id), []).append(page.pk)
        facts = {
            page.pk: (page.site_id, page.parent_id, page.path, page.in_navigation, page.hidden, page.binned_at is None)
            for page in rows
        }
        return (
            {key: each for key, each in order.items() if each},
            facts,
            set(LiveCopy.objects.values_list("pk", "address")),
        )

    def act(self, do):
        """Do something; half of the time by way of doing it, undoing it, and doing it again."""
        before = self.state()
        try:
            with transaction.atomic():
                done = do()
        except PageError:
            assert self.state() == before, "what could not be done has changed something"
            return
        if done is not None and done.sort not in ("added",):
            undo(done, self.person, live=True)
            assert self.state() == before, f"undo of “{done.sentence}” does not give back the state before"
            with transaction.atomic():
                do()

    @rule(title=TITLES, under=PLACES)
    def add(self, title, under):
        parent = self.one(under, home=True)
        add_page(parent.site, self.person, title, parent=None if parent.path == "/" else parent)

    @rule(which=PLACES, to=PLACES, how=st.sampled_from(("under", "after", "before", "top", "elsewhere")))
    def place(self, which, to, how):
        page, target = self.one(which, home=True), self.one(to)
        if target is None:
            return

        def do():
            moved = Page.objects.select_related("site", "parent").get(pk=page.pk)
            beside = Page.objects.select_related("site", "parent").get(pk=target.pk)
            where = {
                "under": lambda: Place(beside.site, beside),
                "after": lambda: Place.beside(beside),
                "before": lambda: Place.beside(beside, before=True),
                "top": lambda: Place(beside.site),
                "elsewhere": lambda: Place(self.other),
            }[how]()
            return placing.place([moved], self.person, where)

        self.act(do)

    @rule(first=PLACES, second=PLACES, to=PLACES)
    def place_two(self, first, second, to):
        pages = {page.pk: page for page in (self.one(first), self.one(second)) if page}
        target = self.one(to)
        if target is None:
            return
        self.act(
            lambda: placing.place(
                list(Page.objects.select_related("site", "parent").filter(pk__in=pages)),
                self.person,
                Place.beside(Page.objects.select_related("site", "parent").get(pk=target.pk)),
            )
        )

    @rule(which=PLACES, slug=st.sampled_from(("one", "two", "three", "über")))
    def rename(self, which, slug):
        if page := self.one(which):
            self.act(lambda: placing.set_slug(Page.objects.get(pk=page.pk), self.person, slug))

    @rule(which=PLACES, in_navigation=st.booleans(), hidden=st.booleans())
    def show(self, which, in_navigation, hidden):
        if page := self.one(which):
            self.act(
                lambda: placing.show(
                    [Page.objects.get(pk=page.pk)], self.person, in_navigation=in_navigation, hidden=hidden
                )
            )

    @rule(which=PLACES, deep=st.booleans(), title=TITLES)
    def duplicate(self, which, deep, title):
        if (page := self.one(which)) and len(self.pages()) < 12:
            copying.duplicate(Page.objects.get(pk=page.pk), self.person, title, deep=deep)

    @rule(which=PLACES)
    def bin(self, which):
        if page := self.one(which):
            self.act(
                lambda: binning.to_bin([Page.objects.select_related("site", "parent").get(pk=page.pk)], self.person)
            )

    def binned(self, number):
        roots = [page for page in Page.every.filter(binned_at__isnull=False) if page.binned_with_id == page.pk]
        return roots[number % len(roots)] if roots else None

    @rule(which=PLACES)
    def restore(self, which):
        if page := self.binned(which):
            binning.restore([page], self.person, live=True)

    @rule(which=PLACES)
    def remove(self, which):
        if page := self.binned(which):
            self.gone |= set(Page.every.filter(binned_with=page).values_list("pk", flat=True))
            binning.remove([page], self.person)

    @rule(which=PLACES)
    def publish(self, which):
        page = self.one(which, home=True)
        publish(page, self.person, page.working_copy.revision)

    @rule(which=PLACES)
    def unpublish(self, which):
        withdraw(self.one(which, home=True))

    @invariant()
    def addresses_follow_the_tree(self):
        seen = set()
        for page in Page.every.select_related("parent", "site"):
            if page.binned_at is not None:
                assert page.path == f"bin:{page.pk}", page.path
                continue
            above = page.parent.path.rstrip("/") if page.parent else ""
            assert page.path == f"{above}/{page.slug}", (page.path, page.parent)
            assert page.parent is None or (page.parent.binned_at is None and page.parent.site_id == page.site_id)
            assert (page.site_id, page.path) not in seen
            seen.add((page.site_id, page.path))
        places = list(Page.objects.values_list("site", "parent", "position"))
        assert len(places) == len(set(places)), "two pages have one place"

    @invariant()
    def live_copies_are_where_their_pages_are(self):
        for live in LiveCopy.objects.select_related("written__page__site"):
            page = live.written.page
            assert page.binned_at is None
            assert (live.address, live.site_id) == (page.site.host + page.path, page.site_id), live.address
            self.ever[page.site.host, page.path] = page.pk

    @invariant()
    def every_address_that_was_ever_live_leads_somewhere_in_one_step(self):
        for (host, path), number in self.ever.items():
            if LiveCopy.objects.filter(address=host + path).exists():
                continue
            led = led_on(host, path)
            page = Page.objects.filter(pk=number).select_related("site").first()
            if number in self.gone:
                assert led is not None and led.to == "", (path, led)
            elif page is None or not LiveCopy.objects.filter(pk=number).exists():
                assert led is None, (path, led)
            else:
                origin = "" if page.site.host == host else page.site.origin
                assert led is not None and led.to == origin + page.path, (path, led, page.path)

    @invariant()
    def nothing_leads_to_itself(self):
        for each in Redirect.objects.filter(page__isnull=False).select_related("page"):
            page = each.page
            assert page.binned_at is not None or (page.site_id, page.path) != (each.site_id, each.path), each.path


class AtRandom(ApiTest):
    def test_whatever_is_done_in_whatever_order(self):
        tree = type("OfTest", (Tree,), {"site": self.site, "person": self.author, "TestCase": None})
        run_state_machine_as_test(
            tree,
            settings=settings(
                max_examples=40,
                stateful_step_count=18,
                deadline=None,
                # To find the shortest sequence takes minutes; the one that fails is told in any case.
                phases=(Phase.explicit, Phase.generate),
                suppress_health_check=list(HealthCheck),
            ),
        )

"""Pages, their working copies, and texts that are kept."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

from django.conf import settings
from django.db import models

from stillpage.library.models import Item
from stillpage.outside.models import Address
from stillpage.sites.models import Site
from stillpage_core.document import Node, document_from_json
from stillpage_core.document.digest import digest_of
from stillpage_core.document.upgrades import NewerFormat, upgraded

EXACT = "utf8mb4_bin"
"""The collation of addresses: two that differ in any character are two."""


class Page(models.Model):
    """A page's place: its site, its parent, its position among its siblings and its address.

    ``path`` is kept beside ``slug`` so that a page is found by its address in one step; `tree` keeps them in accord.
    The site's first page has an empty slug and the path "/".
    """

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="pages")
    parent = models.ForeignKey("self", on_delete=models.PROTECT, null=True, blank=True, related_name="children")
    position = models.PositiveIntegerField()
    slug = models.CharField(max_length=80, blank=True, db_collation=EXACT)
    path = models.CharField(max_length=500, db_collation=EXACT)
    in_navigation = models.BooleanField(default=True)

    class Meta:
        ordering = ["position", "id"]
        constraints = [models.UniqueConstraint(fields=["site", "path"], name="one_page_an_address")]

    def __str__(self) -> str:
        return f"{self.site.host}{self.path}"


class DocumentField(models.JSONField):
    """A document as JSON: whatever version of the format a row is of, it is of the present one when it is read. One of
    a newer program comes as it is; reading it (`Text.tree`) tells so."""

    def from_db_value(self, value: Any, *args: Any) -> Any:
        document = super().from_db_value(value, *args)
        try:
            return upgraded(document) if isinstance(document, dict) else document
        except NewerFormat:
            return document


class Text(models.Model):
    """What is written of a page: title, description and document. ``digest`` tells whether two texts say the same
    without loading either (`stillpage_core.document.digest`)."""

    title = models.CharField(max_length=200)
    description = models.CharField(max_length=500, blank=True)
    document = DocumentField()
    digest = models.CharField(max_length=40, blank=True)

    class Meta:
        abstract = True

    @property
    def tree(self) -> Node:
        """The document, read and checked."""
        return document_from_json(self.document)

    def save(self, *args: Any, **named: Any) -> None:
        self.digest = digest_of(self.title, self.description, self.document)
        super().save(*args, **named)

    def same_text(self, other: Text) -> bool:
        """Whether both say the same; a document kept before the format knew an attribute equals one that has its
        default. Of a text that is kept nothing but its digest is looked at."""
        return self._digest == other._digest

    @property
    def _digest(self) -> str:
        return self.digest or digest_of(self.title, self.description, self.document)


LIGHT = ("working_copy__document", "live_copy__document", "live_copy__html", "live_copy__html_gzip")
"""What need not be loaded of a page to tell its title and its state."""


class WorkingCopy(Text):
    """The page as it is being written. ``revision`` counts the texts; a save names the one it began from."""

    page = models.OneToOneField(Page, on_delete=models.CASCADE, primary_key=True, related_name="working_copy")
    revision = models.PositiveIntegerField(default=1)
    saved_at = models.DateTimeField()
    saved_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")

    class Meta:
        indexes = [
            models.Index(fields=["title"], name="copy_title"),
            models.Index(fields=["description"], name="copy_description"),
        ]


class Save(models.Model):
    """A save of a page that was done. ``mark`` is what its sender knows it by: asked for again, it is done already."""

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="saves")
    mark = models.UUIDField(default=uuid4)
    revision = models.PositiveIntegerField()
    at = models.DateTimeField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["page", "mark"], name="one_save_a_mark")]
        indexes = [
            models.Index(fields=["page", "revision"], name="save_revision"),
            models.Index(fields=["at"], name="save_at"),
        ]


class Clash(models.Model):
    """A place of the working copy that two people changed, each in their way, and nobody has chosen yet.

    ``theirs`` was saved first, ``mine`` after it: each a list of blocks, or the words of the title or description. Of
    "words" both stand in the text; of "gone" the one side has no blocks; of all others theirs stands alone
    (`stillpage_core.comparing.Clash`).
    """

    class Sort(models.TextChoices):
        WORDS = "words"
        GONE = "gone"
        ATTRIBUTES = "attributes"
        TITLE = "title"
        DESCRIPTION = "description"

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="clashes")
    sort = models.CharField(max_length=20, choices=Sort.choices)
    theirs = models.JSONField()
    mine = models.JSONField()
    theirs_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    mine_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        ordering = ["id"]

    @property
    def standing_sides(self) -> list[str]:
        """Which of the two sides have a block in the text."""
        if self.sort in (self.Sort.TITLE, self.Sort.DESCRIPTION):
            return []
        sides = ("theirs",) if self.sort == self.Sort.ATTRIBUTES else ("theirs", "mine")
        return [side for side in sides if getattr(self, side)]


class Writing(models.Model):
    """Somebody has a page open to write on it, in a window. ``block`` is where: the index of the block of the text
    that their caret is in; it was so ``at`` a moment ago."""

    window = models.UUIDField(primary_key=True)
    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="writings")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    block = models.PositiveIntegerField(null=True)
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["page", "at"], name="writing_at")]


class Use(models.Model):
    """What a text of a page names, one row for each: an item of the library that it shows or links to, a page that it
    links to (``target``), or an outside address. ``live`` says in which of its texts: what is named by the live one is
    what the live copy is made from."""

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="uses")
    live = models.BooleanField()
    item = models.ForeignKey(Item, on_delete=models.CASCADE, null=True, related_name="uses")
    target = models.ForeignKey(Page, on_delete=models.CASCADE, null=True, related_name="linked_from")
    address = models.ForeignKey(Address, on_delete=models.CASCADE, null=True, related_name="uses")
    framings = models.JSONField(
        default=list, help_text="What is made of a picture here: sets of `media.editing.EDITS`."
    )

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["page", "item", "live"], name="one_use_a_text"),
            models.UniqueConstraint(fields=["page", "target", "live"], name="one_target_a_text"),
            models.UniqueConstraint(fields=["page", "address", "live"], name="one_address_a_text"),
        ]


class Allowance(models.Model):
    """A finding of the page check that somebody holds to be right as it is, with the reason. ``key`` is what the
    finding is known by (`checking.Finding.key`); ``sentence`` what it said then."""

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="allowances")
    check_id = models.CharField(max_length=60)
    key = models.CharField(max_length=40)
    sentence = models.CharField(max_length=500)
    reason = models.CharField(max_length=500)
    at = models.DateTimeField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["page", "key"], name="one_allowance_a_finding")]


class Version(Text):
    """A version: a text of a page that is kept for good, because somebody wished it so (then ``note`` is its name),
    because it was published, or because a newer one took its place."""

    class Reason(models.TextChoices):
        PUBLISHED = "published", "Published"
        SET_ASIDE = "set aside", "Kept because somebody else had changed the same words"
        NAMED = "named", "Kept by name"

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="versions")
    reason = models.CharField(max_length=20, choices=Reason.choices)
    note = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")

    class Meta:
        ordering = ["-at", "-id"]

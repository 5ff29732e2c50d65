"""What is written: its working copy, the versions that are kept of it, what its texts name, who writes on it, and what
is held to be right in it. A page is one sort of it (`stillpage.pages`); where a thing stands and how it is found is its
sort's own."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

from django.conf import settings
from django.db import models

from stillpage.library.models import Item
from stillpage.outside.models import Address
from stillpage_core.document import Node, document_from_json
from stillpage_core.document.digest import digest_of
from stillpage_core.document.upgrades import NewerFormat, upgraded


class Written(models.Model):
    """Something that is written. A sort of it is a model that inherits from this one, and shares its number."""


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
    """A text: title, description and document. ``digest`` tells whether two texts say the same
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


class WorkingCopy(Text):
    """A text as it is being written. ``revision`` counts the texts; a save names the one it began from."""

    written = models.OneToOneField(Written, on_delete=models.CASCADE, primary_key=True, related_name="working_copy")
    revision = models.PositiveIntegerField(default=1)
    saved_at = models.DateTimeField()
    saved_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")

    class Meta:
        indexes = [
            models.Index(fields=["title"], name="copy_title"),
            models.Index(fields=["description"], name="copy_description"),
        ]


class Said(models.Model):
    """The words by which something written is found, as they are compared (`search.words_in`): those of its working
    copy, and of its live copy, None where there is none. Each has a full-text index."""

    written = models.OneToOneField(Written, on_delete=models.CASCADE, primary_key=True, related_name="said")
    working = models.TextField(blank=True, db_collation="utf8mb4_bin")
    live = models.TextField(null=True, db_collation="utf8mb4_bin")


class Save(models.Model):
    """A save that was done. ``mark`` is what its sender knows it by: asked for again, it is done already."""

    written = models.ForeignKey(Written, on_delete=models.CASCADE, related_name="saves")
    mark = models.UUIDField(default=uuid4)
    revision = models.PositiveIntegerField()
    at = models.DateTimeField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["written", "mark"], name="one_save_a_mark")]
        indexes = [
            models.Index(fields=["written", "revision"], name="save_revision"),
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

    written = models.ForeignKey(Written, on_delete=models.CASCADE, related_name="clashes")
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
    """Somebody has something open to write on it, in a window. ``block`` is where: the index of the block of the text
    that their caret is in; it was so ``at`` a moment ago."""

    window = models.UUIDField(primary_key=True)
    written = models.ForeignKey(Written, on_delete=models.CASCADE, related_name="writings")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    block = models.PositiveIntegerField(null=True)
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["written", "at"], name="writing_at")]


class Use(models.Model):
    """What a text names, one row for each: an item of the library that it shows or links to, something else that is
    written, as a page that it links to (``target``), or an outside address. ``live`` says in which of the two texts:
    what is named by the live one is what the live copy is made from."""

    written = models.ForeignKey(Written, on_delete=models.CASCADE, related_name="uses")
    live = models.BooleanField()
    item = models.ForeignKey(Item, on_delete=models.CASCADE, null=True, related_name="uses")
    target = models.ForeignKey(Written, on_delete=models.CASCADE, null=True, related_name="linked_from")
    address = models.ForeignKey(Address, on_delete=models.CASCADE, null=True, related_name="uses")
    framings = models.JSONField(
        default=list, help_text="What is made of a picture here: sets of `media.editing.EDITS`."
    )

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["written", "item", "live"], name="one_use_a_text"),
            models.UniqueConstraint(fields=["written", "target", "live"], name="one_target_a_text"),
            models.UniqueConstraint(fields=["written", "address", "live"], name="one_address_a_text"),
        ]


class Allowance(models.Model):
    """A finding of the page check that somebody holds to be right as it is, with the reason. ``key`` is what the
    finding is known by (`checking.Finding.key`); ``sentence`` what it said then."""

    written = models.ForeignKey(Written, on_delete=models.CASCADE, related_name="allowances")
    check_id = models.CharField(max_length=60)
    key = models.CharField(max_length=40)
    sentence = models.CharField(max_length=500)
    reason = models.CharField(max_length=500)
    at = models.DateTimeField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["written", "key"], name="one_allowance_a_finding")]


class Version(Text):
    """A version: a text that is kept for good, because somebody wished it so (then ``note`` is its name),
    because it was published, or because a newer one took its place."""

    class Reason(models.TextChoices):
        PUBLISHED = "published", "Published"
        SET_ASIDE = "set aside", "Kept because somebody else had changed the same words"
        NAMED = "named", "Kept by name"

    written = models.ForeignKey(Written, on_delete=models.CASCADE, related_name="versions")
    reason = models.CharField(max_length=20, choices=Reason.choices)
    note = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")

    class Meta:
        ordering = ["-at", "-id"]

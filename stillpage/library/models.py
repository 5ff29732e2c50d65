"""Items of the media library, their files, the folders they stand in, and what was done to them."""

from __future__ import annotations

import uuid
from typing import Any

from django.conf import settings
from django.db import models
from django.utils import timezone

from stillpage.sites.models import Site


class Folder(models.Model):
    """A place in the library. Without ``sites`` it is as open as the folder above it; with some, what it holds may be
    used on those only."""

    name = models.CharField(max_length=120)
    parent = models.ForeignKey("self", on_delete=models.PROTECT, null=True, blank=True, related_name="folders")
    sites = models.ManyToManyField(Site, blank=True, related_name="+")

    class Meta:
        ordering = ["name", "id"]
        constraints = [models.UniqueConstraint(fields=["parent", "name"], name="one_folder_a_name")]

    def __str__(self) -> str:
        return self.name


class Tag(models.Model):
    """A word by which items are found together."""

    name = models.CharField(max_length=60, unique=True)

    class Meta:
        ordering = ["name"]

    def __str__(self) -> str:
        return self.name


class Item(models.Model):
    """One thing of the library.

    ``alt`` is what stands for a picture where it cannot be seen, ``decorative`` says that nothing need stand for it;
    ``description`` is for who looks for it here; ``credit`` says whose it is, ``licence`` under what terms it may be
    shown. ``edits`` is what is made of a picture wherever a page says nothing else (`media.editing.EDITS`).

    ``version`` is that of the file shown now, ``shown_since`` when it took the place of another; what lists show of it
    stands here too, so that they need no files.
    ``used_on`` counts the pages that use it. ``wanted`` counts what has been asked of the background work that makes
    its files, ``made`` what of it was done.
    """

    class Kind(models.TextChoices):
        PICTURE = "picture", "Picture"
        DOCUMENT = "document", "Document"
        FILM = "film", "Film"
        SOUND = "sound", "Sound"
        HOSTED = "hosted", "Film elsewhere"
        ANIMATION = "animation", "Animation"
        POST = "post", "Post"

    class Nature(models.TextChoices):
        PHOTOGRAPH = "photograph", "Photograph"
        DRAWING = "drawing", "Drawing"
        MOVING = "moving", "Moving picture"
        LINES = "lines", "Drawing of lines (SVG)"

    kind = models.CharField(max_length=20, choices=Kind.choices)
    nature = models.CharField(max_length=20, choices=Nature.choices, blank=True)
    title = models.CharField(max_length=200)
    alt = models.CharField(max_length=1000, blank=True)
    decorative = models.BooleanField(default=False)
    holds_words = models.BooleanField(default=False, help_text="A picture with words in it that matter.")
    moves_for = models.PositiveIntegerField(
        default=0, null=True, help_text="Of a moving picture, in milliseconds; null when it never ends."
    )
    wordless = models.BooleanField(default=False, help_text="A picture that lacks an alt text; kept by `save`.")
    captioned = models.BooleanField(
        default=False, help_text="Of a film elsewhere: somebody has seen there that it has captions."
    )
    description = models.CharField(max_length=2000, blank=True)
    credit = models.CharField(max_length=200, blank=True)
    licence = models.CharField(max_length=200, blank=True)
    language = models.CharField(max_length=35, blank=True, help_text="BCP 47.")
    folder = models.ForeignKey(Folder, on_delete=models.PROTECT, null=True, blank=True, related_name="items")
    tags = models.ManyToManyField(Tag, blank=True, related_name="items")
    restricted = models.BooleanField(default=False, help_text="For signed-in readers only.")
    leads_on = models.BooleanField(
        default=True,
        help_text="Whether the addresses of files that were replaced lead to the present one, or are gone.",
    )
    edits = models.JSONField(null=True, blank=True)
    version = models.PositiveIntegerField(default=1)
    shown_since = models.DateTimeField(null=True, blank=True)
    size = models.PositiveBigIntegerField(default=0, help_text="Of the original, in bytes.")
    width = models.PositiveIntegerField(default=0)
    height = models.PositiveIntegerField(default=0)
    length = models.PositiveIntegerField(default=0, help_text="Of a document, in pages; 0 where it is not known.")
    facts: Any = models.JSONField(
        default=dict,
        help_text="What a PDF says of itself: `media.pdf.PdfFacts`, and `signs`; of an animation, its `colours`.",
    )
    lasts = models.PositiveIntegerField(default=0, help_text="Of a film or sound, in milliseconds.")
    mime = models.CharField(max_length=100, blank=True, help_text="Of the original.")
    thumbnail = models.CharField(max_length=200, blank=True, help_text="The name of the file that shows it in lists.")
    used_on = models.PositiveIntegerField(default=0)
    wanted = models.PositiveIntegerField(default=1)
    made = models.PositiveIntegerField(default=0)
    progress = models.PositiveSmallIntegerField(default=0, help_text="Of a film that is being made ready, in percent.")
    problem = models.CharField(max_length=300, blank=True, help_text="Why its files could not be made.")
    tries = models.PositiveSmallIntegerField(default=0, help_text="How often the work on it was begun and not ended.")
    added_at = models.DateTimeField()
    added_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    binned_at = models.DateTimeField(null=True, blank=True)
    binned_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        ordering = ["-added_at", "-id"]
        indexes = [
            models.Index(fields=["binned_at", "-added_at", "-id"], name="item_newest"),
            models.Index(fields=["binned_at", "title", "id"], name="item_title"),
            models.Index(fields=["binned_at", "-size", "-id"], name="item_largest"),
            models.Index(fields=["binned_at", "kind", "-added_at", "-id"], name="item_kind"),
            models.Index(fields=["binned_at", "folder", "-added_at", "-id"], name="item_folder"),
            models.Index(fields=["binned_at", "added_by", "-added_at", "-id"], name="item_mine"),
            models.Index(fields=["binned_at", "used_on", "-added_at", "-id"], name="item_used"),
            models.Index(fields=["binned_at", "wordless", "-added_at", "-id"], name="item_wordless"),
        ]

    def __str__(self) -> str:
        return self.title

    def save(self, *args: Any, **options: Any) -> None:
        self.wordless = self.kind == self.Kind.PICTURE and not self.decorative and not self.alt
        if (fields := options.get("update_fields")) is not None and {"alt", "decorative"} & set(fields):
            options["update_fields"] = [*fields, "wordless"]
        super().save(*args, **options)


class File(models.Model):
    """A file of an item: the original as it came, or one made from it.

    ``width`` and ``height`` are 0 for a file that is no picture; ``cut`` names what part of the original it shows
    (`media.editing.Cut.key`). ``name`` is its place in the storage and holds the hash of the original's bytes, so a
    file under one name never changes.
    """

    item = models.ForeignKey(Item, on_delete=models.CASCADE, related_name="files")
    version = models.PositiveIntegerField(default=1)
    name = models.CharField(max_length=200, unique=True)
    came_as = models.CharField(max_length=255, blank=True, help_text="The name of the file that was sent.")
    mime = models.CharField(max_length=100)
    cut = models.CharField(max_length=60, blank=True)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    size = models.PositiveBigIntegerField(help_text="In bytes.")
    sha256 = models.CharField(max_length=64, db_index=True)
    original = models.BooleanField()
    made_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-original", "width", "id"]

    def __str__(self) -> str:
        return self.name


class Captions(models.Model):
    """The captions of a film or sound in one language: as they are being written, and what readers have.

    ``cues`` are lists as `captions.packed` makes them. ``drafted`` says that nobody has held them against the film
    since they were drafted; ``version`` is that of the item's file for which they were last checked. ``given`` is the
    file that readers get, ``given_cues`` what it holds; both are empty until somebody gives it to them.
    """

    class Sort(models.TextChoices):
        CAPTIONS = "captions", "Captions"
        DESCRIPTIONS = "descriptions", "Descriptions of the picture"
        CHAPTERS = "chapters", "Chapters"

    item = models.ForeignKey(Item, on_delete=models.CASCADE, related_name="captions")
    sort = models.CharField(max_length=20, choices=Sort.choices, default=Sort.CAPTIONS)
    language = models.CharField(max_length=35, help_text="BCP 47.")
    cues: Any = models.JSONField(default=list)
    drafted = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)
    revision = models.PositiveIntegerField(default=1)
    saved_at = models.DateTimeField(default=timezone.now)
    saved_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    given = models.ForeignKey(File, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    given_cues: Any = models.JSONField(default=list)
    given_at = models.DateTimeField(null=True, blank=True)
    faults: Any = models.JSONField(default=dict, help_text="What the rules find in what readers have, by rule.")
    removed_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["sort", "language", "id"]
        verbose_name_plural = "captions"

    def __str__(self) -> str:
        return f"{self.get_sort_display()} ({self.language})"


class Words(models.Model):
    """Everything an item is found by: ``said`` of it, and ``within`` a document. Both have one full-text index."""

    item = models.OneToOneField(Item, on_delete=models.CASCADE, primary_key=True, related_name="words")
    said = models.TextField(blank=True, db_collation="utf8mb4_bin")
    within = models.TextField(blank=True, db_collation="utf8mb4_bin")


class DocumentPage(models.Model):
    """The words of one page of a document that is shown on a page, a line each; of one version of its file."""

    item = models.ForeignKey(Item, on_delete=models.CASCADE, related_name="pages")
    version = models.PositiveIntegerField()
    number = models.PositiveIntegerField()
    words = models.TextField(blank=True)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["item", "version", "number"], name="one_page_a_number")]

    def __str__(self) -> str:
        return f"page {self.number}"


class Upload(models.Model):
    """A file that comes in pieces. ``received`` bytes of ``size`` are in a file of our own; whoever breaks off goes on
    from there. ``stamp`` tells two files of one name apart: when the sender's was last changed. Once it is finished,
    ``item`` is what it has become, and ``is_new`` whether that was new: whoever asks again is told the same."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=255)
    size = models.PositiveBigIntegerField()
    stamp = models.CharField(max_length=40, blank=True)
    received = models.PositiveBigIntegerField(default=0)
    folder = models.ForeignKey(Folder, on_delete=models.SET_NULL, null=True, related_name="+")
    replaces = models.ForeignKey(Item, on_delete=models.CASCADE, null=True, related_name="+")
    item = models.ForeignKey(Item, on_delete=models.CASCADE, null=True, related_name="+")
    is_new = models.BooleanField(default=True)
    begun_at = models.DateTimeField(auto_now_add=True)
    touched_at = models.DateTimeField(auto_now=True)


class Act(models.Model):
    """Something that was done to items or folders, with what was there before, so that it can be undone.

    ``before`` and ``after`` are lists of ``[model, key, {field: value}]``; for a row that was made, before is null.
    """

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    sentence = models.CharField(max_length=300)
    before: Any = models.JSONField()
    after: Any = models.JSONField()
    undone = models.BooleanField(default=False)

    class Meta:
        ordering = ["-at", "-id"]

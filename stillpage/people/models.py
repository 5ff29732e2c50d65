"""People and their roles."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import AbstractUser
from django.contrib.sessions.base_session import AbstractBaseSession
from django.db import models
from django.utils import timezone
from django.utils.functional import cached_property

from stillpage.sites.models import Site

from .sessions import SessionStore


class Person(AbstractUser):
    """An account. Sign-in is by user name; the name shown is the full name."""

    choices: Any = models.JSONField(
        default=dict, blank=True, help_text="How they like the interface; see the API's `Choices`."
    )

    @property
    def shown_name(self) -> str:
        return self.get_full_name() or self.username

    @cached_property
    def known_grants(self) -> list[RoleGrant]:
        """The roles as they were when this was first asked of the object."""
        return list(self.grants.all())


class Role(models.TextChoices):
    """What a person is to a site. `rights` says what each may do."""

    READER = "reader", "Reader"
    AUTHOR = "author", "Author"
    APPROVER = "approver", "Approver"
    KEEPER = "keeper", "Library keeper"
    DESIGNER = "designer", "Site designer"
    ADMINISTRATOR = "administrator", "Administrator"


class RoleGrant(models.Model):
    """A role of a person, for one site or (``site`` empty) for all of them."""

    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="grants")
    role = models.CharField(max_length=20, choices=Role.choices)
    site = models.ForeignKey(Site, on_delete=models.CASCADE, null=True, blank=True, related_name="grants")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["person", "role", "site"], name="one_grant_a_role_and_site")]

    def __str__(self) -> str:
        return f"{self.person}: {self.role} of {self.site or 'all sites'}"


class Session(AbstractBaseSession):
    """Somebody's session, with what tells them which it is. Those without a person belong to nobody signed in."""

    person = models.ForeignKey(Person, on_delete=models.CASCADE, null=True, related_name="sessions")
    begun_at = models.DateTimeField(default=timezone.now)
    seen_at = models.DateTimeField(default=timezone.now)
    agent = models.CharField(max_length=300, blank=True, help_text="What the browser calls itself.")
    address = models.CharField(max_length=45, blank=True)

    @classmethod
    def get_session_store_class(cls) -> type[SessionStore]:
        return SessionStore


class Attempts(models.Model):
    """Sign-ins that went wrong, by what `attempts.Attempt.key` counts them by; none is looked at before ``until``."""

    key = models.CharField(max_length=40, unique=True)
    failures = models.PositiveIntegerField(default=0)
    last_at = models.DateTimeField(db_index=True)
    until = models.DateTimeField(null=True)


class Counter(models.Model):
    """How often something was done within a window of time that ends at ``ends`` (seconds since 1970); see
    `limiting`."""

    name = models.CharField(max_length=190, primary_key=True, db_collation="utf8mb4_bin")
    count = models.PositiveBigIntegerField()
    ends = models.FloatField(db_index=True)

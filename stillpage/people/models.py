"""People and their roles."""

from __future__ import annotations

from django.contrib.auth.models import AbstractUser
from django.db import models

from stillpage.sites.models import Site


class Person(AbstractUser):
    """An account. Sign-in is by user name; the name shown is the full name."""

    @property
    def shown_name(self) -> str:
        return self.get_full_name() or self.username


class Role(models.TextChoices):
    """What a person is to a site. `permissions` says what each may do."""

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

"""People as Django starts it: who is given a role, or loses one, is noted in the audit trail."""

from __future__ import annotations

from typing import Any

from django.apps import AppConfig
from django.db.models.signals import post_delete, post_save


class PeopleConfig(AppConfig):
    name = "stillpage.people"

    def ready(self) -> None:
        from stillpage.trail.noting import note  # noqa: PLC0415 - models are there only now

        from .models import RoleGrant  # noqa: PLC0415

        def told(grant: RoleGrant, act: str, said: str) -> None:
            sentence = f"{grant.person.shown_name} {said} {grant.get_role_display()} of {grant.site or 'all sites'}."
            note(act, sentence, person=grant.person, site=grant.site, role=grant.role)

        def given(sender: Any, instance: RoleGrant, created: bool, **_: Any) -> None:
            told(instance, "role given", "was made" if created else "is")

        def taken(sender: Any, instance: RoleGrant, **_: Any) -> None:
            told(instance, "role taken", "is no longer")

        post_save.connect(given, RoleGrant, weak=False)
        post_delete.connect(taken, RoleGrant, weak=False)

"""Begin an installation: name the first administrator and the first site."""

from __future__ import annotations

import getpass
import os
import sys
from typing import Any

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError
from django.db import transaction

from stillpage.operations.models import is_demo
from stillpage.people.models import Person, Role, RoleGrant
from stillpage.publishing.freshness import bring_up_not_found
from stillpage.sites.models import Site
from stillpage.trail.noting import note

_ASKED = {
    "STILLPAGE_ADMINISTRATOR": "Name of the first administrator, to sign in with: ",
    "STILLPAGE_ADMINISTRATOR_PASSWORD": "Password, of 12 characters or more: ",
    "STILLPAGE_SITE_NAME": "Name of the first site: ",
    "STILLPAGE_SITE_HOST": "Its host, as readers ask for it (www.example.org): ",
}


class Command(BaseCommand):
    help = "Ask for a first administrator and a first site, or take both from the environment, where there are none."

    def handle(self, *args: Any, **options: Any) -> None:
        if is_demo():
            raise CommandError("This database holds the demo. Begin with an empty one: ./start --fresh --empty.")
        if not RoleGrant.objects.filter(role=Role.ADMINISTRATOR, site=None).exists():
            self._administrator()
        if not Site.objects.exists():
            self._site()

    def _administrator(self) -> None:
        while True:
            name = self._answer("STILLPAGE_ADMINISTRATOR")
            person = Person.objects.filter(username=name).first() or Person(username=name)
            password = self._answer("STILLPAGE_ADMINISTRATOR_PASSWORD")
            try:
                person.set_password(password)
                person.clean_fields(exclude=["last_name", "first_name", "email"])
                validate_password(password, person)
                break
            except ValidationError as error:
                self._again(error)
        with transaction.atomic():
            person.save()
            RoleGrant.objects.get_or_create(person=person, role=Role.ADMINISTRATOR, site=None)
            note("begun", f"{name} was named the first administrator.", person=person)
        self.stdout.write(f"· {name} is the administrator")

    def _site(self) -> None:
        while True:
            site = Site(name=self._answer("STILLPAGE_SITE_NAME"), host=self._answer("STILLPAGE_SITE_HOST").lower())
            site.theme = os.environ.get("STILLPAGE_SITE_THEME", "canal")
            try:
                site.full_clean()
                break
            except ValidationError as error:
                self._again(error)
        site.save()
        bring_up_not_found(site.pk)
        self.stdout.write(f"· {site.name} is at {site.origin}/")

    def _answer(self, variable: str) -> str:
        given = os.environ.get(variable)
        if given is None and not sys.stdin.isatty():
            raise CommandError(f"Set {', '.join(_ASKED)}, or call this from a terminal: manage.py begin.")
        if given is None:
            given = getpass.getpass(_ASKED[variable]) if "PASSWORD" in variable else input(_ASKED[variable])
        return given.strip()

    def _again(self, error: ValidationError) -> None:
        sentence = " ".join(error.messages)
        if not sys.stdin.isatty() or any(name in os.environ for name in _ASKED):
            raise CommandError(sentence) from error
        self.stderr.write(sentence)

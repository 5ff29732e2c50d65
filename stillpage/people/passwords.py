"""What is asked of a password: length, and that it cannot be guessed; nothing about its signs (NIST SP 800-63B,
5.1.1.2; OWASP ASVS 4.0.3, 2.1). A list of 20,000 that have leaked comes with Django (`CommonPasswordValidator`)."""

from __future__ import annotations

from typing import Any

from django.core.exceptions import ValidationError
from zxcvbn import zxcvbn

SHIPPED = frozenset({"still-water-14"})
"""Passwords that stand in what everybody can read: those of the demo. Installations may not use them."""
LONGEST = 128
LEAST_SCORE = 3
"""Of zxcvbn, 0 to 4: from 3 on it holds ten thousand million guesses (the package's README)."""


class NotShipped:
    """Refuses the passwords that the demo is known by."""

    def validate(self, password: str, user: Any = None) -> None:
        if password.strip().casefold() in SHIPPED:
            raise ValidationError("This password stands in the demo, where everybody can read it.", code="shipped")

    def get_help_text(self) -> str:
        return "It may not be one of the demo's."


class NotTooLong:
    """Refuses what is too long to be hashed in a moment."""

    def validate(self, password: str, user: Any = None) -> None:
        if len(password) > LONGEST:
            raise ValidationError(f"A password has {LONGEST} characters at most.", code="too_long")

    def get_help_text(self) -> str:
        return f"It has {LONGEST} characters at most."


class HardToGuess:
    """Measures how many guesses a password would hold, the person's own names and the product's among what is tried."""

    def validate(self, password: str, user: Any = None) -> None:
        if len(password) > LONGEST:
            return
        own = [getattr(user, name, "") for name in ("username", "first_name", "last_name", "email")]
        found = zxcvbn(password, user_inputs=[*filter(None, own), "still", "page", "stillpage"], max_length=LONGEST)
        if found["score"] < LEAST_SCORE:
            why = (found["feedback"]["warning"] or "It is too easy to guess").rstrip(".")
            raise ValidationError(f"{why}. Several words that do not belong together are hard to guess.", code="weak")

    def get_help_text(self) -> str:
        return "It is hard to guess: several words that do not belong together are."

"""Sign-ins that went wrong, counted so that guessing is slow and nobody is locked out by somebody else.

- Wrong passwords are counted by name and address together; from the fifth on there is a pause that doubles each time.
  An attempt within a pause is not looked at and does not make it longer.
- A browser from which somebody has signed in before is counted by itself (OWASP, “Device cookies”): whoever guesses
  elsewhere, be it from behind the same address, does not touch it.
- All others together have a hundred attempts an hour at one name (OWASP ASVS 4.0.3, 2.2.1), and thirty wrong ones in
  ten minutes from one address, whatever the names.
"""

from __future__ import annotations

import hashlib
import ipaddress
import secrets
from dataclasses import dataclass
from datetime import timedelta

from django.core import signing
from django.db import transaction
from django.utils import timezone
from limits import RateLimitItem, parse

from .limiting import limiter
from .models import Attempts

FREE = 4
"""Wrong passwords before the first pause."""
FIRST, LONGEST = 30, 3600
"""The first pause and the longest, in seconds."""
FORGOTTEN = timedelta(days=1)
"""After so long without another, wrong passwords count no more."""
BY_NAME = parse("100/hour")
BY_ADDRESS = parse("30/10minutes")
DEVICE_AGE = 180 * 24 * 3600
_DEVICE = signing.TimestampSigner(salt="stillpage.device")


@dataclass(frozen=True)
class Attempt:
    """Somebody tries to sign in: under which name, from where, and with what a known browser carries."""

    name: str
    address: str
    device: str = ""

    @property
    def known(self) -> str:
        """The number of the browser, if this name has been signed in from it; else empty."""
        try:
            name, _, number = _DEVICE.unsign(self.device, max_age=DEVICE_AGE).rpartition(":")
        except signing.BadSignature:
            return ""
        return number if name == _digest(self.name) else ""

    @property
    def key(self) -> str:
        """What the attempt is counted by."""
        return _digest(f"device {self.known}" if self.known else f"{_digest(self.name)} {network(self.address)}")


def _digest(text: str) -> str:
    return hashlib.sha256(text.strip().casefold().encode()).hexdigest()[:40]


def network(address: str) -> str:
    """An address as attempts are counted by: of IPv6 the first 64 bits, since one household has all that follow."""
    try:
        found = ipaddress.ip_address(address)
    except ValueError:
        return address
    mapped = getattr(found, "ipv4_mapped", None)
    if mapped is not None:
        return str(mapped)
    return str(ipaddress.ip_network(f"{found}/64", strict=False)) if found.version == 6 else str(found)


def wait(attempt: Attempt) -> int:
    """For how many seconds no attempt like this is looked at; 0 when it is."""
    now = timezone.now()
    row = Attempts.objects.filter(key=attempt.key).first()
    left = (row.until - now).total_seconds() if row and row.until else 0
    if left <= 0 and not attempt.known:
        left = max(
            _left(BY_NAME, f"name {_digest(attempt.name)}"), _left(BY_ADDRESS, f"net {network(attempt.address)}")
        )
    return max(0, int(left + 0.999))


def _left(limit: RateLimitItem, who: str) -> float:
    if limiter.test(limit, "sign-in", who):
        return 0
    return max(1.0, limiter.get_window_stats(limit, "sign-in", who).reset_time - timezone.now().timestamp())


@transaction.atomic
def failed(attempt: Attempt) -> None:
    """Note a wrong password."""
    now = timezone.now()
    if not attempt.known:
        limiter.hit(BY_NAME, "sign-in", f"name {_digest(attempt.name)}")
        limiter.hit(BY_ADDRESS, "sign-in", f"net {network(attempt.address)}")
    row, _ = Attempts.objects.select_for_update().get_or_create(key=attempt.key, defaults={"last_at": now})
    if row.last_at < now - FORGOTTEN:
        row.failures = 0
    row.failures += 1
    row.last_at = now
    over = row.failures - FREE
    row.until = now + timedelta(seconds=min(FIRST * 2 ** min(over - 1, 20), LONGEST)) if over > 0 else None
    row.save()


def succeeded(attempt: Attempt) -> str:
    """Forget what went wrong before; returns what this browser is to carry from now on."""
    Attempts.objects.filter(key=attempt.key).delete()
    number = attempt.known or secrets.token_hex(12)
    return _DEVICE.sign(f"{_digest(attempt.name)}:{number}")


def forget_old() -> None:
    """Remove the rows that count no more."""
    Attempts.objects.filter(last_at__lt=timezone.now() - FORGOTTEN).delete()

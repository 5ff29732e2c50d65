"""How often a person, and an address, may ask for what costs much. Over it the answer is 429, and says when to ask
again."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest
from django.utils import timezone
from limits import RateLimitItem, parse
from ninja.throttling import BaseThrottle

from stillpage.people.attempts import network
from stillpage.people.limiting import limiter

LIMITS = {
    "paste": "90/minute",
    "import": "20/minute",
    "export": "30/minute",
    "upload": "1200/minute",
    "fetch": "60/minute",
    "search": "600/minute",
    "results": "120/minute",
    "compute": "600/minute",
    "blocks": "1200/minute",
}
"""For one person. From one address come ten times as many: an office may stand behind one."""
PEOPLE = 10


class Costly(BaseThrottle):
    """Counts an operation by its sort, for who asks and for where they ask from."""

    def __init__(self, sort: str) -> None:
        self.sort = sort
        self.limit: RateLimitItem = parse(LIMITS[sort])

    def allow_request(self, request: HttpRequest) -> bool:
        """Whether neither limit is reached yet; counts the request in either case."""
        if not settings.LIMITS:
            return True
        by_address = parse(f"{self.limit.amount * PEOPLE} per {self.limit.get_expiry()} seconds")
        address = network(request.META.get("REMOTE_ADDR", ""))
        person = request.user.pk if request.user.is_authenticated else address
        for limit, who in ((self.limit, f"person {person}"), (by_address, f"net {address}")):
            if not limiter.hit(limit, self.sort, who):
                ends = limiter.get_window_stats(limit, self.sort, who).reset_time
                request.META["stillpage.wait"] = max(1, round(ends - timezone.now().timestamp()))
                return False
        return True

    def wait(self) -> None:
        """How long to wait stands with the request; this object serves several at once."""
